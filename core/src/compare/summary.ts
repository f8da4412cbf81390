/** The change in one line, for lists, the rail and the proposed note. */
import type { Change, Comparison, Counts } from '../contract/comparison.ts';
import { plural } from '../text/plural.ts';

export function summarise(level: Comparison['level'], changes: readonly Change[], counts: Counts): string {
  if (level === 'bytes') return changes.length ? 'Content differs' : 'No change';
  if (!changes.length) return 'No change';
  const single = changes.length === 1 ? changes[0] : undefined;
  if (single) return one(single);
  const unit = level === 'text' ? 'line' : 'part';
  const pieces: string[] = [];
  if (counts.added) pieces.push(`${plural(counts.added, unit)} added`);
  if (counts.removed) pieces.push(`${counts.added ? counts.removed.toLocaleString('en') : plural(counts.removed, unit)} removed`);
  if (counts.moved) pieces.push(`${pieces.length ? counts.moved.toLocaleString('en') : plural(counts.moved, unit)} moved`);
  if (counts.changed) pieces.push(`${pieces.length ? counts.changed.toLocaleString('en') : plural(counts.changed, unit)} ${level === 'text' ? 'changed' : inWhat(changes)}`);
  return pieces.join(', ');
}

function one(change: Change): string {
  const what = change.part.kind === 'line' ? `line “${change.part.name.slice(0, 60)}”`
    : change.part.name === change.part.kind ? `one ${change.part.kind}` : `${change.part.kind} ${change.part.name.slice(0, 60)}`;
  if (change.kind !== 'changed') return `${what.charAt(0).toUpperCase()}${what.slice(1)} ${change.kind}`;
  const text = change.what.find((w) => w.aspect === 'text');
  if (text && change.part.kind === 'text') return `Text “${text.from.slice(0, 40)}” now “${text.to.slice(0, 40)}”`;
  return `${what.charAt(0).toUpperCase()}${what.slice(1)}: ${[...new Set(change.what.map((w) => w.property ?? w.aspect))].join(', ')} changed`;
}

/** "restyled" where all changes are of one kind, else "changed". */
function inWhat(changes: readonly Change[]): string {
  const changed = changes.filter((c) => c.kind === 'changed');
  const all = (aspect: string): boolean => changed.every((c) => c.what.every((w) => w.aspect === aspect));
  return all('style') ? 'restyled' : all('text') ? 'retyped' : all('layer') ? 'put on another layer' : all('geometry') ? 'reshaped' : 'changed';
}
