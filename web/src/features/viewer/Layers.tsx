'use client';

import Form from 'react-bootstrap/Form';
import type { SceneHead } from '@ovrel/core/scene';

export interface LayerEntry {
  readonly name: string;
  readonly hidden: boolean;
  readonly colour: string | null;
}

/** Layers of both sides, each name once. */
export function layerList(heads: readonly (SceneHead | undefined)[]): LayerEntry[] {
  const out = new Map<string, LayerEntry>();
  for (const head of heads)
    for (const layer of head?.layers ?? []) if (!out.has(layer.name)) out.set(layer.name, layer);
  return [...out.values()].sort((p, q) => p.name.localeCompare(q.name, 'en', { numeric: true }));
}

/** Switches layers of the view off and on; the file is not touched. */
export function Layers({
  layers,
  switched,
  onSwitch,
}: {
  layers: readonly LayerEntry[];
  switched: ReadonlyMap<string, boolean>;
  onSwitch: (next: ReadonlyMap<string, boolean>) => void;
}): React.ReactNode {
  const set = (names: readonly string[], off: boolean): void =>
    onSwitch(new Map([...switched, ...names.map((n) => [n, off] as const)]));
  return (
    <div className="ov-layers" role="group" aria-label="Layers shown">
      <p className="ov-quiet">Only in this view; the file stays as it is.</p>
      {layers.map((l) => (
        <Form.Check
          key={l.name}
          id={`layer-${l.name}`}
          type="checkbox"
          checked={!l.hidden && switched.get(l.name) !== true}
          disabled={l.hidden}
          onChange={(e) => set([l.name], !e.target.checked)}
          label={
            <>
              <span className="ov-swatch" style={{ background: l.colour ?? 'transparent' }} />
              {l.name || 'No layer'}
              {l.hidden && <span className="ov-quiet"> (hidden in the file)</span>}
            </>
          }
        />
      ))}
      <div className="d-flex gap-2 mt-2">
        <button type="button" className="btn btn-sm btn-outline-secondary" onClick={() => onSwitch(new Map())}>
          All on
        </button>
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          onClick={() =>
            set(
              layers.map((l) => l.name),
              true,
            )
          }
        >
          All off
        </button>
      </div>
    </div>
  );
}
