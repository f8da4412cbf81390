/** Single parts of models: talked about, taken back, and had again from an older version. */
import { shelter } from '../demo/models/shelter.ts';
import { block, cylinder, stlOf } from '../core/src/mesh/testing.ts';
import { canvas, isDrawn, modelFile } from './space.ts';
import { causesOf, expect, signIn, test } from './support.ts';

const plate = block([0, 0, 0], [200, 80, 8]);
const post = cylinder([30, 40, 20], 12, 60, 24);

test('a comment is pinned to an element, has a flag there, and follows it into the next version', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'shelter.ifc', shelter(1), shelter(2));
  await page.goto(`/files/${id}?v=1`);
  await isDrawn(page);
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  const parts = page.getByRole('complementary', { name: 'Parts of the model' });
  await parts.getByLabel('Find a part').fill('roof post 2');
  await parts.getByRole('button', { name: 'Roof post 2', exact: true }).click();
  const part = page.getByRole('complementary', { name: 'Part', exact: true });
  await part.getByRole('button', { name: 'Comment on it' }).click();
  await page.getByLabel('About “Roof post 2”').fill('Stands in the way of the rail.');
  await page.getByRole('button', { name: 'Say it' }).click();
  const flag = page.getByRole('button', { name: 'Comment 1', exact: true });
  await expect(flag).toBeVisible();
  const before = await flag.boundingBox();
  await page.getByLabel('Look from').selectOption('Above');
  await expect.poll(() => flag.boundingBox()).not.toEqual(before);
  await page.goto(`/files/${id}?v=2`);
  await isDrawn(page);
  await expect(flag).toBeVisible();
  await flag.click();
  await expect(flag).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('region', { name: 'Comments' })).toContainText('Stands in the way of the rail.');
});

test('an element that was lost is clicked on in the older version and carried over into the newest', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'post.stl', stlOf(plate, post), stlOf(block([0, 0, 0], [200, 80, 9])));
  await page.goto(`/files/${id}?v=1`);
  await isDrawn(page);
  await expect(page.getByText('Click a part of the model to carry it over into v2.')).toBeVisible();
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  const parts = page.getByRole('complementary', { name: 'Parts of the model' });
  await parts.getByLabel('Find a part').fill('body 1');
  await parts.getByRole('button', { name: 'body 1' }).click();
  await expect(page.getByText('1 part picked')).toBeVisible();
  await page.getByRole('button', { name: 'Carry over into v2' }).click();
  await page.getByRole('button', { name: 'Check in as v3' }).click();
  await expect(page.getByText('3 versions')).toBeVisible();
  await page.goto(`/files/${id}?a=2&b=3`);
  await isDrawn(page);
  await expect(causesOf(page)).toHaveText([/^Body 1 added/]);
});

test('one of two changes of a building model is taken back', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'shelter.ifc', shelter(2), shelter(3));
  await page.goto(`/files/${id}?a=1&b=2`);
  await isDrawn(page);
  await expect(canvas(page)).toBeVisible();
  const changes = page.getByRole('list', { name: 'Changes' });
  await changes.getByRole('listitem').filter({ hasText: 'Store door 3' }).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Take back in v2' }).click();
  await page.getByRole('button', { name: 'Check in as v3' }).click();
  await expect(page.getByText('3 versions')).toBeVisible();
  await page.goto(`/files/${id}?a=2&b=3`);
  await isDrawn(page);
  await expect(causesOf(page)).toHaveText([/Store door 3.*FireRating EI 60 → EI 30/]);
});
