/**
 * A desk of 10,000 files and 5 GB: the first look at a real folder, the second, and one after an edit. `npm run bench
 * desk [files]`.
 */
import { createHash, randomBytes } from 'node:crypto';
import { appendFileSync, createReadStream, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import pg from 'pg';
import { signIn } from '../e2e/support.ts';
import { line } from './measure.ts';
import type { Target } from './target.ts';

const SIZE = 512 * 1024;

export async function benchDesk(target: Target, databaseUrl: string, count: number): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-desk-'));
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  try {
    const paths = Array.from({ length: count }, (_, i) => `Part ${Math.floor(i / 500)}/drawing-${i}.bin`);
    const bytes = randomBytes(SIZE);
    for (const [i, path] of paths.entries()) {
      if (i % 500 === 0) mkdirSync(join(folder, `Part ${i / 500}`));
      bytes.writeUInt32LE(i, 0);
      writeFileSync(join(folder, path), bytes);
    }
    const start = performance.now();
    for (const path of paths) await hashFile(join(folder, path));
    const baseline = performance.now() - start;
    const project = await manyFiles(target, databaseUrl, count);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: target.address });
    page.setDefaultTimeout(900_000);
    await signIn(page, 'tobias');
    await page.goto(`/projects/${project}/desk`);
    const first = await timed(page, () => drop(page, folder));
    const second = await timed(page, () => page.getByRole('button', { name: 'Look again' }).click());
    for (let i = 0; i < 100; i++) appendFileSync(join(folder, paths[i * 97] ?? ''), 'edited');
    const third = await timed(page, () => page.getByRole('button', { name: 'Look again' }).click());
    const size = `${count.toLocaleString('en')} files, ${((count * SIZE) / 1e9).toFixed(1)} GB`;
    line(
      `first look at a desk of ${size} ÷ hashing them alone`,
      (first / baseline).toFixed(2),
      `${(first / 1000).toFixed(0)} s against ${(baseline / 1000).toFixed(0)} s in one thread of Node`,
    );
    line('second look, nothing changed', `${(second / 1000).toFixed(1)} s`, 'goal: seconds');
    line('third look, a hundred files edited', `${(third / 1000).toFixed(1)} s`, 'goal: seconds');
    await page.getByRole('button', { name: 'Look again' }).click();
    const cancelled = performance.now();
    await page.getByRole('button', { name: 'Cancel' }).click();
    await page.getByRole('button', { name: 'Cancel' }).waitFor({ state: 'detached' });
    line('from Cancel to the page without progress', `${Math.round(performance.now() - cancelled)} ms`, '');
  } finally {
    await browser.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function hashFile(path: string): Promise<void> {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(path)) hash.update(piece as Buffer);
  hash.digest();
}

/** From an act to the table that shows what it found. */
async function timed(page: Page, act: () => Promise<void>): Promise<number> {
  const start = performance.now();
  await act();
  await page
    .getByRole('progressbar')
    .or(page.getByText('Finding the files'))
    .first()
    .waitFor({ state: 'attached' })
    .catch(() => undefined);
  await page.getByText('Finding the files').waitFor({ state: 'detached' });
  await page.getByRole('progressbar').waitFor({ state: 'detached' });
  await page.getByRole('table', { name: 'Files of the desk' }).waitFor();
  return performance.now() - start;
}

async function drop(page: Page, folder: string): Promise<void> {
  const box = await page.getByRole('group', { name: 'Connect a folder, or drop it here' }).boundingBox();
  const session = await page.context().newCDPSession(page);
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
    await session.send('Input.dispatchDragEvent', {
      type,
      x: (box?.x ?? 0) + 20,
      y: (box?.y ?? 0) + 20,
      data: { items: [], files: [folder], dragOperationsMask: 1 },
    });
  }
}

/** A project with as many files under the same paths; all of one content, so that each stands as changed. */
async function manyFiles(target: Target, databaseUrl: string, count: number): Promise<string> {
  const { id } = (await target.json('/projects', 'POST', { name: `Desk of ${count}` })) as { id: string };
  const form = new FormData();
  form.append('file', new Blob(['one content for all']), 'first.bin');
  const { file } = (await target.send(`/projects/${id}/files`, form)) as { file: { id: string } };
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query(
      `
      with parts as (
        insert into folder (project_id, name, created_by) select $1, 'Part ' || n, p.created_by from generate_series(0, ($2::int - 1) / 500) n, project p where p.id = $1 returning id, name, created_by
      ), made as (
        insert into file (project_id, folder_id, name, created_by) select $1, parts.id, 'drawing-' || n || '.bin', parts.created_by from generate_series(0, $2::int - 1) n join parts on parts.name = 'Part ' || n / 500 returning id, created_by
      ), lined as (insert into line (file_id, name, position) select id, 'main line', 0 from made returning id, file_id)
      insert into version (file_id, line_id, number, content_id, kind, note, upload_name, made_by)
      select lined.file_id, lined.id, 1, (select content_id from version where file_id = $3), 'check-in', '', 'drawing.bin', made.created_by from lined join made on made.id = lined.file_id`,
      [id, count, file.id],
    );
    await client.query('analyze');
  } finally {
    await client.end();
  }
  return id;
}
