/** Rows of contents on their way, and of their parts. */
import { many, one, type Client, type Db } from '../db/pool.ts';

export interface UploadRow {
  readonly id: string;
  readonly size: number;
  readonly received: number;
}

// Sizes are far below what a double holds.
const COLUMNS = 'id, size::float8 as size, received::float8 as received';

export const insertUpload = (client: Db, by: string, size: number): Promise<UploadRow | undefined> =>
  one<UploadRow>(client, `insert into upload (person_id, size) values ($1, $2) returning ${COLUMNS}`, [by, size]);

/** Of that person; nobody else can see one. */
export const uploadRow = (client: Db, by: string, id: string): Promise<UploadRow | undefined> =>
  one<UploadRow>(client, `select ${COLUMNS} from upload where id = $2 and person_id = $1`, [by, id]);

/** The same, which nobody else adds to until the transaction ends. */
export const lockUpload = (client: Client, by: string, id: string): Promise<UploadRow | undefined> =>
  one<UploadRow>(client, `select ${COLUMNS} from upload where id = $2 and person_id = $1 for update`, [by, id]);

export async function insertPart(client: Client, id: string, at: number, bytes: Uint8Array): Promise<void> {
  await client.query('insert into upload_part (upload_id, at, bytes) values ($1, $2, $3)', [id, at, bytes]);
  await client.query('update upload set received = received + $2, touched_at = now() where id = $1', [
    id,
    bytes.length,
  ]);
}

export const partAt = (client: Db, id: string, at: number): Promise<{ bytes: Buffer } | undefined> =>
  one(client, 'select bytes from upload_part where upload_id = $1 and at = $2', [id, at]);

/** All of a person but the newest so many. */
export const dropMoreThan = (client: Db, by: string, kept: number): Promise<{ id: string }[]> =>
  many(
    client,
    `delete from upload where id in (select id from upload where person_id = $1 order by touched_at desc offset $2)
     returning id`,
    [by, kept],
  );

export const dropOldUploads = (client: Db, hours: number): Promise<{ id: string }[]> =>
  many(client, 'delete from upload where touched_at < now() - make_interval(hours => $1) returning id', [hours]);
