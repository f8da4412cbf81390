/** The pages of a set of sheets: which changed, and how much; the list is there before the comparison is. */
import useSWR from 'swr';
import type { Change, ChangeKind } from '@ovrel/core/contract';
import type { ComparisonResponse, Version } from '../../contract/api.ts';
import { call } from '../api/client.ts';
import { signOf } from '../viewer/looks.ts';

interface Entry {
  readonly name: string;
  readonly state: 'same' | 'changed' | 'added' | 'removed';
}

/** Documents of fewer bytes are compared at once. */
const LARGE = 60_000;

/** Pages with their states: early ones by what is on them, then those of the comparison itself. */
export function usePages(a: Version, b: Version, result: ComparisonResponse | undefined): readonly Entry[] | undefined {
  const early = a.format === 'pdf' && b.format === 'pdf' && a.id !== b.id && !result && Math.max(a.size, b.size) > LARGE;
  const { data } = useSWR<{ pages: Entry[] }, Error>(early ? `/comparisons/pages?a=${a.id}&b=${b.id}` : null, (p: string) => call(p), { revalidateOnFocus: false, shouldRetryOnError: false });
  if (!result) return early ? data?.pages : undefined;
  return result.comparison.level === 'parts' && result.picture.pages.b.length > 1 && b.format === 'pdf' ? pagesOf(result) : undefined;
}

export function pagesOf({ comparison, picture }: ComparisonResponse): Entry[] {
  const names = [...picture.pages.b.map((p) => p.name)], touched = new Map<string, Set<ChangeKind>>();
  for (const { part, kind } of comparison.changes) {
    if (!names.includes(part.page)) names.push(part.page);
    touched.set(part.page, (touched.get(part.page) ?? new Set()).add(kind));
  }
  const whole = (name: string, verb: 'added' | 'removed'): boolean => comparison.causes.some((c) => c.kind === 'page' && c.sentence.startsWith(`Page “${name}” ${verb}`));
  return names.map((name) => ({ name, state: whole(name, 'added') ? 'added' : whole(name, 'removed') ? 'removed' : touched.has(name) ? 'changed' : 'same' }));
}

export function PageList({ pages, changes, onPage }: { pages: readonly Entry[]; changes: readonly Change[] | undefined; onPage: (name: string) => void }): React.ReactNode {
  const count = (name: string): number | undefined => changes?.filter((c) => c.part.page === name).length, touched = pages.filter((p) => p.state !== 'same');
  return (
    <details className="mt-3" open={changes === undefined}><summary>{touched.length} of {pages.length} pages changed</summary>
      <ul className="ov-choices" aria-label="Pages">{pages.map(({ name, state }) => (
        <li key={name}><button type="button" onClick={() => onPage(name)}><span>{state === 'same' ? <span className="ov-quiet">{name}</span> : name}</span><span>{state !== 'same' && <><span className="ov-mono">{count(name) ?? ''}</span> <span className={`ov-sign ov-${state}`} aria-label={state}>{signOf[state]}</span></>}</span></button></li>
      ))}</ul>
    </details>
  );
}
