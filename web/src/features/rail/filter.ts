/** Which versions of a line a filter shows on the rail. Words are looked for on the server. */
import type { Filter } from '../filter/filter.ts';
import type { Mark } from './layout.ts';

const DAY = 86_400_000;

/** `matching`: ids of versions whose words match; undefined while no words are looked for. */
export function shownMarks(
  marks: readonly Mark[],
  { kinds, person, from, to }: Filter,
  matching: ReadonlySet<string> | undefined,
  always: readonly string[],
): readonly Mark[] {
  const first = from === '' ? -Infinity : Date.parse(from);
  const end = to === '' ? Infinity : Date.parse(to) + DAY;
  return marks.filter(
    (mark) =>
      always.includes(mark.id) ||
      (kinds.has(mark.title === null ? mark.kind : 'keeper') &&
        (person === '' || mark.person === person) &&
        mark.at >= first &&
        mark.at < end &&
        (matching?.has(mark.id) ?? true)),
  );
}
