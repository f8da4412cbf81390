'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useCompared } from '../state/compared.tsx';
import { cardOfVersion } from '../../cards.ts';
import { usePicked, type Picked } from '../state/picked.tsx';
import { useShown } from '../state/shown.tsx';
import type { Asking } from '../../../contract/proposals.ts';
import { PickedBar, type Act } from '../PickedBar.tsx';
import { useProposing } from '../useProposing.ts';

/** What was pointed at in an older version, to be had again in the newest. */
export function PickedParts(): React.ReactNode {
  const { b, newest } = useShown();
  const { canPick, picks } = usePicked();
  if (!canPick || b.id === newest.id) return null;
  const Panel = panels[picks];
  return <Panel />;
}

type Pieces = Omit<Extract<Asking, { kind: 'carry over' }>, 'kind' | 'from'>;

/** Carrying over what was pointed at. */
function useCarry(): { readonly carry: (pieces: Pieces, says?: string) => Act; readonly busy: boolean } {
  const { b, newest } = useShown();
  const { propose, busy } = useProposing();
  const carry = (pieces: Pieces, says = `Carry over into v${newest.number}`): Act => ({
    says,
    title: `As in v${b.number}, with all that it needs; what came later stays. You see it before anything lands.`,
    run: () => propose({ kind: 'carry over', from: b.id, ...pieces }),
  });
  return { carry, busy };
}

function Parts(): React.ReactNode {
  const { b, newest } = useShown();
  const isInSpace = cardOfVersion(b)?.show === 'space';
  const { parts } = usePicked();
  const { carry, busy } = useCarry();
  if (parts.length === 0)
    return (
      <p className="ov-quiet">
        Click a part {isInSpace ? 'of the model' : 'on the drawing'} to carry it over into v{newest.number}.
      </p>
    );
  const act = carry({ parts: parts.map((p) => p.index) });
  const layers = [...new Set(parts.map((p) => p.category))].filter(Boolean);
  const [layer] = layers;
  const whole = carry({ layers }, `Carry over all of “${layer ?? ''}”`);
  return (
    <PickedBar
      says={parts.length === 1 ? '1 part picked' : `${parts.length} parts picked`}
      acts={layers.length === 1 ? [act, whole] : [act]}
      busy={busy}
    >
      <ul>
        {parts.map((part) => (
          <li key={part.index}>{part.name === part.kind ? part.kind : `${part.kind} ${part.name}`}</li>
        ))}
      </ul>
    </PickedBar>
  );
}

/** What is on a page of a document comes with all of it. */
function Pages(): React.ReactNode {
  const { newest } = useShown();
  const { parts } = usePicked();
  const { carry, busy } = useCarry();
  if (parts.length === 0)
    return <p className="ov-quiet">Click anything on a page to carry that page over into v{newest.number}.</p>;
  const pages = [...new Set(parts.map((p) => p.page))];
  const act = carry({ parts: parts.map((p) => p.index) });
  return <PickedBar says={`${pages.join(', ')}: picked as a whole`} acts={[act]} busy={busy} />;
}

function Layers(): React.ReactNode {
  const { newest } = useShown();
  const { detail } = useCompared();
  const { layers, pickLayer } = usePicked();
  const { carry, busy } = useCarry();
  const names = [...new Set((detail?.look.layers ?? []).map((layer) => layer.name))];
  const act = carry({ layers: [...layers] });
  return (
    <>
      <fieldset className="ov-pieces">
        <legend className="ov-quiet">Layers to carry over into v{newest.number}</legend>
        {names.map((name) => (
          <Form.Check
            key={name}
            id={`carry-${name}`}
            label={name}
            checked={layers.has(name)}
            onChange={(e) => pickLayer(name, e.target.checked)}
          />
        ))}
      </fieldset>
      {layers.size > 0 && (
        <PickedBar
          says={layers.size === 1 ? '1 layer picked' : `${layers.size} layers picked`}
          acts={[act]}
          busy={busy}
        />
      )}
    </>
  );
}

function Areas(): React.ReactNode {
  const { b, newest } = useShown();
  const { drawing, setDrawing } = useCompared();
  const { areas } = usePicked();
  const { carry, busy } = useCarry();
  const act = carry({ boxes: areas.map((area) => [...area]) });
  return (
    <>
      <Button
        size="sm"
        variant="outline-secondary"
        active={drawing}
        aria-pressed={drawing}
        title={`An area of v${b.number} to be had again in v${newest.number}`}
        onClick={() => setDrawing((on) => !on)}
      >
        {drawing ? 'Draw a rectangle on the picture …' : 'Mark an area to carry over'}
      </Button>
      {areas.length > 0 && (
        <PickedBar
          says={areas.length === 1 ? '1 area marked' : `${areas.length} areas marked`}
          acts={[act]}
          busy={busy}
        >
          <ul>
            {areas.map((area) => (
              <li key={area.join(' ')} className="ov-mono">
                {sizeOf(area)} px at {Math.round(area[0])}, {Math.round(area[1])}
              </li>
            ))}
          </ul>
        </PickedBar>
      )}
    </>
  );
}

const sizeOf = ([left, top, right, bottom]: Picked['areas'][number]): string =>
  `${Math.ceil(right) - Math.floor(left)} × ${Math.ceil(bottom) - Math.floor(top)}`;

const panels: Readonly<Record<Picked['picks'], React.FC>> = {
  parts: Parts,
  pages: Pages,
  layers: Layers,
  areas: Areas,
};
