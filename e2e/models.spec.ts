/** Models in space: seen, compared, gone through change by change, and looked at from where one wants. */
import { block, cylinder, stlOf } from '../core/src/mesh/testing.ts';
import { canvas, isDrawn, modelFile, picture, pixelsLike } from './space.ts';
import { causesOf, expect, signIn, test } from './support.ts';

/** Three posts on a plate: the plate is thicker in the second version, a post was raised, and one came. */
const plate = block([0, 0, 0], [200, 80, 8]);
const posts = (up: number): ReturnType<typeof block>[] => [
  cylinder([30, 40, 20], 6, 60, 24),
  cylinder([90, 40, 20 + up], 8, 60, 24),
];
const first = stlOf(plate, ...posts(0));
const second = stlOf(block([0, 0, 0], [200, 80, 9]), ...posts(15), cylinder([160, 40, 20], 7, 40, 24));

const teal = [15, 118, 110] as const;

test('a model is seen in space, measured, and turned by keys', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'hinge.stl', first);
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await expect(page.getByText('200 × 80 × 80')).toBeVisible();
  await expect(page.getByText(/^yes$/)).toBeVisible();
  const seen = (): Promise<string> => picture(page);
  const corner = await seen();
  await page.keyboard.press('q');
  await expect.poll(seen).not.toBe(corner);
  const turned = await seen();
  await page.getByLabel('Look from').selectOption('Above');
  await expect.poll(seen).not.toBe(turned);
  await page.getByLabel('Look from').selectOption('Corner');
  await expect.poll(seen).toBe(corner);
});

test('two versions of a model: what came, what was raised and what became thicker, each on its own', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'hinge.stl', first, second);
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await page.keyboard.press('c');
  const causes = causesOf(page);
  await expect(causes).toHaveCount(3);
  await expect(causes.filter({ hasText: 'Material added: 200 × 80 × 1' })).toBeVisible();
  await expect(causes.filter({ hasText: /moved by \(0, 0, 15\)/ })).toBeVisible();
  await expect(causes.filter({ hasText: /^Body \d added/ })).toBeVisible();
  await expect(page.getByText('Compared part by part and surface by surface')).toBeVisible();
  await isDrawn(page);
  // What came is teal in the overlay, and stays so where only changes are shown.
  await expect.poll(() => pixelsLike(page, teal)).toBeGreaterThan(200);
  await page.getByRole('button', { name: 'Changes only' }).click();
  await expect.poll(() => pixelsLike(page, teal)).toBeGreaterThan(200);
  await page.getByRole('button', { name: 'Side by side' }).click();
  await expect(page.locator('.ov-tag')).toHaveText(['A v1', 'B v2']);
  // As they are in their files, nothing is painted by what became of it.
  await expect.poll(() => pixelsLike(page, teal)).toBe(0);
  await page.getByRole('button', { name: 'Curtain' }).click();
  await expect(page.getByRole('slider', { name: /curtain/i })).toBeVisible();
  await page.getByRole('button', { name: 'Heat' }).click();
  // Of what was not compared with anything, only the plate has distances.
  await expect.poll(() => pixelsLike(page, teal)).toBeGreaterThan(200);
  await page.getByRole('button', { name: 'Overlay' }).click();
  await page.keyboard.press('n');
  await expect(page.getByRole('list', { name: 'Changes' }).locator('button[aria-current="true"]')).toHaveCount(1);
});

test('a part that is clicked says what it is, and can be hidden and shown again', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'hinge.stl', stlOf(plate));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await page.getByLabel('Look from').selectOption('Above');
  await canvas(page).click();
  const part = page.getByRole('complementary', { name: 'Part' });
  await expect(part.getByRole('heading', { name: 'body' })).toBeVisible();
  await part.getByRole('button', { name: 'Hide it' }).click();
  await expect(page.getByRole('button', { name: 'Show all (1 hidden)' })).toBeVisible();
  await expect(part).toHaveCount(0);
  await page.getByRole('button', { name: 'Show all (1 hidden)' }).click();
  await canvas(page).click();
  await expect(part).toBeVisible();
});

test('a model that is cut off is read as far as it goes, and said; one without a triangle is kept', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'hinge.stl', first.slice(0, Math.floor(first.length * 0.7)));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await expect(page.getByText(/The model is cut off: it says \d+ triangles, and \d+ are there/)).toBeVisible();
  const nothing = await modelFile(page, 'hinge.stl', new TextEncoder().encode('solid nothing\nendsolid nothing\n'));
  await page.goto(`/files/${nothing}`);
  await expect(page.getByText('There is no triangle in this model.')).toBeVisible();
  const bytes = await page.getByRole('link', { name: /^Download v1/ }).getAttribute('href');
  expect(await (await page.request.get(bytes ?? '')).text()).toBe('solid nothing\nendsolid nothing\n');
});
