import type { ToldClash } from '../contract/joining.ts';
import type { Content } from '../kinds/content.ts';
import type { Joined, JoinOptions } from './joined.ts';

/** Files of which nothing but the whole can be taken. */
export function wholeFiles(base: Content, ours: Content, theirs: Content, options: JoinOptions): Joined {
  const isSame = (a: Content, b: Content): boolean =>
    a.bytes.length === b.bytes.length && a.bytes.every((byte, k) => byte === b.bytes[k]);
  const none = { clashes: [], inseparable: [] };
  if (isSame(base, theirs) || isSame(ours, theirs)) return { ...none, bytes: ours.bytes, changed: false };
  if (isSame(base, ours)) return { ...none, bytes: theirs.bytes, changed: true };
  const key = 'whole-file';
  const decided = options.decisions?.get(key);
  const wish = decided ?? options.prefer ?? 'ours';
  const choice = wish === 'theirs' ? 'theirs' : 'ours';
  const clash: ToldClash = {
    key,
    kind: key,
    choices: ['ours', 'theirs'],
    choice,
    decided: decided !== undefined,
    base: null,
    ours: null,
    theirs: null,
  };
  return {
    bytes: choice === 'theirs' ? theirs.bytes : ours.bytes,
    clashes: [clash],
    inseparable: [],
    changed: choice === 'theirs',
  };
}
