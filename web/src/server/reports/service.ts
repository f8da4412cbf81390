/** The comparison of two versions as a file: a document, a table, data, or a drawing of the changes alone. */
import type { Person } from '../../contract/api.ts';
import type { ReportForm } from '../../contract/report.ts';
import { db } from '../db/pool.ts';
import { attachment } from '../http/disposition.ts';
import { compareVersions } from '../versions/comparisons.ts';
import { versionRow } from '../versions/rows.ts';
import { forms } from './forms.ts';
import { fileAndProject } from './rows.ts';

export async function reportOf(by: Person, versionA: string, versionB: string, as: ReportForm): Promise<Response> {
  const { comparison } = await compareVersions(by, versionA, versionB);
  const [a, b] = await Promise.all([versionRow(versionA), versionRow(versionB)]);
  const found = await fileAndProject(db(), b.file_id);
  const file = found?.name ?? 'file';
  const { mime, make } = forms[as];
  const body = await make({ comparison, a, b, file, project: found?.project ?? '' });
  const stem = file.replace(/\.[^.]+$/, '');
  return new Response(Uint8Array.from(body), {
    headers: {
      'content-type': mime,
      'content-disposition': attachment(`${stem} v${a.number} to v${b.number}.${as}`),
      'x-content-type-options': 'nosniff',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
    },
  });
}
