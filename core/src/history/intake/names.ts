/** What names of copies say: the file that they are of, and which of its versions. People and programs mean it, and both lie. */

export interface NameSays {
  /** What is left without all marks, in small letters: equal for copies of one file, as a rule. */
  readonly stem: string;
  /** With a dot; empty for none. */
  readonly ending: string;
  /** From "v3", "rev 2", "name.0007.ext", "(1)", or a bare number at the end. */
  readonly number: number | undefined;
  /** A date in the name, in milliseconds since 1970. */
  readonly date: number | undefined;
  /** "final", "latest", "approved": said to be the last. */
  readonly isLast: boolean;
  /** A copy that was put aside, as "plan.bak" or "plan.svg~": as it was before. */
  readonly isAside: boolean;
}

const ASIDE = /(?:~|\.bak|\.backup|\.old|\.orig)$/i;
const DATES: readonly RegExp[] = [
  /(?<![0-9])(?<year>20\d\d)[-_. ]?(?<month>[01]\d)[-_. ]?(?<day>[0-3]\d)(?:[-_ T](?<hour>[0-2]\d)[-_.:h]?(?<minute>[0-5]\d))?(?![0-9])/,
  /(?<![0-9])(?<day>[0-3]\d)[-_.](?<month>[01]\d)[-_.](?<year>20\d\d)(?![0-9])/,
];
const NUMBERS: readonly RegExp[] = [
  /[-_. ]*\b(?:version|ver|rev|r|v)[-_. ]?(\d{1,4})\b/i,
  /[-_. ]*\((\d{1,3})\)/,
  /\.(\d{2,5})$/,
  /[-_ ](\d{1,3})$/,
];
const LAST = /[-_. ]*\b(?:final|finished|latest|approved|last)\b/gi;
const COPY = /[-_. ]*\b(?:copy of|copy|kopie|duplicate|new|old|draft|edited|working|wip)\b/gi;

export function nameSays(path: string): NameSays {
  let name = (path.split('/').at(-1) ?? path).toLowerCase();
  const isAside = ASIDE.test(name);
  name = name.replace(ASIDE, '');
  const dot = name.lastIndexOf('.');
  const ending = dot > 0 && /^\.[a-z][a-z0-9]{0,5}$/.test(name.slice(dot)) ? name.slice(dot) : '';
  let stem = ending ? name.slice(0, dot) : name;
  const isLast = new RegExp(LAST.source, 'i').test(stem.replaceAll('_', ' '));
  let date: number | undefined;
  for (const pattern of DATES) {
    const found = pattern.exec(stem)?.groups;
    if (!found || date !== undefined) continue;
    const { year, month, day, hour = '00', minute = '00' } = found;
    const at = Date.parse(`${year}-${month}-${day}T${hour}:${minute}:00Z`);
    if (Number.isNaN(at)) continue;
    date = at;
    stem = stem.replace(pattern, '');
  }
  stem = stem.replaceAll('_', ' ').replace(LAST, '').replace(COPY, '');
  let number: number | undefined;
  for (const pattern of NUMBERS) {
    const found = pattern.exec(stem.trim());
    if (!found) continue;
    number ??= Number(found[1]);
    stem = stem.trim().replace(pattern, '');
  }
  return { stem: stem.replace(/[-_. ]+/g, ' ').trim(), ending, number, date, isLast, isAside };
}
