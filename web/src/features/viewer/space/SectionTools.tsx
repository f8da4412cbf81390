'use client';

/** Where a plane cuts through the model: level or upright, and from which side one looks. */
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { SectionInView } from './useSection.ts';

interface Props {
  readonly tools: SectionInView;
  readonly unit: string;
}

export function SectionTools({ tools: { section, set, at }, unit }: Props): React.ReactNode {
  const { level, angle, share } = section;
  const where = `${Number(at.toPrecision(5)).toLocaleString('en')} ${unit}`.trim();
  return (
    <div className="ov-section" role="group" aria-label="Section">
      <Form.Select
        size="sm"
        aria-label="Plane of the section"
        value={level ? 'level' : 'upright'}
        onChange={(e) => set({ level: e.target.value === 'level' })}
      >
        <option value="level">Level plane</option>
        <option value="upright">Upright plane</option>
      </Form.Select>
      <label>
        <span>{level ? `Height ${where}` : `At ${where}`}</span>
        <Form.Range
          min={0}
          max={1}
          step={0.005}
          value={share}
          aria-label="Place of the section"
          aria-valuetext={where}
          onChange={(e) => set({ share: Number(e.target.value) })}
        />
      </label>
      {!level && (
        <label>
          <span>Turned by {angle}°</span>
          <Form.Range
            min={0}
            max={175}
            step={5}
            value={angle}
            aria-label="Turn of the section"
            aria-valuetext={`${angle}°`}
            onChange={(e) => set({ angle: Number(e.target.value) })}
          />
        </label>
      )}
      <Button size="sm" variant="outline-secondary" onClick={() => set({ flipped: !section.flipped })}>
        Other side
      </Button>
    </div>
  );
}
