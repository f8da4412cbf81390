/** Saying who may do what, and reading what was said. */
import { completed, projectRoleOf, type AccessList, type ProjectRole, type Right } from '../../contract/access.ts';
import type { Person, Role } from '../../contract/api.ts';
import { db, many, one, transaction } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { tell } from '../live/live.ts';
import { notFound, Problem } from '../problem.ts';
import {
  accessHere,
  deciding,
  permit,
  rightsAt,
  rightsFrom,
  saidAt,
  scopeOf,
  TOP,
  type Place,
  type SaidHere,
} from './access.ts';

const mayManage = async (by: Person, place: Place): Promise<boolean> =>
  (await rightsAt(by, place)).has('manage') ||
  (place.folderId !== null && (await rightsAt(by, { ...place, folderId: null })).has('manage'));

/** Who may do what at a place, and which places say anything of their own. Whoever sees the place may read it. */
export async function listAccess(by: Person, place: Place): Promise<AccessList> {
  const manages = await mayManage(by, place);
  if (!manages) await permit(by, 'see', place);
  const [mine, { said, path }, people, places] = await Promise.all([
    accessHere(by, place),
    saidAt(place, null),
    many<{ id: string; name: string; role: Role }>(db(), 'select id, name, role from person order by lower(name)'),
    many<{ folder_id: string | null; said: number; path: string | null }>(
      db(),
      `
      with recursive trail as (
        select id, name as path from folder where project_id = $1 and parent_id is null
        union all
        select f.id, trail.path || ' / ' || f.name from folder f join trail on f.parent_id = trail.id
      )
      select x.folder_id, x.path, (select count(*)::int from access a where a.project_id = $1 and coalesce(a.folder_id, '${TOP}') = coalesce(x.folder_id, '${TOP}')) as said
      from (select null::uuid as folder_id, null as path union all select id, path from trail) x order by path nulls first`,
      [place.projectId],
    ),
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

/** Says what somebody, or everybody else, may do at a place; with null it says nothing any more. Nobody can give what they do not have. */
export async function setAccess(
  by: Person,
  place: Place,
  personId: string | null,
  chosen: readonly Right[] | null,
): Promise<AccessList> {
  if (!(await mayManage(by, place))) await permit(by, 'manage', place);
  const held = await rightsAt(by, { ...place, folderId: null });
  const own = await rightsAt(by, place);
  const rights = chosen && completed(chosen);
  const role = (rights && projectRoleOf(rights)) ?? null;
  const missing = rights?.find((r) => !held.has(r) && !own.has(r));
  if (missing)
    throw new Problem(
      403,
      'not-allowed',
      `You can't give the right “${missing}”, because you do not have it yourself.`,
    );
  const person =
    personId === null
      ? undefined
      : await one<{ id: string; name: string; role: Role }>(db(), 'select id, name, role from person where id = $1', [
          personId,
        ]);
  if (personId !== null && !person) throw notFound('person');
  if (person?.role === 'administrator')
    throw new Problem(400, 'administrator', `${person.name} is an administrator, who may do everything everywhere.`);
  await transaction(async (client) => {
    const where = await one<{ name: string; folder: string | null }>(
      client,
      'select p.name, (select name from folder where id = $2 and project_id = $1) as folder from project p where p.id = $1',
      [place.projectId, place.folderId],
    );
    if (rights) {
      await client.query(
        `
        insert into access (project_id, folder_id, person_id, role, rights, set_by) values ($1, $2, $3, $4, $5, $6)
        on conflict (project_id, coalesce(folder_id, '${TOP}'), coalesce(person_id, '${TOP}')) do update set role = excluded.role, rights = excluded.rights, set_by = excluded.set_by, set_at = now()`,
        [place.projectId, place.folderId, personId, role, role ? null : rights, by.id],
      );
    } else {
      await client.query(
        `delete from access where project_id = $1 and coalesce(folder_id, '${TOP}') = coalesce($2, '${TOP}'::uuid) and coalesce(person_id, '${TOP}') = coalesce($3, '${TOP}'::uuid)`,
        [place.projectId, place.folderId, personId],
      );
    }
    await tell(client, { kind: 'files', file: null, project: place.projectId });
    await record(client, [
      {
        act: 'changed access',
        by,
        subject: `${where?.folder ?? where?.name ?? ''}: ${person?.name ?? 'everybody else'}: ${sayGiven(rights, role)}`,
        projectId: place.projectId,
      },
    ]);
  });
  return listAccess(by, place);
}
