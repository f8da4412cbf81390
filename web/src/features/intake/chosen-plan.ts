/** What somebody makes of a plan before it is carried out: copies moved and taken out, names, days, people, reasons. Pure. */
import {
  arranged,
  onItsOwn,
  placedAfter,
  placedBefore,
  stepsOfArrangement,
  type Arrangement,
  type ArrangedStep,
  type PlannedFile,
  type PlannedMember,
} from '@ovrel/core';
import type { PlannedFile as SentFile } from '../../contract/intake.ts';

/** What is said of one copy. */
export interface Said {
  /** Milliseconds since 1970; undefined: when it came in. */
  readonly at: number | undefined;
  readonly person: string;
  readonly reason: string;
}

export interface ChosenFile {
  readonly planned: PlannedFile;
  readonly name: string;
  readonly arrangement: Arrangement;
  /** By path, where something was said. */
  readonly said: ReadonlyMap<string, Partial<Said>>;
}

export const asProposed = (planned: PlannedFile): ChosenFile => ({
  planned,
  name: planned.name,
  arrangement: arranged(planned.members),
  said: new Map(),
});

export const stepsOf = ({ arrangement }: ChosenFile): ArrangedStep[] => stepsOfArrangement(arrangement);

/** Copies that somebody took out, in the order of the plan. */
export function leftOf(file: ChosenFile): string[] {
  const kept = new Set(stepsOf(file).map(({ path }) => path));
  return file.planned.members.map(({ path }) => path).filter((path) => !kept.has(path));
}

/** What Ovrel proposed, where a copy still stands behind the one that it said. */
export const proposedAs = ({ planned }: ChosenFile, { path, parent }: ArrangedStep): PlannedMember | undefined =>
  planned.members.find((member) => member.path === path && member.parent === parent);

export const saySure = ({ sure }: PlannedMember): string => `${Math.round(100 * sure)} % sure`;

/** Back behind the nearest that it came from and that is still there. */
export function putBack(file: ChosenFile, path: string): Arrangement {
  const { arrangement } = file;
  const byPath = new Map(file.planned.members.map((member) => [member.path, member]));
  const kept = new Map(stepsOf(file).map((step) => [step.path, step]));
  const own = byPath.get(path);
  let from = own?.parent ?? null;
  while (from !== null && !kept.has(from)) from = byPath.get(from)?.parent ?? null;
  if (from !== null)
    return byPath.get(from)?.line === own?.line
      ? placedAfter(arrangement, path, from)
      : onItsOwn(arrangement, path, from);
  const first = arrangement[0]?.paths[0];
  return first === undefined ? [{ from: null, paths: [path] }] : placedBefore(arrangement, path, first);
}

/** One place earlier or later on its line, where there is one. */
export function moved(arrangement: Arrangement, path: string, by: -1 | 1): Arrangement {
  const line = arrangement.find(({ paths }) => paths.includes(path));
  const other = line?.paths[line.paths.indexOf(path) + by];
  if (other === undefined) return arrangement;
  return by < 0 ? placedBefore(arrangement, path, other) : placedAfter(arrangement, path, other);
}

/** On a line of its own, from where it stands now; the first of all stays where it is. */
export function aside(arrangement: Arrangement, path: string): Arrangement {
  const parent = stepsOfArrangement(arrangement).find((step) => step.path === path)?.parent ?? null;
  return parent === null ? arrangement : onItsOwn(arrangement, path, parent);
}

/** Who made a copy: as was said, else as it says itself. */
export const personOf = ({ planned, said }: ChosenFile, path: string): string =>
  said.get(path)?.person ?? planned.members.find((member) => member.path === path)?.by ?? '';

/** As the server takes it, with the paths of the copies in the order in which they are sent. */
export function toSend(
  files: readonly ChosenFile[],
  timeOf: (path: string) => number | undefined,
): { readonly files: SentFile[]; readonly paths: string[] } {
  const kept = files.filter(({ arrangement }) => arrangement.length > 0);
  return {
    files: kept.map((file) => ({ name: file.name, folderId: null, copies: copiesOf(file, timeOf) })),
    paths: kept.flatMap((file) => stepsOf(file).map(({ path }) => path)),
  };
}

function copiesOf(file: ChosenFile, timeOf: (path: string) => number | undefined): SentFile['copies'] {
  const steps = stepsOf(file);
  const place = new Map(steps.map(({ path }, k) => [path, k]));
  return steps.map(({ path, line, parent }) => {
    const said = file.said.get(path);
    const at = said && 'at' in said ? said.at : timeOf(path);
    const person = personOf(file, path);
    return {
      path,
      line,
      parent: parent === null ? null : (place.get(parent) ?? 0),
      at: at === undefined ? null : new Date(at).toISOString(),
      ...(person ? { person } : {}),
      ...(said?.reason ? { reason: said.reason } : {}),
    };
  });
}
