/**
 * The address of the file page: `?v=` one version, `?a=…&b=…` two, `?v=…&with=…` one and a version from elsewhere,
 * `?proposal=` what is about to be done, `&look=` how two are shown, `&line=` a branch. Versions and lines are named by id. Links may name versions by their
 * titles, and old ones name them by their
 * numbers and lines by their positions; they are understood, and written as ids from then on.
 */
export interface VersionPoint {
  readonly id: string;
  readonly number: number;
  /** An address may ask for it; of versions with one title, the newest is meant. */
  readonly title?: string | null;
}

export interface LineName {
  readonly id: string;
  readonly position: number;
}

type Get = (name: string) => string | null;

/** Id of the line that an address asks for; `otherwise` where it asks for none that is there. */
export function lineOf(get: Get, lines: readonly LineName[], otherwise: string): string {
  const text = get('line');
  return lines.find((l) => l.id === text || String(l.position) === text)?.id ?? otherwise;
}

export interface Points<P extends VersionPoint> {
  readonly a: P;
  readonly b: P;
  readonly newest: P;
}

/**
 * The versions of a line that an address asks for; what is not there is the newest. `points` are its versions, oldest
 * first.
 */
export function pointsOf<P extends VersionPoint>(get: Get, points: readonly P[]): Points<P> | undefined {
  const newest = points.at(-1);
  if (!newest) return undefined;
  const find = (name: string): P | undefined => {
    const text = get(name);
    if (text === null) return undefined;
    const named = points.find((p) => p.id === text || String(p.number) === text);
    return named ?? points.findLast((p) => p.title === text);
  };
  const b = find('b') ?? find('v') ?? newest;
  return { a: find('a') ?? b, b, newest };
}

/** The version that an address names by id, wherever it stands: its line may not be known yet. */
export function namedIn(get: Get): string | undefined {
  const id = get('b') ?? get('v');
  return id !== null && /^[0-9a-f]{8}-[0-9a-f-]{27}$/.test(id) ? id : undefined;
}

export interface Asked {
  /** Id of the line; undefined for the main line. */
  readonly line: string | undefined;
  readonly a: string;
  readonly b: string;
  /** Id of the newest version of that line, as far as it is known: it need not be said. */
  readonly newest: string | undefined;
  readonly look: string;
  /** Id of a version from elsewhere that takes the place of A. */
  readonly other: string | undefined;
  /** Id of what is about to be done, which is compared with the version that it is done to. */
  readonly proposal: string | undefined;
}

/** How two versions are shown where nothing is said. */
export const PLAIN_LOOK = 'overlay';

/** The query of an address, without its question mark. */
export function queryOf({ line, a, b, newest, look, other, proposal }: Asked): string {
  const query = new URLSearchParams();
  if (line !== undefined) query.set('line', line);
  if (proposal !== undefined) query.set('proposal', proposal);
  else if (other !== undefined) {
    if (b !== newest) query.set('v', b);
    query.set('with', other);
  } else if (a !== b) {
    query.set('a', a);
    query.set('b', b);
  } else if (b !== newest) query.set('v', b);
  if (look !== PLAIN_LOOK) query.set('look', look);
  return query.toString();
}
