/** Who may do what in a project and its folders. Services ask here before they do anything; nothing else decides. */
import {
  byDefault,
  doings,
  projectRoleOf,
  rights as allRights,
  rightsOf,
  type Here,
  type Right,
} from '../../contract/access.ts';
import type { Person } from '../../contract/api.ts';
import { db, type Db } from '../db/pool.ts';
import { onceAPage } from '../once-a-page.ts';
import { notFound, Problem } from '../problem.ts';
import {
  filePlaces,
  folderTree,
  possibleManagers,
  proposalPlaceRow,
  saidRows,
  scopeRows,
  versionPlaceRow,
} from './access-rows.ts';

/** A folder of a project, or its top. */
export interface Place {
  readonly projectId: string;
  readonly folderId: string | null;
}

export interface Said {
  readonly folder_id: string | null;
  readonly person_id: string | null;
  readonly rights: readonly Right[];
}

/**
 * What decides of a person at a place: `path` goes from the folder up to the top, which is null. Undefined where
 * nothing does.
 */
export function deciding<S extends Said>(
  said: readonly S[],
  personId: string,
  path: readonly (string | null)[],
): S | undefined {
  for (const place of path) {
    const here = said.filter((s) => s.folder_id === place);
    const own = here.find((s) => s.person_id === personId) ?? here.find((s) => s.person_id === null);
    if (own) return own;
  }
  return undefined;
}

export const rightsFrom = (
  said: readonly Said[],
  person: Pick<Person, 'id' | 'role'>,
  path: readonly (string | null)[],
): readonly Right[] =>
  person.role === 'administrator' ? allRights : (deciding(said, person.id, path)?.rights ?? byDefault[person.role]);

export interface SaidHere extends Said {
  readonly place: string;
}

interface SaidAt {
  readonly said: readonly SaidHere[];
  readonly path: readonly (string | null)[];
  readonly project: string;
}

/**
 * All that is said of the person, or without one of anybody, from the place up to the project, with the path there.
 * With a `client` as it is in its transaction.
 */
export const saidAt = (place: Place, personId: string | null, client?: Db): Promise<SaidAt> =>
  client
    ? lookUpSaid(place, personId, client)
    : onceAPage(`said ${place.projectId} ${place.folderId ?? ''} ${personId ?? ''}`, () =>
        lookUpSaid(place, personId, db()),
      );

async function lookUpSaid({ projectId, folderId }: Place, personId: string | null, client: Db): Promise<SaidAt> {
  const rows = await saidRows(client, { projectId, folderId }, personId);
  const project = rows.at(-1);
  if (!project) throw notFound('project');
  if (folderId && rows[0]?.place_id !== folderId) throw notFound('folder');
  return {
    said: rows.flatMap((r) =>
      r.said
        ? [{ folder_id: r.place_id, person_id: r.person_id, rights: rightsOf(r.role, r.rights), place: r.place }]
        : [],
    ),
    path: [...new Set(rows.map((r) => r.place_id))],
    project: project.place,
  };
}

export async function rightsAt(by: Person, place: Place, client?: Db): Promise<ReadonlySet<Right>> {
  if (by.role === 'administrator') return everything;
  const { said, path } = await saidAt(place, by.id, client);
  return new Set(rightsFrom(said, by, path));
}

const everything: ReadonlySet<Right> = new Set(allRights);

/**
 * Throws a Problem that says why not and whom to ask. `doing` says what was to be done, if it is not what the right
 * is for above all.
 */
export async function permit(
  by: Person,
  right: Right,
  place: Place,
  doing = doings[right],
  client?: Db,
): Promise<void> {
  const { said, path, project } = await saidAt(place, by.id, client);
  if (rightsFrom(said, by, path).includes(right)) return;
  throw await refusal(by, right, place, doing, deciding(said, by.id, path), project);
}

async function refusal(
  by: Person,
  right: Right,
  place: Place,
  doing: string,
  decided: SaidHere | undefined,
  project: string,
): Promise<Problem> {
  const ask = await askAt(place, by);
  const whom = sayNames(ask.map((p) => p.name));
  // Whoever may not see a place is not told what it is called.
  const sentence =
    right === 'see' ? 'This is closed to you.' : `You can't ${doing} here: ${asWhat(by, decided, project)}.`;
  return new Problem(403, 'not-allowed', `${sentence} Ask ${whom}.`, { right, ask });
}

/** Where somebody's rights come from, in words that follow “because”. */
function asWhat(by: Pick<Person, 'role'>, decided: SaidHere | undefined, project: string): string {
  if (by.role === 'administrator' || !decided) return `you are ${article(by.role)} ${by.role}`;
  const role = projectRoleOf(decided.rights);
  const where =
    decided.folder_id === null ? `the project “${decided.place}”` : `the folder “${decided.place}” of “${project}”`;
  if (role === 'nothing') return `${where} is closed to you`;
  return role === undefined || role === 'newest only'
    ? `${where} gives you ${sayRights(decided.rights)} only`
    : `you are ${article(role)} ${role} in ${where}`;
}

const article = (word: string): string => (/^[aeiou]/.test(word) ? 'an' : 'a');
const sayRights = (held: readonly Right[]): string => held.map((r) => `“${r}”`).join(', ');
const sayNames = (names: readonly string[]): string =>
  names.length
    ? `${names.slice(0, -1).join(', ')}${names.length > 1 ? ' or ' : ''}${names.at(-1) ?? ''}`
    : 'an administrator';

const MOST_NAMES = 3;

/**
 * Who can give more rights at a place: those of whom it is said there, else whoever has it by their role;
 * administrators only where nobody else can.
 */
async function askAt(place: Place, by: Person): Promise<{ id: string; name: string }[]> {
  const [{ said, path }, people] = await Promise.all([
    saidAt(place, null),
    possibleManagers(db(), place.projectId, by.id),
  ]);
  const managers = people.filter((p) => rightsFrom(said, p, path).includes('manage'));
  const others = managers.filter((p) => p.role !== 'administrator');
  const named = others.filter((p) => deciding(said, p.id, path)?.person_id === p.id);
  const nearest = [named, others, managers].find((list) => list.length > 0) ?? [];
  return nearest.slice(0, MOST_NAMES).map(({ id, name }) => ({ id, name }));
}

/** What the person may do at a place, why, and who can give more. */
export async function accessHere(by: Person, place: Place): Promise<Here> {
  const [{ said, path, project }, ask] = await Promise.all([saidAt(place, by.id), askAt(place, by)]);
  return { rights: [...rightsFrom(said, by, path)], as: asWhat(by, deciding(said, by.id, path), project), ask };
}

export const placeOfFile = (fileId: string): Promise<Place & { deleted: boolean; name: string }> =>
  onceAPage(`place ${fileId}`, async () => {
    const [row] = await filePlaces(db(), [fileId]);
    if (!row) throw notFound('file');
    return { projectId: row.project_id, folderId: row.folder_id, deleted: row.deleted, name: row.name };
  });

export const permitFile = async (by: Person, right: Right, fileId: string, doing?: string): Promise<void> =>
  permit(by, right, await placeOfFile(fileId), doing);

/**
 * A version may be seen: the newest of the main line by all who see the file, every other one by those who see old
 * versions.
 */
export async function permitVersion(by: Person, versionId: string): Promise<Place> {
  const row = (await versionPlaceRow(db(), versionId)) ?? (await proposalPlaceRow(db(), versionId, by.id));
  if (!row) throw notFound('version');
  const place = { projectId: row.project_id, folderId: row.folder_id };
  const held = await rightsAt(by, place);
  if (!held.has('see') || (!row.newest && !held.has('see old versions')))
    await permit(by, held.has('see') ? 'see old versions' : 'see', place);
  return place;
}

/** Where a person has a right, over all projects or within one. */
export class Scope {
  private readonly unsaid: boolean;
  private readonly projects: ReadonlyMap<string, boolean | ReadonlySet<string | null>>;

  constructor(unsaid: boolean, projects: ReadonlyMap<string, boolean | ReadonlySet<string | null>>) {
    this.unsaid = unsaid;
    this.projects = projects;
  }

  /** True where nothing anywhere has to be left out. */
  get everywhere(): boolean {
    return this.unsaid && [...this.projects.values()].every((p) => p === true);
  }

  has(projectId: string, folderId: string | null): boolean {
    const project = this.projects.get(projectId) ?? this.unsaid;
    return typeof project === 'boolean' ? project : project.has(folderId);
  }

  /** True where any place of the project is open. */
  any(projectId: string): boolean {
    const project = this.projects.get(projectId) ?? this.unsaid;
    return typeof project === 'boolean' ? project : project.size > 0;
  }

  /** True where some places of the project are open and others are not. */
  partly(projectId: string): boolean {
    return typeof this.projects.get(projectId) === 'object';
  }

  /** A condition on rows with a project and a folder; what it compares with is added to `values`. */
  condition(project: string, folder: string, values: unknown[]): string {
    if (this.everywhere) return 'true';
    const whole = (open: boolean): string[] => [...this.projects].flatMap(([id, p]) => (p === open ? [id] : []));
    const mixed = [...this.projects].flatMap(([id, p]) => (typeof p === 'boolean' ? [] : [{ id, places: p }]));
    const places = mixed.flatMap(({ id, places: p }) => [...p].map((f) => f ?? id));
    const at = (value: unknown): string => `$${values.push(value)}::uuid[]`;
    return `(case when ${project} = any(${at(whole(true))}) then true when ${project} = any(${at(whole(false))}) then false
      when ${project} = any(${at(mixed.map((m) => m.id))}) then coalesce(${folder}, ${project}) = any(${at(places)}) else ${String(this.unsaid)} end)`;
  }
}

/** `project` keeps it to that one. */
export async function scopeOf(by: Person, right: Right, project?: string, client: Db = db()): Promise<Scope> {
  if (by.role === 'administrator') return new Scope(true, new Map());
  const found = await scopeRows(client, by.id, project);
  const rows = found.map(({ role, rights, ...row }) => ({ ...row, rights: rightsOf(role, rights) }));
  const said = Map.groupBy(rows, (r) => r.project_id);
  const split = [...said].flatMap(([id, list]) => (list.some((s) => s.folder_id !== null) ? [id] : []));
  const folders = split.length > 0 ? await folderTree(client, split) : [];
  const trees = Map.groupBy(folders, (f) => f.project_id);
  const parents = new Map(folders.map((f) => [f.id, f.parent_id]));
  const pathOf = (id: string | null): (string | null)[] => {
    const path: (string | null)[] = [];
    for (let at = id; at !== null; at = parents.get(at) ?? null) path.push(at);
    return [...path, null];
  };
  const projects = new Map<string, boolean | ReadonlySet<string | null>>();
  for (const [id, list] of said) {
    const has = (folder: string | null): boolean => rightsFrom(list, by, pathOf(folder)).includes(right);
    const places = [null, ...(trees.get(id) ?? []).map((f) => f.id)];
    const open = places.filter(has);
    const all = open.length === places.length;
    projects.set(id, all || open.length === 0 ? all : new Set(open));
  }
  return new Scope(byDefault[by.role].includes(right), projects);
}

/** Where in a project a person has a right. Throws a Problem where that is nowhere. */
export async function scopeIn(by: Person, right: Right, projectId: string, doing?: string): Promise<Scope> {
  const scope = await scopeOf(by, right, projectId);
  if (!scope.any(projectId)) await permit(by, right, { projectId, folderId: null }, doing);
  return scope;
}
