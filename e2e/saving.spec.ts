/** Work that is saved as it goes, in the browser and on a desk. */
import { execFile, spawn } from 'node:child_process';
import { mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { countAtOnce, projectOf, save, versionsOf } from './saves.ts';
import { drawing, expect, makeDrawing, post, ready, signIn, sql, stop, test } from './support.ts';

const plan = (x: number): string => drawing(`<rect id="deck" x="${x}" y="60" width="160" height="60"/>`);

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

test('a sitting is one bar and one step; it is left without keeping in one act, which can be undone', async ({
  page,
}) => {
  const id = await makeDrawing(page, plan(10));
  await countAtOnce(page, await projectOf(page, id));
  let base = (await versionsOf(page, id))[0]?.id ?? '';
  for (const x of [20, 30, 40]) base = await save(page, id, plan(x), base);
  await page.goto(`/files/${id}`);
  await ready(page);
  const sitting = page.getByRole('region', { name: 'Sitting' });
  await expect(sitting).toContainText('3 saves by Tobias Renn');
  await expect(page.getByRole('group', { name: 'Versions' }).getByRole('button', { name: /sitting/ })).toHaveCount(1);
  // One step back is the version before the sitting; with Alt, each save.
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(page.getByText('v3 Autosave')).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('v1 Check-in')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('v4 Autosave')).toBeVisible();
  await sitting.getByRole('button', { name: 'Back to how it was when it began' }).click();
  await expect(page.getByText('It is v5 now; nothing was removed.')).toBeVisible();
  const newest = (await versionsOf(page, id)).at(-1);
  expect(await (await page.request.get(`/api/v1/versions/${newest?.id}/content`)).text()).toBe(plan(10));
  await stop(page, 4).click();
  await page.keyboard.press('w');
  await page.getByRole('dialog').getByRole('button', { name: 'Bring v4 forward as v6' }).click();
  await expect(stop(page, 6)).toBeVisible();
});

test('when a sitting is over is said for the project, and the rail follows it', async ({ page }) => {
  const id = await makeDrawing(page, plan(10));
  const projectId = await projectOf(page, id);
  await countAtOnce(page, projectId);
  let base = (await versionsOf(page, id))[0]?.id ?? '';
  for (const x of [20, 30, 40]) base = await save(page, id, plan(x), base);
  // As if the last came twenty minutes after the others.
  const [, , third] = await versionsOf(page, id);
  await sql(`update version set made_at = made_at - interval '20 minutes' where file_id = $1 and number <= $2`, [
    id,
    third?.number ?? 0,
  ]);
  const rail = page.getByRole('group', { name: 'Versions' });
  try {
    await page.goto(`/files/${id}`);
    await expect(rail.getByRole('button', { name: /sitting/ })).toHaveAccessibleName(/3 saves|v4/);
    await page.goto(`/projects/${projectId}`);
    await page.getByLabel('When a sitting is over').selectOption('Sittings: 15 minutes’ pause');
    await expect(page.getByLabel('When a sitting is over')).toHaveValue('15');
    await page.goto(`/files/${id}`);
    await expect(stop(page, 3)).toBeVisible();
    await expect(stop(page, 4)).toHaveAccessibleName(/autosave/);
  } finally {
    await sql(`update version set made_at = made_at + interval '20 minutes' where file_id = $1 and number <= $2`, [
      id,
      third?.number ?? 0,
    ]);
  }
});

test('the practice editor saves as one goes, and a save gets a title', async ({ page }) => {
  const id = await makeDrawing(page, plan(10), 'landing.svg');
  const projectId = await projectOf(page, id);
  await countAtOnce(page, projectId);
  await page.goto(`/projects/${projectId}/desk`);
  await page.getByRole('button', { name: 'Use the practice folder' }).click();
  await page
    .getByRole('button', { name: /^Get the 1/ })
    .or(page.getByRole('button', { name: /^Get/ }))
    .first()
    .click();
  await page.getByRole('button', { name: 'Edit landing.svg' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Save to Ovrel as I go').check();
  await dialog.getByRole('button', { name: 'Move a shape' }).click();
  await expect(dialog.getByText('Saved as v2.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Move a shape' }).click();
  await expect(dialog.getByText('Saved as v3.')).toBeVisible();
  await dialog.getByLabel('Title of this version').fill('For the council');
  await dialog
    .getByRole('button', { name: 'Recolour' })
    .or(dialog.getByRole('button', { name: 'Move a shape' }))
    .first()
    .click();
  await dialog.getByRole('button', { name: 'Save and title' }).click();
  await expect(dialog.getByText('Saved as v4.')).toBeVisible();
  expect((await versionsOf(page, id)).map((v) => [v.kind, v.title])).toEqual([
    ['check-in', null],
    ['autosave', null],
    ['autosave', null],
    ['autosave', 'For the council'],
  ]);
});

test('where people work by check-outs, saves stand on a line of their own until the check-in', async ({ page }) => {
  const id = await makeDrawing(page, plan(10));
  const [first] = await versionsOf(page, id);
  await page.request.post('/api/v1/checkouts', { data: { files: [id] } });
  await save(page, id, plan(20), first?.id ?? '');
  await page.goto(`/files/${id}`);
  await ready(page);
  await expect(page.getByText('v1 Check-in')).toBeVisible();
  await expect(page.locator('.ov-rail')).toContainText('saves of Tobias Renn');
});

test('a desk that is watched sends each save of a program', async ({ page, baseURL }) => {
  const id = await makeDrawing(page, plan(10), 'landing.svg');
  const projectId = await projectOf(page, id);
  await countAtOnce(page, projectId);
  const { token } = await post<{ token: string }>(page, '/tokens', { name: 'laptop', scope: 'desk', days: 1 });
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-watch-'));
  const ovrel = join(import.meta.dirname, '../node_modules/.bin/ovrel');
  const run = (...argv: string[]): ReturnType<typeof spawn> =>
    spawn(ovrel, ['desk', ...argv], { cwd: folder, env: { ...process.env, OVREL_TOKEN: token } });
  const ended = (child: ReturnType<typeof spawn>): Promise<number | null> =>
    new Promise((done) => child.once('exit', done));
  try {
    expect(await ended(run('connect', baseURL ?? '', projectId))).toBe(0);
    expect(await ended(run('get'))).toBe(0);
    const watching = run('watch', '--quiet', '300ms');
    const isOver = ended(watching);
    for (const [k, x] of [20, 30].entries()) {
      writeFileSync(join(folder, 'landing.svg'), plan(x));
      await expect.poll(async () => (await versionsOf(page, id)).length, { timeout: 30_000 }).toBe(k + 2);
    }
    watching.kill('SIGTERM');
    expect(await isOver).toBe(0);
    expect((await versionsOf(page, id)).map((v) => v.kind)).toEqual(['check-in', 'autosave', 'autosave']);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('a folder of old copies comes in as one file with its history, from the command line', async ({
  page,
  baseURL,
}) => {
  const id = await makeDrawing(page, plan(10), 'landing.svg');
  const projectId = await projectOf(page, id);
  const { token } = await post<{ token: string }>(page, '/tokens', { name: 'laptop', scope: 'desk', days: 1 });
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-copies-'));
  const grown = Array.from(
    { length: 40 },
    (_, k) => `<rect id="p${k}" x="${k * 9}" y="${(k * 31) % 200}" width="5" height="5"/>`,
  );
  const copy = (name: string, day: number, ...more: string[]): void => {
    const path = join(folder, name);
    writeFileSync(path, drawing([...grown, ...more].join('\n')));
    const at = new Date(Date.UTC(2026, 8, day));
    utimesSync(path, at, at);
  };
  copy('quay.svg', 1);
  copy('quay-v2.svg', 2, '<text id="t">With the shelter</text>');
  copy('quay-final.svg', 3, '<text id="t">With the shelter</text>', '<circle id="c" r="4"/>');
  const ovrel = join(import.meta.dirname, '../node_modules/.bin/ovrel');
  const run = (...argv: string[]): Promise<string> =>
    new Promise((done) => {
      execFile(ovrel, ['intake', folder, ...argv], { env: { ...process.env, OVREL_TOKEN: token } }, (_, out, said) =>
        done(`${out}${said}`),
      );
    });
  try {
    const planned = JSON.parse(await run('--json')) as { files: { name: string; members: { path: string }[] }[] };
    expect(planned.files.map((f) => [f.name, f.members.map((m) => m.path)])).toEqual([
      ['quay.svg', ['quay.svg', 'quay-v2.svg', 'quay-final.svg']],
    ]);
    expect(await run('--into', projectId, '--server', baseURL ?? '')).toContain('3 copies are one file now');
    await page.goto(`/projects/${projectId}`);
    await page.getByRole('link', { name: 'quay.svg' }).first().click();
    await expect(stop(page, 3)).toBeVisible();
    await expect(page.getByText('quay-final.svg').first()).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
