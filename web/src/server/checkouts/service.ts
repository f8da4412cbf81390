/** Check-outs: at most one holder a file, by the table's key. Others can ask, and some can take over. */
import type { Person } from '../../contract/api.ts';
import type { Checkout, Standing } from '../../contract/desk.ts';
import { db, many, one, transaction, type Client, type Db } from '../db/pool.ts';
import { record } from '../ledger/ledger.ts';
import { presentAt, tell } from '../live/live.ts';
import { permit, permitFile, permitVersion, scopeOf } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { STORE } from '../store/copy.ts';

interface Held {
  file_id: string;
  file_name: string;
  project_id: string;
  by_id: string;
  by_name: string;
  at: Date;
  desk: string;
  number: number;
  source: number | null;
}

const heldSelect = `
  select c.file_id, f.name as file_name, f.project_id, p.id as by_id, p.name as by_name, c.at, c.desk, c.number, source.number as source
  from checkout c join file f on f.id = c.file_id join person p on p.id = c.person_id
  left join version source on source.store_id = ${STORE} and source.id = c.source_id`;

async function withRequests(rows: readonly Held[]): Promise<Checkout[]> {
  const asked =
    rows.length === 0
      ? []
      : await many<{ file_id: string; id: string; name: string; reason: string; at: Date }>(
          db(),
          `
    select r.file_id, p.id, p.name, r.reason, r.at from checkout_request r join person p on p.id = r.person_id where r.file_id = any($1) order by r.at`,
          [rows.map((r) => r.file_id)],
        );
  return rows.map((r) => ({
    fileId: r.file_id,
    fileName: r.file_name,
    projectId: r.project_id,
    by: { id: r.by_id, name: r.by_name },
    at: r.at.toISOString(),
    desk: r.desk,
    number: r.number,
    source: r.source,
    requests: asked
      .filter((a) => a.file_id === r.file_id)
      .map((a) => ({ by: { id: a.id, name: a.name }, reason: a.reason, at: a.at.toISOString() })),
  }));
}

/** Check-outs of a project, or of the person who asks, or all. */
export async function listHeld(
  by: Person,
  { project, mine }: { project?: string | undefined; mine?: 'yes' | 'no' | undefined },
): Promise<Checkout[]> {
  const values: unknown[] = [project ?? null, mine === 'yes' ? by.id : null];
  const seen = (await scopeOf(by, 'see', project)).condition('f.project_id', 'f.folder_id', values);
  // What one holds oneself is listed whatever else is closed: it can be given up.
  return withRequests(
    await many<Held>(
      db(),
      `${heldSelect} where ($1::uuid is null or f.project_id = $1) and ($2::uuid is null or c.person_id = $2) and (c.person_id = $${values.push(by.id)} or ${seen}) order by c.at desc limit 2000`,
      values,
    ),
  );
}

interface Over {
  id: string;
  name: string;
  reason: string;
  at: Date;
  number: number;
  version_id: string;
}

const takenOverOf = ({ id, name, reason, at, number, version_id }: Over): NonNullable<Standing['takenOver']> => ({
  by: { id, name },
  reason,
  at: at.toISOString(),
  number,
  versionId: version_id,
});

export async function standingOf(by: Person, fileId: string): Promise<Standing> {
  await permitFile(by, 'see', fileId);
  const [held, over, present] = await Promise.all([
    many<Held>(db(), `${heldSelect} where c.file_id = $1`, [fileId]).then(withRequests),
    one<Over>(
      db(),
      `
      select p.id, p.name, t.reason, t.at, t.number, v.id as version_id
      from taken_over t join person p on p.id = t.by_id join line l on l.file_id = t.file_id and l.position = 0
      join version v on v.store_id = ${STORE} and v.line_id = l.id and v.number = t.number
      where t.file_id = $1 and t.person_id = $2`,
      [fileId, by.id],
    ),
    presentAt(fileId),
  ]);
  return {
    checkout: held[0] ?? null,
    takenOver: over ? takenOverOf(over) : null,
    present,
  };
}

const clock = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
});
const since = (at: Date): string => clock.format(at).replace('Sept', 'Sep');

/** Throws where somebody else has the file; what the sender can do instead comes with it. */
export async function refuseHeldByOther(client: Db, fileId: string, by: Person): Promise<void> {
  const held = await one<Held>(client, `${heldSelect} where c.file_id = $1`, [fileId]);
  if (!held || held.by_id === by.id) return;
  throw new Problem(
    409,
    'checked-out',
    `“${held.file_name}” is checked out by ${held.by_name} since ${since(held.at)}. You can read it, branch off, or ask for it.`,
    { by: held.by_name, fileId },
  );
}

/** Each place that the files lie in is asked for once. */
async function permitFiles(by: Person, ids: readonly string[]): Promise<void> {
  const places = await many<{ project_id: string; folder_id: string | null }>(
    db(),
    'select distinct project_id, folder_id from file where id = any($1)',
    [ids],
  );
  for (const p of places)
    await permit(by, 'check out', { projectId: p.project_id, folderId: p.folder_id }, 'check files out');
}

/** Takes the right to change several files: all of them, or none. With `from`, an older version of the one file, the holder goes on from that. */
export async function checkOut(by: Person, fileIds: readonly string[], desk = '', from?: string): Promise<Checkout[]> {
  const ids = [...new Set(fileIds)].sort();
  await permitFiles(by, ids);
  if (from) await permitVersion(by, from);
  await transaction(async (client) => {
    const files = await many<{
      id: string;
      name: string;
      project_id: string;
      deleted_in: string | null;
      number: number;
    }>(
      client,
      `
      select f.id, f.name, f.project_id, f.deleted_in, v.number from file f join line l on l.file_id = f.id and l.position = 0
      cross join lateral (select number from version where store_id = $2 and line_id = l.id order by number desc limit 1) v
      where f.id = any($1) order by f.id for share of f`,
      [ids, STORE],
    );
    if (files.length < ids.length) throw notFound('file');
    const gone = files.find((f) => f.deleted_in);
    if (gone) throw new Problem(409, 'deleted', `“${gone.name}” is deleted. Bring it back first.`);
    const taken = await many<{ file_id: string }>(
      client,
      `
      insert into checkout (file_id, person_id, desk, number) select f, $2, $3, n from unnest($1::uuid[], $4::int[]) as t(f, n) order by f
      on conflict (file_id) do nothing returning file_id`,
      [files.map((f) => f.id), by.id, desk, files.map((f) => f.number)],
    );
    const fresh = new Set(taken.map((t) => t.file_id));
    const held = await many<Held>(client, `${heldSelect} where c.file_id = any($1) and c.person_id <> $2`, [
      ids,
      by.id,
    ]);
    if (held.length) {
      const said = held
        .slice(0, 5)
        .map((h) => `“${h.file_name}” is checked out by ${h.by_name} since ${since(h.at)}`)
        .join('; ');
      throw new Problem(
        409,
        'checked-out',
        `${said}${held.length > 5 ? `; and ${held.length - 5} more` : ''}. ${ids.length > 1 ? 'None of the files was checked out for you.' : 'You can read it, branch off, or ask for it.'}`,
        { files: held.map((h) => h.file_id), by: held[0]?.by_name },
      );
    }
    if (from) {
      const source = await one<{ file_id: string }>(
        client,
        'select file_id from version where store_id = $1 and id = $2',
        [STORE, from],
      );
      if (ids.length > 1 || source?.file_id !== ids[0])
        throw new Problem(
          400,
          'bad-input',
          'An older version to go on from must be one of the file that is checked out.',
        );
      await client.query('update checkout set source_id = $2 where file_id = $1', [ids[0], from]);
    }
    await client.query('delete from taken_over where person_id = $1 and file_id = any($2)', [by.id, [...fresh]]);
    for (const f of files)
      if (fresh.has(f.id)) await tell(client, { kind: 'checkout', file: f.id, project: f.project_id });
    await record(
      client,
      files
        .filter((f) => fresh.has(f.id))
        .map((f) => ({
          act: 'checked out' as const,
          by,
          subject: `${f.name}${desk ? ` on ${desk}` : ''}`,
          projectId: f.project_id,
          fileId: f.id,
        })),
    );
  });
  return withRequests(await many<Held>(db(), `${heldSelect} where c.file_id = any($1)`, [ids]));
}

/** Gives the right back without a version. Files that the person does not hold are passed over; gives how many were held. */
export async function giveUp(by: Person, fileIds: readonly string[]): Promise<number> {
  return transaction(async (client) => {
    const gone = await many<{ file_id: string; name: string; project_id: string }>(
      client,
      `
      delete from checkout c using file f where f.id = c.file_id and c.person_id = $1 and c.file_id = any($2) returning c.file_id, f.name, f.project_id`,
      [by.id, [...fileIds].sort()],
    );
    for (const g of gone) await tell(client, { kind: 'checkout', file: g.file_id, project: g.project_id });
    await record(
      client,
      gone.map((g) => ({ act: 'gave up' as const, by, subject: g.name, projectId: g.project_id, fileId: g.file_id })),
    );
    return gone.length;
  });
}

/** The older version that the holder of a file goes on from. */
export const sourceOf = async (client: Db, fileId: string, by: string): Promise<string | undefined> =>
  (
    await one<{ source_id: string | null }>(
      client,
      'select source_id from checkout where file_id = $1 and person_id = $2',
      [fileId, by],
    )
  )?.source_id ?? undefined;

/** A check-in by its holder ends the check-out, or with `keep` what it went on from. */
export async function release(client: Client, fileId: string, by: string, keep = false): Promise<void> {
  await client.query(
    keep
      ? 'update checkout set source_id = null where file_id = $1 and person_id = $2'
      : 'delete from checkout where file_id = $1 and person_id = $2',
    [fileId, by],
  );
}

async function heldFile(client: Client, fileId: string): Promise<Held> {
  const held = await one<Held>(client, `${heldSelect} where c.file_id = $1 for update of c`, [fileId]);
  if (held) return held;
  const file = await one<{ name: string }>(client, 'select name from file where id = $1', [fileId]);
  if (!file) throw notFound('file');
  throw new Problem(409, 'not-checked-out', `“${file.name}” is not checked out any more. You can check it out now.`);
}

/** Asks the holder to give a file back. */
export async function askFor(by: Person, fileId: string, reason: string): Promise<Standing> {
  await permitFile(by, 'check out', fileId);
  await transaction(async (client) => {
    const held = await heldFile(client, fileId);
    if (held.by_id === by.id) throw new Problem(409, 'yours', `You hold “${held.file_name}” yourself.`);
    await client.query(
      'insert into checkout_request (file_id, person_id, reason) values ($1, $2, $3) on conflict (file_id, person_id) do update set reason = excluded.reason, at = now()',
      [fileId, by.id, reason],
    );
    await tell(client, { kind: 'checkout', file: fileId, project: held.project_id });
    await record(client, [
      {
        act: 'asked for',
        by,
        subject: `${held.file_name}, held by ${held.by_name}`,
        reason,
        projectId: held.project_id,
        fileId,
      },
    ]);
  });
  return standingOf(by, fileId);
}

/** Takes a check-out away from its holder, whose next check-in is then offered as a branch. */
export async function takeOver(by: Person, fileId: string, reason: string): Promise<Standing> {
  await permitFile(by, 'take over', fileId);
  await transaction(async (client) => {
    const held = await heldFile(client, fileId);
    if (held.by_id === by.id) throw new Problem(409, 'yours', `You hold “${held.file_name}” yourself.`);
    await client.query(
      `
      insert into taken_over (file_id, person_id, by_id, reason, number) values ($1, $2, $3, $4, $5)
      on conflict (file_id, person_id) do update set by_id = excluded.by_id, reason = excluded.reason, number = excluded.number, at = now()`,
      [fileId, held.by_id, by.id, reason, held.number],
    );
    await client.query(`update checkout set person_id = $2, desk = '', at = now() where file_id = $1`, [fileId, by.id]);
    await client.query('delete from checkout_request where file_id = $1', [fileId]);
    await tell(client, { kind: 'checkout', file: fileId, project: held.project_id });
    await record(client, [
      {
        act: 'took over',
        by,
        subject: `${held.file_name} from ${held.by_name}`,
        reason,
        projectId: held.project_id,
        fileId,
      },
    ]);
  });
  return standingOf(by, fileId);
}
