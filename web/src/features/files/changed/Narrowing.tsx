'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { levelCards, type Comparison } from '@ovrel/core/contract';
import { THRESHOLD } from '@ovrel/core/regions';
import { ChangeFilters } from '../ChangeFilters.tsx';
import { useCompared } from '../state/compared.tsx';
import { hasLayers } from './has-layers.ts';

const headingOf = (comparison: Comparison): string | undefined =>
  hasLayers(comparison) ? 'Layers and places' : levelCards[comparison.level].heading;

/** Which of the changes are listed and drawn. */
export function Narrowing(): React.ReactNode {
  const { result, difference } = useCompared();
  if (!result || result.comparison.level === 'bytes') return null;
  if (!result.comparison.changes.length && !difference) return null;
  const heading = headingOf(result.comparison);
  return (
    <>
      {difference && <Threshold />}
      {heading !== undefined && <h2>{heading}</h2>}
      <ChangeFilters comparison={result.comparison} />
    </>
  );
}

function Threshold(): React.ReactNode {
  const { threshold, setThreshold } = useCompared();
  return (
    <div className="ov-threshold">
      <Form.Label htmlFor="threshold">
        Differences of at least <span className="ov-mono">{threshold.toFixed(1)}</span>
      </Form.Label>
      <Form.Range
        id="threshold"
        min={0.8}
        max={20}
        step={0.1}
        value={threshold}
        onChange={(e) => setThreshold(Number(e.target.value))}
      />
      <p className="ov-quiet">
        1 is about what an eye can just tell (CIEDE2000).{' '}
        {threshold !== THRESHOLD && (
          <Button variant="link" className="p-0 align-baseline" onClick={() => setThreshold(THRESHOLD)}>
            Back to {THRESHOLD}
          </Button>
        )}
      </p>
    </div>
  );
}
