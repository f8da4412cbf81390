/** A stretch of versions as a picture that moves. */
import type { z } from 'zod';
import type { filmQuerySchema } from '../../contract/film.ts';
import type { Person } from '../../contract/api.ts';
import { runTask } from '../compute/pool.ts';
import { db } from '../db/pool.ts';
import { thumbnailOf } from '../facts/thumbnail.ts';
import { attachment } from '../http/disposition.ts';
import { permitFile } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import { versionsOfFile, type VersionRow } from './rows.ts';

/** Longer side of its pictures, in pixels: to be sent to somebody, not to be worked with. */
const SIDE = 800;
/** Base of the time that it may take, in seconds. */
const SECONDS = 60;

const date = new Intl.DateTimeFormat('en-GB', {
  ...({ day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' } as const),
  timeZone: 'UTC',
});

const labelOf = ({ number, title, by_name: by, made_at: at }: VersionRow): string =>
  [`v${number}`, title ?? '', by, date.format(at)].filter(Boolean).join('   ');

export async function filmOf(
  by: Person,
  fileId: string,
  { versions, as, pace, marks }: z.output<typeof filmQuerySchema>,
): Promise<Response> {
  await permitFile(by, 'see old versions', fileId);
  const known = new Map((await versionsOfFile(db(), fileId)).map((row) => [row.id, row]));
  const rows = versions.map((id) => {
    const row = known.get(id);
    if (!row) throw notFound('version');
    return row;
  });
  const pictures = await Promise.all(rows.map((row) => thumbnailOf(row, 1024)));
  const frames = rows.flatMap((row, k) => {
    const png = pictures[k];
    return png ? [{ png: Uint8Array.from(png), label: labelOf(row) }] : [];
  });
  if (frames.length === 0) throw new Problem(415, 'no-picture', 'None of these versions has a picture.');
  const options = { form: as, pace, marks: marks === 'yes', side: SIDE };
  const film = await runTask('film', { frames, options }, { seconds: SECONDS });
  const [first] = rows;
  const last = rows.at(-1);
  const name = (first?.upload_name ?? '').replace(/\.[^.]+$/, '');
  const fileName = `${name} v${first?.number ?? ''} to v${last?.number ?? ''}.${as}`;
  return new Response(Uint8Array.from(film), {
    headers: {
      'content-type': `image/${as}`,
      'content-disposition': attachment(fileName),
      'cache-control': 'no-store',
    },
  });
}
