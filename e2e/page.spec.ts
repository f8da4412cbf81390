import {
  beyond,
  addVersion,
  causesOf,
  drawing,
  expect,
  expectShown,
  makeDrawing,
  openFile,
  ready,
  shareOf,
  signIn,
  stop,
  test,
  visit,
} from './support.ts';

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

test('a link to a comparison opens it as it was', async ({ page, context }) => {
  await openFile(page, 'wayfinding-signs.svg');
  await visit(page, 4);
  await page.keyboard.press('c');
  await ready(page);
  await page.keyboard.press('2');
  await expectShown(page, 3, 4);
  await expect(page).toHaveURL(/\?a=[0-9a-f-]{36}&b=[0-9a-f-]{36}&look=side$/);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(causesOf(other).first()).toBeVisible();
  await expect(other.getByRole('button', { name: 'Side by side' })).toHaveAttribute('aria-pressed', 'true');
  await expect(
    other.getByRole('list', { name: 'Changes' }).getByRole('button').filter({ hasText: 'definition: arrow' }),
  ).toHaveCount(4);
});

test('keys pressed at once after a click see the version that was clicked', async ({ page }) => {
  await openFile(page, 'wayfinding-signs.svg');
  for (const n of [6, 3, 8]) {
    await visit(page, n);
    await page.keyboard.press('c');
    await expectShown(page, n - 1, n);
    await page.keyboard.press('Escape');
  }
});

test('light and dark are kept, and the rail goes by step or by time', async ({ page }) => {
  await openFile(page, 'wayfinding-signs.svg');
  await page.getByRole('button', { name: 'Light or dark' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
  const x = async (n: number): Promise<number> => (await stop(page, n).locator('.hit').boundingBox())!.x;
  const byStep = [(await x(2)) - (await x(1)), (await x(9)) - (await x(8))];
  expect(Math.abs(byStep[0]! - byStep[1]!)).toBeLessThan(2);
  await page.getByRole('button', { name: 'By time' }).click();
  await expect
    .poll(async () => Math.abs((await x(9)) - (await x(8)) - ((await x(2)) - (await x(1)))))
    .toBeGreaterThan(20);
});

test('every key of the page is listed, and "/" goes to the search', async ({ page }) => {
  await openFile(page, 'wayfinding-signs.svg');
  await page.keyboard.press('?');
  const list = page.getByRole('dialog');
  for (const says of ['Version before', 'Check in a new version', 'Closer', 'Find a file', 'Light or dark'])
    await expect(list).toContainText(says);
  await page.keyboard.press('Escape');
  await expect(list).toHaveCount(0);
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox', { name: 'Find a file' })).toBeFocused();
  await page.keyboard.type('nothing is called this');
  await expect(page.getByText('No file is called that.')).toBeVisible();
});

test('on a narrow screen the page can be read without scrolling sideways', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openFile(page, 'wayfinding-signs.svg');
  await ready(page);
  for (const address of [page.url(), `${new URL(page.url()).pathname}?a=5&b=6`, '/']) {
    await page.goto(address);
    await expect(page.locator('main')).toBeVisible();
    expect(await beyond(page)).toBeLessThanOrEqual(0);
  }
});

test('buttons, fields and glyphs have names; focus can be seen', async ({ page }) => {
  await openFile(page, 'wayfinding-signs.svg');
  const nameless = await page
    .locator('button, a, input, select, [role="button"], [role="slider"]')
    .evaluateAll((all) =>
      all
        .filter(
          (e) =>
            !(e.getAttribute('aria-label') ?? e.textContent ?? '').trim() &&
            !(e as HTMLInputElement).labels?.length &&
            e.getAttribute('aria-hidden') !== 'true',
        )
        .map((e) => e.outerHTML.slice(0, 120)),
    );
  expect(nameless).toEqual([]);
  await page.keyboard.press('Tab');
  expect(await page.evaluate(() => getComputedStyle(document.activeElement!).outlineStyle)).not.toBe('none');
});

test('a drawing whose picture was changed in one place differs there and nowhere else', async ({ page }) => {
  const grid = (fill: string): string =>
    drawing(
      Array.from(
        { length: 40 },
        (_, i) =>
          `<rect x="${(i % 8) * 50 + 5}" y="${Math.floor(i / 8) * 60 + 5}" width="40" height="50" fill="${i === 19 ? fill : '#777777'}"/>`,
      ).join(''),
    );
  const id = await makeDrawing(page, grid('#777777'));
  await addVersion(page, id, grid('#cc0000'));
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([/^One rectangle: fill #777777 → #cc0000/]);
  await expect.poll(() => shareOf(page.locator('canvas'), [109, 40, 217])).toBeGreaterThan(0.0005);
  await page.keyboard.press('4');
  await expect(page.locator('.ov-tag')).toHaveText('B v2');
  await expect.poll(() => shareOf(page.locator('canvas'), [204, 0, 0])).toBeGreaterThan(0.005);
});

test('the schema of the API can be fetched, and a rejected request says why', async ({ page }) => {
  const openapi = (await (await page.request.get('/api/openapi.json')).json()) as {
    openapi: string;
    paths: Record<string, unknown>;
  };
  expect(openapi.openapi).toBe('3.1.0');
  expect(Object.keys(openapi.paths)).toContain('/api/v1/versions/{versionId}/content');
  const bad = await page.request.get('/api/v1/comparisons?a=1&b=2');
  expect(bad.status()).toBe(400);
  expect(bad.headers()['content-type']).toBe('application/problem+json');
});

test('what a version is called is copied, and a link by its title leads to it', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const id = await makeDrawing(page, drawing('<rect id="deck" x="10" y="60" width="160" height="60"/>'));
  const { newest } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { newest: { id: string } };
  await page.request.patch(`/api/v1/versions/${newest.id}`, { data: { title: 'As agreed' } });
  await addVersion(page, id, drawing('<rect id="deck" x="90" y="60" width="160" height="60"/>'));
  await page.goto(`/files/${id}`);
  await visit(page, 1);
  const names = page.getByRole('region', { name: 'What it is called' });
  const clipboard = (): Promise<string> => page.evaluate(() => navigator.clipboard.readText());
  // Until the page has come to the first version, the name of the second is copied.
  await expect(async () => {
    await names.getByRole('button', { name: 'Name and number' }).click();
    await expect(names.getByRole('status')).toHaveText('Copied: pier.svg v1', { timeout: 2000 });
  }).toPass();
  expect(await clipboard()).toBe('pier.svg v1');
  await names.getByRole('button', { name: 'Link by title' }).click();
  await expect(names.getByRole('status')).toContainText('?v=As+agreed');
  await page.goto(await clipboard());
  await expect(page.getByText('v1 As agreed')).toBeVisible();
});
