/** Conditions of a filter on rows of versions. */
import type { VersionFilter } from '../../contract/version-filter.ts';
import { literally } from '../projects/rows.ts';

const kindIs: Readonly<Record<NonNullable<VersionFilter['kinds']>[number], string>> = {
  keeper: 'v.title is not null',
  'check-in': `v.kind = 'check-in' and v.title is null`,
  autosave: `v.kind = 'autosave' and v.title is null`,
  backup: `v.kind = 'backup' and v.title is null`,
};

/** On `v`, a version; what it compares with is added to `values`. A version with a title counts as a keeper alone. */
export function passes({ kinds, person, words, from, to }: VersionFilter, values: unknown[]): string {
  const given = (value: unknown): string => `$${values.push(value)}`;
  const conditions = ['true'];
  if (kinds) conditions.push(`(${['false', ...kinds.map((kind) => `(${kindIs[kind]})`)].join(' or ')})`);
  if (person !== undefined) conditions.push(`v.made_by = ${given(person)}`);
  if (from !== undefined) conditions.push(`v.made_at >= ${given(from)}::timestamp at time zone 'UTC'`);
  if (to !== undefined) conditions.push(`v.made_at < (${given(to)}::timestamp + interval '1 day') at time zone 'UTC'`);
  for (const word of words?.split(/\s+/).filter(Boolean) ?? [])
    conditions.push(
      `(v.note || ' ' || coalesce(v.title, '') || ' ' || v.description) ilike ${given(`%${literally(word)}%`)}`,
    );
  return conditions.join(' and ');
}
