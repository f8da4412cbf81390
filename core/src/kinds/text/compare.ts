/** Compares texts line by line. */
import type { CauseDraft, ChangeDraft } from '../../causes/draft.ts';
import { inOrder } from '../../match/in-order.ts';
import type { Design, Part } from '../../model/design.ts';
import type { ComparedDesigns } from '../drawing/compare.ts';
import { partSummary } from '../drawing/part-summary.ts';
import { matchSequence } from './sequence.ts';

/** Lines are parts without a place; changes stand in the order of B, removed lines where they stood in A. */
export function compareLines(a: Design, b: Design): ComparedDesigns {
  const pairing = matchSequence(a, b);
  const changes: ChangeDraft[] = [];
  const parts: (readonly [number, number])[] = [];
  let unchanged = 0;
  for (const pair of inOrder(pairing)) {
    const change = changeOf(a, b, pair);
    if (change) {
      changes.push(change);
      parts.push(pair);
    } else unchanged++;
  }
  return { changes, parts, causes: causesOf(changes), pairing, tolerance: 0, unchanged, notes: [] };
}

const nowhere = { boxA: null, boxB: null, size: 0 } as const;

const textOf = (part: Part): string => String(part.props['text']);

/** Undefined for two lines that say the same. */
function changeOf(a: Design, b: Design, [i, j]: readonly [number, number]): ChangeDraft | undefined {
  const before = a.parts[i];
  const after = b.parts[j];
  const partA = before && partSummary(a, before, i);
  const partB = after && partSummary(b, after, j);
  if (before && after && partA && partB)
    return textOf(before) === textOf(after)
      ? undefined
      : {
          kind: 'changed',
          part: partB,
          partA,
          partB,
          what: [{ aspect: 'text', from: textOf(before), to: textOf(after) }],
          ...nowhere,
        };
  if (partB) return { kind: 'added', part: partB, partB, what: [], ...nowhere };
  return partA && { kind: 'removed', part: partA, partA, what: [], ...nowhere };
}

function causesOf(changes: readonly ChangeDraft[]): CauseDraft[] {
  const of = (kind: ChangeDraft['kind']): number[] => changes.flatMap((change, k) => (change.kind === kind ? [k] : []));
  const came = (['added', 'removed'] as const).flatMap((verb): CauseDraft[] => {
    const lines = of(verb);
    return lines.length
      ? [{ kind: verb, saying: { code: 'lines-came', values: { lines: lines.length, verb } }, changes: lines }]
      : [];
  });
  const changed = of('changed');
  if (!changed.length) return came;
  const saying = { code: 'lines-changed', values: { lines: changed.length } } as const;
  return [...came, { kind: 'lines', saying, changes: changed }];
}
