/** The change in one line, for lists, the rail and the proposed note. */
import type { Cause, Change, Comparison, Counts } from '../contract/comparison.ts';
import { plural } from '../text/plural.ts';

/** Longest summary in characters. */
const LONGEST = 140;
/** Causes that are named; the rest is counted. */
const NAMED = 3;

export function summarise(
  level: Comparison['level'],
  changes: readonly Change[],
  counts: Counts,
  causes: readonly Cause[],
): string {
  if (level === 'bytes') return changes.length ? 'Content differs' : 'No change';
  if (level === 'text') return lines(changes, counts);
  const [first] = causes;
  if (!first) return changes.length ? plural(changes.length, 'change') : 'No change';
  const named: string[] = [];
  for (const cause of causes) {
    // Numbering and order are said only where there is nothing else.
    if (named.length && (cause.kind === 'renumbered' || cause.kind === 'order')) continue;
    if (named.length >= NAMED || [...named, cause.sentence].join('; ').length > LONGEST) break;
    named.push(cause.sentence);
  }
  if (!named.length) return `${first.sentence.slice(0, LONGEST - 1)}…`;
  const matter = causes.filter((c) => c.kind !== 'renumbered' && c.kind !== 'order').length;
  const rest = Math.max(0, matter - named.length);
  return `${named.join('; ')}${rest ? `; and ${plural(rest, 'other cause')}` : ''}`;
}

function lines(changes: readonly Change[], counts: Counts): string {
  if (!changes.length) return 'No change';
  const single = changes.length === 1 ? changes[0] : undefined;
  if (single) return one(single);
  const pieces: string[] = [];
  if (counts.added) pieces.push(`${plural(counts.added, 'line')} added`);
  if (counts.removed)
    pieces.push(`${counts.added ? counts.removed.toLocaleString('en') : plural(counts.removed, 'line')} removed`);
  if (counts.changed)
    pieces.push(`${pieces.length ? counts.changed.toLocaleString('en') : plural(counts.changed, 'line')} changed`);
  return pieces.join(', ');
}

function one(change: Change): string {
  const what = `Line “${change.part.name.slice(0, 60)}”`;
  return change.kind === 'changed' ? `${what}: text changed` : `${what} ${change.kind}`;
}
