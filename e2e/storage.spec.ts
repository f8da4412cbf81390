import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import yauzl from 'yauzl';
import { addVersion, drawing, expect, makeDrawing, post, signIn, sql, test } from './support.ts';

const bolts = (edit: number): string =>
  drawing(
    Array.from(
      { length: 400 },
      (_, i) => `<circle id="bolt-${i}" cx="${(i * 37) % 400}" cy="${(i * 53) % 300}" r="${i === edit ? 9 : 3}"/>`,
    ).join('\n'),
  );

test('the Storage page says what is kept, what it takes and what saved the rest', async ({ page }) => {
  await signIn(page, 'jory');
  await page.getByRole('link', { name: 'Storage' }).click();
  await expect(page.getByRole('heading', { name: 'Storage' })).toBeVisible();
  await expect(page.locator('canvas[data-ready=true]')).toBeVisible();
  const row = page
    .getByRole('region', { name: 'What each file’s history costs' })
    .getByRole('row')
    .filter({ hasText: 'wayfinding-signs.svg' });
  await expect(row).toContainText('SVG drawing');
  await expect(row.getByRole('cell').last()).toHaveText(/^\d+(\.\d)? %$/);
  await expect(page.getByRole('table', { name: 'What saved how much' })).toContainText('Stored as differences');
  await expect(page.getByRole('region', { name: 'Background work' })).toContainText('2 workers');
  // A reader looks on.
  await expect(page.getByRole('button', { name: 'Check everything' })).toHaveCount(0);
});

test('a check of everything runs with progress; damage is named, never served, and gone when repaired', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const fileId = await makeDrawing(page, bolts(1), 'damaged-pier.svg');
  await addVersion(page, fileId, bolts(2), 'damaged-pier.svg');
  const version = await sql(
    `select v.id, c.id as content from version v join content c on c.id = v.content_id where v.file_id = $1 and v.number = 1`,
    [fileId],
  );
  const { id, content } = version.rows[0]!;
  await expect
    .poll(
      async () =>
        (
          await sql(
            'select count(*) as n from version v join content c on c.id = v.content_id where v.file_id = $1 and c.packed',
            [fileId],
          )
        ).rows[0]!['n'],
      { timeout: 60_000 },
    )
    .toBe('2');
  const chunk = (
    await sql(
      `select ('x' || encode(substring(manifest for 8), 'hex'))::bit(64)::bigint as chunk from content where id = $1`,
      [content],
    )
  ).rows[0]!['chunk'];
  const flip = (): Promise<unknown> =>
    sql('update chunk set data = set_byte(data, 30, get_byte(data, 30) # 8) where id = $1', [chunk]);
  await page.goto('/storage');
  await flip();
  await page.getByRole('button', { name: 'Check everything' }).click();
  await expect(page.getByText(/was put in line/)).toBeVisible();
  const last = page.getByRole('region', { name: 'Last check' });
  await expect(last).toContainText(/1 stored piece is damaged: 2 versions of 1 file/, { timeout: 120_000 });
  await expect(last.getByRole('listitem')).toHaveText(/damaged-pier\.svg in Test .*: v1, v2/);
  const refused = await page.request.get(`/api/v1/versions/${id}/content`);
  expect(refused.status()).toBe(500);
  expect(((await refused.json()) as { detail: string }).detail).toMatch(/damaged and was not given out/);
  await flip();
  await page.getByRole('button', { name: 'Check everything' }).click();
  await expect(last).toContainText(/All is well/, { timeout: 120_000 });
  expect((await page.request.get(`/api/v1/versions/${id}/content`)).status()).toBe(200);
});

test('what nothing needs is removed when asked for, and said', async ({ page }) => {
  await signIn(page, 'tobias');
  await page.goto('/storage');
  await page.getByRole('button', { name: 'Remove what nothing needs' }).click();
  const row = page
    .getByRole('table', { name: 'Jobs' })
    .getByRole('row')
    .filter({ hasText: 'Removing what nothing needs' })
    .first();
  await expect(row).toContainText(/done: (there was nothing to remove|\d+ pieces? removed)/, { timeout: 60_000 });
  await expect(row).toContainText('Tobias Renn');
});

test('a project comes as a ZIP as it was at a moment, byte for byte', async ({ page }) => {
  await signIn(page, 'jory');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('button', { name: 'Download all' }).click();
  await page.getByLabel('As it was at a moment').check();
  await page.getByLabel('Moment (UTC)').fill('2020-01-01T12:00');
  await page.getByRole('button', { name: 'Download', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: /no file here at that moment/ })).toBeVisible();
  await page.getByLabel('Moment (UTC)').fill('2026-10-20T09:00');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Download', exact: true }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Quillmere ferry landing 2026-10-20 0900.zip');
  const zip = await yauzl.fromBufferPromise(readFileSync(await download.path()));
  const found = new Map<string, string>();
  for await (const entry of zip.eachEntry()) {
    const hash = createHash('sha256');
    for await (const piece of await zip.openReadStreamPromise(entry)) hash.update(piece as Buffer);
    found.set(entry.fileName, hash.digest('hex'));
  }
  const expected = await sql(
    `select encode(c.hash, 'hex') as hash from version v join file f on f.id = v.file_id join project p on p.id = f.project_id join content c on c.id = v.content_id where p.name = 'Quillmere ferry landing' and f.name = 'wayfinding-signs.svg' and v.number = 4`,
  );
  expect(found.get('Graphics/wayfinding-signs.svg')).toBe(expected.rows[0]!['hash']);
  expect([...found.keys()]).toContain('Schedules/steel-schedule.csv');
});

test('two web processes and two workers share one database, and a worker that dies loses no work', async ({
  page,
  browser,
}) => {
  const second = await browser.newPage({ baseURL: process.env['OVREL_E2E_SECOND_URL']! });
  await signIn(page, 'tobias');
  await signIn(second, 'anselm');
  const fileId = await makeDrawing(page, bolts(0), 'shared-pier.svg');
  // A version through each web process in turn, from two people; a worker is killed in the middle.
  for (let n = 1; n <= 12; n++) {
    await addVersion(n % 2 ? second : page, fileId, bolts(n * 7), 'shared-pier.svg');
    if (n === 6) process.kill(Number(process.env['OVREL_E2E_WORKER']), 'SIGKILL');
  }
  await second.goto(`/files/${fileId}`);
  await expect(second.getByRole('button', { name: /^v13, / })).toBeVisible();
  await expect
    .poll(
      async () =>
        (await sql(`select count(*) as n from job where state in ('waiting', 'running') and kind in ('look', 'pack')`))
          .rows[0]!['n'],
      { timeout: 150_000, intervals: [1000] },
    )
    .toBe('0');
  const left = await sql(
    `
    select count(*) as versions, count(*) filter (where c.packed) as packed, count(*) filter (where exists (select 1 from fact k where k.content_id = c.id and k.kind = 'thumbnail.96')) as drawn, count(distinct v.number) as numbers
    from version v join content c on c.id = v.content_id where v.file_id = $1`,
    [fileId],
  );
  expect(left.rows[0]).toEqual({ versions: '13', packed: '13', drawn: '13', numbers: '13' });
  // Both web processes give the same bytes.
  const versions = (await (await page.request.get(`/api/v1/files/${fileId}/versions`)).json()) as {
    id: string;
    sha256: string;
  }[];
  for (const web of [page, second]) {
    for (const version of versions) {
      const bytes = await (await web.request.get(`/api/v1/versions/${version.id}/content`)).body();
      expect(createHash('sha256').update(bytes).digest('hex')).toBe(version.sha256);
    }
  }
  await second.close();
});

test('a waiting job can be cancelled by those who may', async ({ page }) => {
  await signIn(page, 'tobias');
  // Far in the future for the queue, so that no worker takes it.
  await sql(`insert into job (kind, key, title) values ('scrub', 'held', 'Held back for the test')`);
  await page.goto('/storage');
  await page.getByRole('button', { name: 'Cancel Held back for the test' }).click();
  await expect(page.getByText(/was cancelled before it began/)).toBeVisible();
  await post(page, '/jobs', { kind: 'tally' });
});
