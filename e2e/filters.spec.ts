/** Filters of the rail and of histories: by kind, person, words and days; what is left out is counted. */
import { countAtOnce, projectOf, save, versionsOf } from './saves.ts';
import { addVersion, drawing, expect, makeDrawing, signIn, stop, test } from './support.ts';

const plan = (x: number): string => drawing(`<rect id="deck" x="${x}" y="60" width="160" height="60"/>`);

test('the rail is narrowed by kind, person and words, keys step over what is left out, and what is left out is counted', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, plan(10));
  await countAtOnce(page, await projectOf(page, id));
  let base = (await versionsOf(page, id))[0]?.id ?? '';
  for (const x of [20, 30]) base = await save(page, id, plan(x), base);
  const other = await browser.newPage();
  await signIn(other, 'ines');
  await addVersion(other, id, plan(40));
  await other.close();
  const last = (await versionsOf(page, id)).at(-1)?.id ?? '';
  await page.request.patch(`/api/v1/versions/${last}`, {
    data: { title: 'Agreed', description: 'with the harbour master' },
  });
  await addVersion(page, id, plan(50));
  await page.goto(`/files/${id}`);
  await page.getByRole('button', { name: 'Filter', exact: true }).click();
  const bar = page.getByRole('search', { name: 'Filter versions' });
  await bar.getByLabel('Autosaves').uncheck();
  await expect(page.getByText('3 of 5 versions')).toBeVisible();
  await expect(bar.getByRole('status')).toHaveText('2 versions filtered out');
  await expect(stop(page, 3)).toHaveCount(0);
  // A key goes over what is left out.
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('v4 Agreed')).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('v1 Check-in')).toBeVisible();
  await bar.getByRole('button', { name: 'Show all' }).click();
  await bar.getByLabel('Words of note or title').fill('harbour master');
  // What one looks at stays beside what was found.
  await expect(page.getByText('2 of 5 versions')).toBeVisible();
  await expect(stop(page, 4)).toBeVisible();
  await bar.getByRole('button', { name: 'Show all' }).click();
  await bar.getByLabel('Made by').selectOption('by Ines Calloway');
  await expect(page.getByText('2 of 5 versions')).toBeVisible();
  await bar.getByRole('button', { name: 'Show all' }).click();
  await expect(page.getByText('5 versions')).toBeVisible();
});

test('the history of a project and of a file are narrowed in the same way', async ({ page }) => {
  await signIn(page, 'jory');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('link', { name: 'History', exact: true }).click();
  const sets = page.locator('.ov-sets > li');
  const bar = page.getByRole('search', { name: 'Filter sets' });
  await bar.getByLabel('Words of note or title').fill('barbed arrow');
  await expect(sets).toHaveCount(1);
  await expect(sets).toContainText('reads from further away');
  await expect(bar.getByRole('status')).toHaveText(/^\d+ sets filtered out$/);
  await bar.getByRole('button', { name: 'Show all' }).click();
  await bar.getByLabel('Made by').selectOption('by Anselm Dray');
  await bar.getByLabel('From').fill('2026-10-14');
  await bar.getByLabel('To', { exact: true }).fill('2026-10-14');
  await expect(sets.first()).toContainText('14 Oct 2026');
  for (const text of await sets.locator('.ov-set-head').allInnerTexts())
    expect(text).toMatch(/Anselm Dray, 14 Oct 2026/);
  await sets.first().getByRole('link', { name: 'wayfinding-signs.svg' }).click();
  await page.getByRole('link', { name: 'History of the file' }).click();
  await expect(page).toHaveURL(/\/history$/);
  const id = /\/files\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const all = await versionsOf(page, id);
  const titled = all.filter((version) => version.title !== null);
  const own = page.getByRole('search', { name: 'Filter versions' });
  for (const kind of ['Check-ins', 'Autosaves', 'Backups']) await own.getByLabel(kind).uncheck();
  await expect(own.getByRole('status')).toHaveText(`${all.length - titled.length} versions filtered out`);
  await expect(sets.filter({ hasText: /^v/ })).toHaveCount(titled.length);
  await expect(sets.last()).toContainText('Agreed with council');
});
