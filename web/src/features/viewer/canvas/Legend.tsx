'use client';

import { heatColour, HEAT_MOST, legend, signOf } from '../looks.ts';
import { differenceAt } from '../useDifference.ts';
import { useCanvas } from './canvas-state.tsx';

/** What the colours and signs on the canvas mean. */
export function Legend(): React.ReactNode {
  const { view, pixels, laid } = useCanvas();
  const { look } = view;
  const ofPlainPictures = pixels && !laid;
  return (
    <div className="ov-legend" aria-label="Legend">
      {look === 'heat' && <HeatLegend />}
      {ofPlainPictures && (
        <span>
          {look === 'overlay' || look === 'only'
            ? 'White: equal in A and B. Darker or coloured: different pixels.'
            : 'Pictures are shown as they are; only their bytes were compared.'}
        </span>
      )}
      {pixels && laid && look === 'overlay' && (
        <span>
          <span className="ov-swatch" style={{ background: '#B45309' }} /> only A is dark here{' '}
          <span className="ov-swatch" style={{ background: '#0F766E' }} /> only B is
        </span>
      )}
      {!ofPlainPictures &&
        legend.map(([kind, says]) => (
          <span key={kind}>
            <span className={`ov-sign ov-${kind}`}>{signOf[kind]}</span> {says}
          </span>
        ))}
      {!pixels && look === 'overlay' && <span className="ov-quiet">faint: untouched</span>}
    </div>
  );
}

const STOPS = 24;

function HeatLegend(): React.ReactNode {
  const { view, tools } = useCanvas();
  const { difference } = view;
  const here = tools.pointer && difference ? differenceAt(difference, ...tools.pointer) : undefined;
  const stops = Array.from({ length: STOPS }, (_, k) => `rgb(${heatColour((HEAT_MOST * k) / (STOPS - 1)).join(' ')})`);
  return (
    <span className="ov-heat">
      0 <span style={{ background: `linear-gradient(90deg, ${stops.join(', ')})` }} /> {HEAT_MOST} and more (CIEDE2000)
      {here === undefined ? '' : `, here ${here.toFixed(1)}`}
    </span>
  );
}
