/** The pages of a set of sheets: which changed, and how much; the list is there before the comparison is. */
import { useEffect, useState } from 'react';
import type { Change, ChangeKind } from '@ovrel/core/contract';
import { pagesReportSchema, type ComparisonResponse, type PagesReport, type Version } from '../../contract/api.ts';
import { lines } from '../api/client.ts';
import { cardOfVersion } from '../cards.ts';
import { signOf } from '../viewer/looks.ts';
import { api } from '../../contract/operations/index.ts';
import { addressOf } from '../../contract/operation.ts';

interface Entry {
  readonly name: string;
  readonly state: 'same' | 'changed' | 'added' | 'removed' | 'unread';
}

interface Pages {
  readonly pages: readonly Entry[];
  /** Share of the pages that were read; undefined when all are. */
  readonly share?: number;
}

/** Documents whose pages are paired by what is on them. */
const hasSheets = (version: Version): boolean => cardOfVersion(version)?.fine === true;

/** Documents of fewer bytes are compared at once. */
const LARGE = 60_000;

/**
 * Pages with their states: early ones by what is on them, as the documents are read; then those of the comparison
 * itself.
 */
export function usePages(a: Version, b: Version, result: ComparisonResponse | undefined): Pages | undefined {
  const early = hasSheets(a) && hasSheets(b) && a.id !== b.id && !result && Math.max(a.size, b.size) > LARGE;
  const key = early ? addressOf(api.comparisons.pages, { query: { a: a.id, b: b.id } }) : undefined;
  const [known, setKnown] = useState<{ key: string; report: PagesReport }>();
  useEffect(() => {
    if (!key) return undefined;
    const stop = new AbortController();
    // What cannot be listed is compared all the same, and says so then.
    void lines(key, pagesReportSchema, (report) => setKnown({ key, report }), stop.signal).catch(() => undefined);
    return () => stop.abort();
  }, [key]);
  if (!result)
    return known && known.key === key
      ? {
          pages: known.report.pages,
          ...('all' in known.report ? { share: known.report.read / Math.max(1, known.report.all) } : {}),
        }
      : undefined;
  return result.comparison.level === 'parts' && result.picture.pages.b.length > 1 && hasSheets(b)
    ? { pages: pagesOf(result) }
    : undefined;
}

export function pagesOf({ comparison, picture }: ComparisonResponse): Entry[] {
  const names = [...picture.pages.b.map((p) => p.name)];
  const touched = new Map<string, Set<ChangeKind>>();
  for (const { part, kind } of comparison.changes) {
    if (!names.includes(part.page)) names.push(part.page);
    touched.set(part.page, (touched.get(part.page) ?? new Set()).add(kind));
  }
  const whole = (name: string, verb: 'added' | 'removed'): boolean =>
    comparison.causes.some((c) => c.code === 'page-came' && c.values['name'] === name && c.values['verb'] === verb);
  const stateOf = (name: string): Entry['state'] => {
    if (whole(name, 'added')) return 'added';
    if (whole(name, 'removed')) return 'removed';
    return touched.has(name) ? 'changed' : 'same';
  };
  return names.map((name) => ({ name, state: stateOf(name) }));
}

export function PageList({
  of: { pages, share },
  changes,
  onPage,
}: {
  of: Pages;
  changes: readonly Change[] | undefined;
  onPage: (name: string) => void;
}): React.ReactNode {
  const count = (name: string): number | undefined => changes?.filter((c) => c.part.page === name).length;
  const touched = pages.filter((p) => p.state !== 'same' && p.state !== 'unread');
  return (
    <details className="mt-3" open={changes === undefined}>
      <summary>
        {touched.length} of {pages.length} pages changed
        {share === undefined ? '' : ` so far; ${Math.round(share * 100)} % read`}
      </summary>
      <ul className="ov-choices" aria-label="Pages">
        {pages.map(({ name, state }) => (
          <li key={name}>
            <button type="button" onClick={() => onPage(name)}>
              <span>{state === 'same' || state === 'unread' ? <span className="ov-quiet">{name}</span> : name}</span>
              <span>
                {state === 'unread' ? (
                  <span className="ov-quiet">not read yet</span>
                ) : (
                  state !== 'same' && (
                    <>
                      <span className="ov-mono">{count(name) ?? ''}</span>{' '}
                      <span className={`ov-sign ov-${state}`} aria-label={state}>
                        {signOf[state]}
                      </span>
                    </>
                  )
                )}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
