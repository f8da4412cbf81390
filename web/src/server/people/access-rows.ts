/** Rows of what is said of people at places. */
import type { ProjectRole, Right } from '../../contract/access.ts';
import type { Person, Role } from '../../contract/api.ts';
import { many, one, type Db } from '../db/pool.ts';
import { STORE } from '../store/copy.ts';
import type { Place } from './access.ts';

/** Stands for the top of a project where a folder's id is expected, and for everybody in a person's place. */
export const TOP = '00000000-0000-0000-0000-000000000000';

export interface SaidRow {
  readonly step: number;
  readonly place_id: string | null;
  readonly place: string;
  readonly person_id: string | null;
  readonly role: ProjectRole | null;
  readonly rights: Right[] | null;
  readonly said: boolean;
}

/**
 * From a place up to its project, with what is said there of a person and of everybody; without a person, of anybody.
 */
export const saidRows = (client: Db, { projectId, folderId }: Place, personId: string | null): Promise<SaidRow[]> =>
  many<SaidRow>(
    client,
    `with recursive up as (
       select id, parent_id, name, 0 as step from folder where id = $2 and project_id = $1
       union all
       select f.id, f.parent_id, f.name, up.step + 1 from folder f join up on f.id = up.parent_id
     ), places as (
       select id, name, step from up union all select null, name, 1000000 from project where id = $1
     )
     select p.step, p.id as place_id, p.name as place, a.person_id, a.role, a.rights, a.id is not null as said
     from places p
     left join access a on a.project_id = $1 and coalesce(a.folder_id, '${TOP}') = coalesce(p.id, '${TOP}')
       and ($3::uuid is null or a.person_id = $3 or a.person_id is null)
     order by p.step`,
    [projectId, folderId, personId],
  );

export interface PlaceRow {
  readonly folder_id: string | null;
  readonly path: string | null;
  readonly said: number;
}

/** Every place of a project, and of how many people it says something. */
export const placeRows = (client: Db, projectId: string): Promise<PlaceRow[]> =>
  many<PlaceRow>(
    client,
    `with recursive trail as (
       select id, name as path from folder where project_id = $1 and parent_id is null
       union all
       select f.id, trail.path || ' / ' || f.name from folder f join trail on f.parent_id = trail.id
     ), said as (
       select coalesce(folder_id, '${TOP}') as place, count(*)::int as n from access where project_id = $1 group by 1
     )
     select x.folder_id, x.path, coalesce(said.n, 0) as said
     from (select null::uuid as folder_id, null as path union all select id, path from trail) x
     left join said on said.place = coalesce(x.folder_id, '${TOP}')
     order by x.path nulls first`,
    [projectId],
  );

export interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
}

export const peopleByName = (client: Db): Promise<PersonRow[]> =>
  many<PersonRow>(client, `select id, name, role from person where state = 'active' order by lower(name)`);

/** Somebody who can sign in. */
export const personRow = (client: Db, id: string): Promise<Person | undefined> =>
  one<Person>(client, `select id, name, email, role from person where id = $1 and state = 'active'`, [id]);

/** Those who may be able to give rights in a project, but for one. */
export const possibleManagers = (client: Db, projectId: string, without: string): Promise<PersonRow[]> =>
  many<PersonRow>(
    client,
    `select id, name, role from person
     where id <> $2 and state = 'active' and (
       role in ('administrator', 'lead') or id in (select person_id from access where project_id = $1))
     order by name`,
    [projectId, without],
  );

export interface GivenAccess {
  readonly personId: string | null;
  readonly role: ProjectRole | null;
  readonly rights: readonly Right[] | null;
}

/** Says something of a person, or of everybody, at a place, in place of what was said there. */
export async function putAccess(
  client: Db,
  { projectId, folderId }: Place,
  { personId, role, rights }: GivenAccess,
  by: string,
): Promise<void> {
  await client.query(
    `insert into access (project_id, folder_id, person_id, role, rights, set_by) values ($1, $2, $3, $4, $5, $6)
     on conflict (project_id, coalesce(folder_id, '${TOP}'), coalesce(person_id, '${TOP}'))
     do update set role = excluded.role, rights = excluded.rights, set_by = excluded.set_by, set_at = now()`,
    [projectId, folderId, personId, role, rights, by],
  );
}

export async function dropAccess(client: Db, { projectId, folderId }: Place, personId: string | null): Promise<void> {
  await client.query(
    `delete from access where project_id = $1 and coalesce(folder_id, '${TOP}') = coalesce($2, '${TOP}'::uuid)
       and coalesce(person_id, '${TOP}') = coalesce($3, '${TOP}'::uuid)`,
    [projectId, folderId, personId],
  );
}

export const placeName = async (client: Db, { projectId, folderId }: Place): Promise<string> =>
  (
    await one<{ name: string }>(
      client,
      `select coalesce((select name from folder where id = $2 and project_id = $1), name) as name
       from project where id = $1`,
      [projectId, folderId],
    )
  )?.name ?? '';

export interface FilePlaceRow {
  readonly id: string;
  readonly project_id: string;
  readonly folder_id: string | null;
  readonly deleted: boolean;
  readonly name: string;
}

export const filePlaces = (client: Db, ids: readonly string[]): Promise<FilePlaceRow[]> =>
  many<FilePlaceRow>(
    client,
    'select id, project_id, folder_id, deleted_in is not null as deleted, name from file where id = any($1)',
    [ids],
  );

/** Where a version's file lies, and whether it is the newest of the main line of a file that is there. */
export const versionPlaceRow = (
  client: Db,
  versionId: string,
): Promise<{ project_id: string; folder_id: string | null; newest: boolean } | undefined> =>
  one(
    client,
    `select f.project_id, f.folder_id, f.deleted_in is null and l.position = 0
       and not exists (
         select 1 from version later
         where later.store_id = v.store_id and later.line_id = v.line_id and later.number > v.number) as newest
     from version v join file f on f.id = v.file_id join line l on l.id = v.line_id
     where v.store_id = $1 and v.id = $2`,
    [STORE, versionId],
  );

/** Where the file lies that somebody themselves is about to do something to. */
export const proposalPlaceRow = (
  client: Db,
  id: string,
  personId: string,
): Promise<{ project_id: string; folder_id: string | null; newest: boolean } | undefined> =>
  one(
    client,
    `select f.project_id, f.folder_id, true as newest from proposal p join file f on f.id = p.file_id
     where p.store_id = $1 and p.id = $2 and p.person_id = $3`,
    [STORE, id, personId],
  );

export interface ScopeRow {
  readonly project_id: string;
  readonly folder_id: string | null;
  readonly person_id: string | null;
  readonly role: ProjectRole | null;
  readonly rights: Right[] | null;
}

/** All that is said of a person and of everybody, everywhere or in one project. */
export const scopeRows = (client: Db, personId: string, projectId: string | undefined): Promise<ScopeRow[]> =>
  many<ScopeRow>(
    client,
    `select project_id, folder_id, person_id, role, rights from access
     where (person_id = $1 or person_id is null) and ($2::uuid is null or project_id = $2)`,
    [personId, projectId ?? null],
  );

export const folderTree = (
  client: Db,
  projects: readonly string[],
): Promise<{ id: string; project_id: string; parent_id: string | null }[]> =>
  many(client, 'select id, project_id, parent_id from folder where project_id = any($1)', [projects]);
