/** A comparison as a table: one row a change. */
import type { Comparison } from '../contract/comparison.ts';

export const reportColumns = [
  'change',
  'kind of change',
  'part',
  'name',
  'layer',
  'page',
  'key',
  'what differs',
  'from',
  'to',
  'size',
  'unit',
  'causes',
  'left',
  'top',
  'right',
  'bottom',
] as const;

export type ReportRow = readonly (string | number)[];

const kinds = { added: 'only in B', removed: 'only in A', changed: 'changed', moved: 'moved' } as const;

/** Cells in the order of `reportColumns`. Several differences of one change stand in one cell, a line each. */
export function reportRows({ changes, causes, unit }: Pick<Comparison, 'changes' | 'causes' | 'unit'>): ReportRow[] {
  const because = new Map<string, string[]>();
  for (const cause of causes)
    for (const id of cause.changes) because.set(id, [...(because.get(id) ?? []), cause.sentence]);
  return changes.map((c) => {
    const box = c.boxB ?? c.boxA;
    return [
      c.id,
      kinds[c.kind],
      c.part.kind,
      c.part.name,
      c.part.category,
      c.part.page,
      c.part.key ?? '',
      c.what.map((w) => w.property ?? w.aspect).join('\n'),
      c.what.map((w) => w.from).join('\n'),
      c.what.map((w) => w.to).join('\n'),
      c.size,
      unit,
      (because.get(c.id) ?? []).join('\n'),
      ...(box ? [...box] : ['', '', '', '']),
    ];
  });
}
