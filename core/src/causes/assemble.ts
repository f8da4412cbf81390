/**
 * From evidence to what people read: numbers, weights, counts and sentences are given here, once, whatever the kind.
 */
import type { Cause, CauseKind, Change, Counts } from '../contract/comparison.ts';
import type { CauseDraft, Evidence } from './draft.ts';
import { say } from './say.ts';

export interface Assembled {
  readonly changes: Change[];
  readonly causes: Cause[];
  readonly counts: Counts;
}

/** How much a cause of a kind matters to whoever reads the list. */
const importance: Readonly<Record<CauseKind, number>> = {
  added: 10,
  removed: 10,
  replaced: 9.5,
  definition: 9,
  units: 9,
  motion: 8,
  stretch: 8,
  text: 8,
  lines: 8,
  scale: 7.5,
  reshaped: 7,
  page: 7,
  measured: 4,
  style: 5,
  'layer-look': 5,
  origin: 6,
  'layer-renamed': 4,
  relayered: 4,
  layer: 3,
  formatting: 4,
  property: 4,
  exploded: 3,
  blocked: 3,
  split: 2,
  joined: 2,
  rewritten: 1.5,
  order: 1,
  renumbered: 0.5,
  repainted: 9,
  tone: 8,
  sharpness: 7,
  cropped: 8,
  resampled: 8,
  turned: 8,
  flipped: 8,
  recompressed: 2,
  profile: 4,
  material: 9.5,
  surface: 8,
  triangulated: 1.5,
  constant: 20,
  error: 18,
  formula: 11,
  values: 9,
  rows: 10,
  columns: 10.5,
  sheet: 11,
  sorted: 9,
  recalculated: 1.5,
  'cells-look': 4,
};

export const changeId = (index: number): string => `c${index + 1}`;

interface Weighed extends CauseDraft {
  readonly parts: number;
  readonly weight: number;
}

function weighed(cause: CauseDraft): Weighed {
  const parts = cause.parts ?? cause.changes.length;
  const weight = cause.weight ?? importance[cause.kind] * (1 + Math.log2(Math.max(1, parts)) / 4);
  return { ...cause, parts, weight };
}

const heaviestFirst = (p: Weighed, q: Weighed): number =>
  q.weight - p.weight || q.parts - p.parts || (p.changes[0] ?? 0) - (q.changes[0] ?? 0);

export function assemble({ changes, causes, unchanged }: Evidence): Assembled {
  const counts: Counts = { added: 0, removed: 0, changed: 0, moved: 0, unchanged };
  for (const { kind } of changes) counts[kind]++;
  return {
    changes: changes.map((change, k) => ({ id: changeId(k), ...change })),
    causes: causes.map(weighed).sort(heaviestFirst).map(numbered),
    counts,
  };
}

function numbered({ kind, saying, within, changes, parts, weight }: Weighed, index: number): Cause {
  return {
    id: `k${index + 1}`,
    kind,
    code: saying.code,
    values: { ...saying.values },
    ...(within ? { within } : {}),
    sentence: say(saying, within),
    weight: Math.round(weight * 100) / 100,
    parts,
    changes: changes.map(changeId),
  };
}
