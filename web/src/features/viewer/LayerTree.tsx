'use client';

/** The layers of a picture, or of two: what each is like, what happened to it, and a look at it alone. */
import { signOf } from './looks.ts';
import type { LayerLine } from './layer-rows.ts';

interface Props {
  readonly rows: readonly LayerLine[];
  readonly alone: LayerLine | undefined;
  readonly onAlone: (row: LayerLine | undefined) => void;
}

const sameRow = (p: LayerLine | undefined, q: LayerLine): boolean => p !== undefined && p.a === q.a && p.b === q.b;

export function LayerTree({ rows, alone, onAlone }: Props): React.ReactNode {
  return (
    <div className="ov-layers" role="group" aria-label="Layers of the picture">
      <p className="ov-quiet">From the top. Choose one to see it alone.</p>
      <button type="button" className="ov-layer" aria-pressed={alone === undefined} onClick={() => onAlone(undefined)}>
        The whole picture
      </button>
      {rows.map((row) => (
        <button
          key={`${row.a ?? ''} ${row.b ?? ''}`}
          type="button"
          className="ov-layer"
          aria-pressed={sameRow(alone, row)}
          onClick={() => onAlone(sameRow(alone, row) ? undefined : row)}
          style={{ paddingLeft: 8 + 16 * row.depth }}
        >
          <span>
            {row.group ? <strong>{row.name}</strong> : row.name}
            {row.says && <span className="ov-quiet"> {row.says}</span>}
          </span>
          {row.sign && <span className={`ov-sign ov-${row.sign}`}>{signOf[row.sign]}</span>}
        </button>
      ))}
    </div>
  );
}
