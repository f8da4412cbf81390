import { DxfWriter } from '@ovrel/core';
import { addVersion, expect, makeDrawing, ready, signIn, test } from './support.ts';

/** Posts in a row, each of a size of its own. */
function posts(handle: number, count: number, moved: Readonly<Record<number, number>> = {}): string {
  const d = new DxfWriter({ firstHandle: handle }).layer('posts', { colour: '#335577' });
  for (let n = 0; n < count; n++)
    d.polyline(
      [
        [n * 1000, moved[n] ?? 0],
        [n * 1000 + 300 + n * 20, moved[n] ?? 0],
        [n * 1000 + 100, (moved[n] ?? 0) + 800],
      ],
      true,
      { layer: 'posts' },
    );
  return d.finish();
}

test('who touched what, over several versions: beside each change, and as a filter', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page, 'marit');
  const id = await makeDrawing(page, posts(0x100, 7), 'posts.dxf');
  const other = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  await signIn(other, 'ines');
  await addVersion(other, id, posts(0x900, 7, { 2: 400 }), 'posts.dxf');
  await addVersion(page, id, posts(0x400, 8, { 2: 400 }), 'posts.dxf');
  await addVersion(other, id, posts(0x700, 8, { 2: 900 }), 'posts.dxf');
  await page.goto(`/files/${id}?a=1&b=4`);
  await ready(page);
  const changes = page.getByRole('list', { name: 'Changes' }).getByRole('button');
  await expect(changes.filter({ hasText: /Ines \S+ v2, v4/ })).toHaveCount(1);
  await expect(changes.filter({ hasText: /Marit \S+ v3/ }).getByLabel('only in B')).toBeVisible();
  await page
    .getByLabel('Changed by')
    .selectOption({ label: await page.getByLabel('Changed by').getByRole('option', { name: /^Ines/ }).innerText() });
  await expect(changes).toHaveCount(1);
  await expect(changes).toContainText('(0, 900)');
});

test('compare with a version of another file: chosen by name, kept in the address, swapped, left', async ({ page }) => {
  await signIn(page, 'tobias');
  const there = `lower steps ${Date.now()}.dxf`;
  const otherId = await makeDrawing(page, posts(0x100, 5), there);
  await addVersion(page, otherId, posts(0x100, 5, { 1: 250 }), there);
  const id = await makeDrawing(page, posts(0x800, 6), 'upper steps.dxf');
  await page.getByRole('button', { name: 'Compare with another file …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel(/name$/).fill('nothing is called this');
  await expect(dialog.getByText('No other file is called that.')).toBeVisible();
  await dialog.getByLabel(/name$/).fill(there.slice(0, 24));
  await dialog.getByRole('button', { name: there }).click();
  await dialog.getByLabel('Version').selectOption({ index: 1 });
  await dialog.getByRole('button', { name: 'Compare', exact: true }).click();
  await ready(page);
  const about = page.getByRole('region', { name: 'What changed' });
  const changes = page.getByRole('list', { name: 'Changes' }).getByRole('button');
  await expect(about).toContainText(`A is of ${there}`);
  await expect(about).toContainText('A v1 → B v1');
  await expect(changes).toHaveCount(1);
  await expect(changes.getByLabel('only in B')).toBeVisible();
  // The address is all that a colleague needs.
  await page.reload();
  await ready(page);
  await expect(changes).toHaveCount(1);
  await about.getByRole('button', { name: 'More filters' }).click();
  await expect(about).toContainText('versions of two files');
  await about.getByRole('button', { name: 'Swap A and B' }).click();
  await expect(about).toContainText('A is of upper steps.dxf');
  await ready(page);
  await expect(changes.getByLabel('only in A')).toBeVisible();
  await about.getByRole('button', { name: 'Leave comparison' }).click();
  await expect(page.getByRole('heading', { name: there })).toBeVisible();
  await page.goto(`/files/${id}?with=00000000-0000-4000-8000-000000000000`);
  await expect(page.locator('.ov-said.is-problem')).toContainText('version');
});

test('what is new is there to be looked at while the comparison runs', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, posts(0x100, 5), 'posts.dxf');
  await addVersion(page, id, posts(0x100, 6), 'posts.dxf');
  const { promise: held, resolve: go } = Promise.withResolvers<undefined>();
  await page.route('**/api/v1/comparisons?*', async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`/files/${id}?a=1&b=2`);
  const canvas = page.locator('canvas');
  await expect(canvas).toHaveAttribute('data-drawn', 'true');
  await expect(canvas).toHaveAttribute('data-ready', 'false');
  await expect(page.locator('.ov-canvas').getByRole('status')).toHaveText('Comparing v1 with v2 …');
  await page.getByRole('button', { name: 'Closer' }).click();
  go(undefined);
  await ready(page);
  await expect(canvas).toHaveAttribute('aria-label', 'v1 and v2, Overlay');
  await expect(page.locator('.ov-canvas').getByRole('status')).toHaveCount(0);
});

test('a very large SVG drawing is drawn from its outlines, and compared so', async ({ page }) => {
  test.slow();
  await signIn(page, 'tobias');
  const planks = (n: number, moved: number): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4000 4000">${Array.from({ length: n }, (_, i) => `<path d="M${(i % 260) * 15 + (i === moved ? 6 : 0)} ${Math.floor(i / 260) * 15}h${9 + (i % 4)}v9z" stroke="#224466" fill="none"/>`).join('')}</svg>`;
  const id = await makeDrawing(page, planks(62_000, -1), 'planks.svg');
  await ready(page);
  await expect(page.locator('.ov-canvas')).toContainText('Drawn from its outlines');
  await expect(page.getByRole('button', { name: 'Layers' })).toBeVisible();
  const inked = (): Promise<number> =>
    page.locator('canvas').evaluate((el) => {
      const c = el as HTMLCanvasElement;
      const { data } = c.getContext('2d')!.getImageData(c.width / 2 - 50, c.height / 2 - 50, 100, 100);
      let dark = 0;
      for (let i = 0; i < data.length; i += 4) dark += data[i]! < 200 ? 1 : 0;
      return dark;
    });
  await expect.poll(inked).toBeGreaterThan(500);
  await addVersion(page, id, planks(62_000, 31_000), 'planks.svg');
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  await expect(page.getByRole('list', { name: 'Causes' })).toContainText('moved by (6, 0)');
});
