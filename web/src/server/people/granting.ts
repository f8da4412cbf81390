/** Saying who may do what, and reading what was said. */
import {
  byDefault,
  completed,
  projectRoleOf,
  type AccessList,
  type ProjectRole,
  type Right,
} from '../../contract/access.ts';
import type { Person } from '../../contract/api.ts';
import { db, transaction, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { notFound, Problem } from '../problem.ts';
import { lockProject } from '../projects/rows.ts';
import {
  dropAccess,
  peopleByName,
  personRow,
  placeName,
  placeRows,
  putAccess,
  TOP,
  type PersonRow,
} from './access-rows.ts';
import {
  accessHere,
  deciding,
  permit,
  rightsAt,
  rightsFrom,
  saidAt,
  scopeOf,
  type Place,
  type SaidHere,
} from './access.ts';

const mayManage = async (by: Person, place: Place, client: Db = db()): Promise<boolean> =>
  (await rightsAt(by, place, client)).has('manage') ||
  (place.folderId !== null && (await rightsAt(by, { ...place, folderId: null }, client)).has('manage'));

/** Who may do what at a place, and which places say anything of their own. Whoever sees the place may read it. */
export async function listAccess(by: Person, place: Place): Promise<AccessList> {
  const manages = await mayManage(by, place);
  if (!manages) await permit(by, 'see', place);
  const [mine, { said, path }, people, places] = await Promise.all([
    accessHere(by, place),
    saidAt(place, null),
    peopleByName(db()),
    placeRows(db(), place.projectId),
  ]);
  const seen = manages ? undefined : await scopeOf(by, 'see', place.projectId);
  const everybody = said.filter((s) => s.person_id === null);
  const here = (id: string | null): readonly Right[] | null =>
    said.find((s) => s.folder_id === place.folderId && s.person_id === id)?.rights ?? null;
  const sayWhere = (s: SaidHere | undefined): string => s?.place ?? '';
  const others = deciding(everybody, TOP, path);
  return {
    mine,
    mayManage: manages,
    people: [
      ...people.map((p) => ({
        id: p.id,
        name: p.name,
        role: p.role,
        said: p.role === 'administrator' ? null : mutable(here(p.id)),
        rights: [...rightsFrom(said, p, path)],
        from: p.role === 'administrator' ? '' : sayWhere(deciding(said, p.id, path)),
      })),
      {
        id: null,
        name: 'Everybody else',
        role: '',
        said: mutable(here(null)),
        rights: [...(others?.rights ?? [])],
        from: sayWhere(others),
      },
    ],
    places: places
      .filter((p) => !seen || seen.has(place.projectId, p.folder_id))
      .map((p) => ({ folderId: p.folder_id, path: p.path ?? '', said: p.said })),
  };
}

const mutable = (r: readonly Right[] | null): Right[] | null => (r ? [...r] : null);

/** What a place says now, for the ledger. */
function sayGiven(rights: readonly Right[] | null, role: ProjectRole | null): string {
  if (rights === null) return 'nothing is said any more';
  return rights.length ? (role ?? rights.join(', ')) : 'may do nothing';
}

/**
 * Says what somebody, or everybody else, may do at a place; with null it says nothing any more. Nobody can give what
 * they do not have.
 */
export async function setAccess(
  by: Person,
  place: Place,
  personId: string | null,
  chosen: readonly Right[] | null,
): Promise<AccessList> {
  const rights = chosen && completed(chosen);
  const role = (rights && projectRoleOf(rights)) ?? null;
  await transaction(async (client) => {
    // Whoever checks in holds the project's row, too: what they may do does not change while they land.
    await lockProject(client, place.projectId);
    if (!(await mayManage(by, place, client))) await permit(by, 'manage', place, undefined, client);
    const person = personId === null ? undefined : await personRow(client, personId);
    if (personId !== null && !person) throw notFound('person');
    if (person?.role === 'administrator')
      throw new Problem(400, 'administrator', `${person.name} is an administrator, who may do everything everywhere.`);
    await refuseGivingMore(client, by, place, person, rights ?? (await withoutThis(client, place, person)));
    if (rights) await putAccess(client, place, { personId, role, rights: role ? null : rights }, by.id);
    else await dropAccess(client, place, personId);
    await tell(client, { kind: 'files', file: null, project: place.projectId });
    const subject = `${await placeName(client, place)}: ${person?.name ?? 'everybody else'}: ${sayGiven(rights, role)}`;
    await record(client, [{ act: 'changed access', by, subject, projectId: place.projectId }]);
  });
  return listAccess(by, place);
}

/** What would hold for somebody, or everybody else, if the place said nothing of them. */
async function withoutThis(client: Db, place: Place, person: PersonRow | undefined): Promise<readonly Right[]> {
  const { said, path } = await saidAt(place, person?.id ?? null, client);
  const left = said.filter((s) => s.folder_id !== place.folderId || s.person_id !== (person?.id ?? null));
  if (person) return rightsFrom(left, person, path);
  const everybody = left.filter((s) => s.person_id === null);
  return deciding(everybody, TOP, path)?.rights ?? byDefault.editor;
}

/** Also what somebody gets because a place says nothing of them any more is given. What they have anyway is not. */
async function refuseGivingMore(
  client: Db,
  by: Person,
  place: Place,
  person: PersonRow | undefined,
  rights: readonly Right[],
): Promise<void> {
  const top = await rightsAt(by, { ...place, folderId: null }, client);
  const own = await rightsAt(by, place, client);
  const { said, path } = await saidAt(place, person?.id ?? null, client);
  const before = new Set(person ? rightsFrom(said, person, path) : []);
  const missing = rights.find((r) => !top.has(r) && !own.has(r) && !before.has(r));
  if (missing === undefined) return;
  throw new Problem(403, 'not-allowed', `You can't give the right “${missing}”, because you do not have it yourself.`);
}
