/** Building models and assemblies: what was exchanged and raised, parts by storey, sections, measures, and plans beside drawings. */
import { readFileSync } from 'node:fs';
import { hinge } from '../demo/models/hinge.ts';
import { shelter, type ShelterStage } from '../demo/models/shelter.ts';
import { block, stlOf } from '../core/src/mesh/testing.ts';
import { canvas, extentOf, isDrawn, modelFile, picture, pixelsLike } from './space.ts';
import { causesOf, expect, signIn, test } from './support.ts';

/** What the cut of a section is filled with. */
const cutTone = [0x8b, 0x96, 0x9f] as const;

test('an exchanged type is one cause, a raised storey another; with what each of them touched', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'shelter.ifc', ...([0, 1, 2] as const).map((stage: ShelterStage) => shelter(stage)));
  await page.goto(`/files/${id}?a=1&b=2`);
  await isDrawn(page);
  await expect(causesOf(page)).toHaveText([/^Type “Bench” replaced by “Bench with back”: 24 placements/]);
  await page.goto(`/files/${id}?a=2&b=3`);
  await isDrawn(page);
  await expect(causesOf(page)).toHaveText([/^Storey “Upper deck” raised by 150 mm with 52 elements/]);
  const discipline = page.getByLabel('Discipline');
  await discipline.selectOption({ label: 'electrical (16)' });
  await expect(page.getByRole('list', { name: 'Changes' }).getByRole('button')).toHaveCount(16);
});

test('parts are found by storey and name, seen alone, and say what they are', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'shelter.ifc', shelter(0));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  const whole = await picture(page);
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  const parts = page.getByRole('complementary', { name: 'Parts of the model' });
  await expect(parts.locator('.ov-parts-name')).toHaveText(['Upper deck', 'Pontoon deck']);
  await parts.getByRole('button', { name: 'Only Upper deck' }).click();
  await expect(page.getByRole('button', { name: 'Show all (64 hidden)' })).toBeVisible();
  await expect.poll(() => picture(page)).not.toBe(whole);
  await expect(parts.getByRole('checkbox', { name: 'Show Pontoon deck' })).not.toBeChecked();
  await parts.getByRole('button', { name: 'Show all' }).click();
  await expect.poll(() => picture(page)).toBe(whole);
  await parts.getByLabel('Parts by').selectOption('category');
  await expect(parts.getByText('piping and drainage')).toBeVisible();
  await parts.getByLabel('Find a part').fill('store door 3');
  await parts.getByRole('button', { name: 'Store door 3' }).click();
  const part = page.getByRole('complementary', { name: 'Part', exact: true });
  await expect(part.getByRole('heading', { name: 'Store door 3' })).toBeVisible();
  await expect(part.getByRole('row', { name: 'FireRating EI 30' })).toBeVisible();
});

test('a plane cuts through the model, and what it cuts is filled', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'hinge.step', hinge(0));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await page.getByLabel('Look from').selectOption('Above');
  const whole = await picture(page);
  await page.getByRole('button', { name: 'Section' }).click();
  await expect.poll(() => picture(page)).not.toBe(whole);
  // What is cut is filled.
  await expect.poll(() => pixelsLike(page, cutTone, 6)).toBeGreaterThan(500);
  const cut = await picture(page);
  await page.getByLabel('Plane of the section').selectOption('upright');
  await page.getByLabel('Turn of the section').fill('90');
  await expect.poll(() => picture(page)).not.toBe(cut);
  const upright = await picture(page);
  await page.getByRole('button', { name: 'Other side' }).click();
  await expect.poll(() => picture(page)).not.toBe(upright);
  await page.getByRole('button', { name: 'Section' }).click();
  await expect.poll(() => picture(page)).toBe(whole);
  expect(await pixelsLike(page, cutTone, 6)).toBeLessThan(10);
});

test('a way on a model is measured to the corners that are meant', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'plate.stl', stlOf(block([0, 0, 0], [200, 80, 8])));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await page.getByLabel('Look from').selectOption('Above');
  await page.getByLabel('Look from').selectOption('With parallel lines');
  await page.getByRole('button', { name: 'Measure' }).click();
  const said = page.locator('.ov-measured');
  await expect(said).toContainText('Click on two places');
  const { left, top, right, bottom } = await extentOf(canvas(page));
  await canvas(page).click({ position: { x: left + 3, y: top + 3 } });
  await canvas(page).click({ position: { x: right - 3, y: bottom - 3 } });
  await expect(said).toHaveText(/^215\.4\d*: 200 along x, −80 along y, 0 along z$/);
});

test('a plan of a model is saved, and laid over a drawing of it; what the drawing lacks is shown', async ({ page }) => {
  test.slow();
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'shelter.ifc', shelter(0));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await page.getByRole('button', { name: 'Draw flat' }).click();
  const tools = page.getByRole('group', { name: 'Draw flat' });
  await expect(tools.getByLabel('Drawn from').locator('option')).toContainText(['Plan of Pontoon deck']);
  const saved = async (format: string): Promise<string> => {
    const download = page.waitForEvent('download');
    await tools.getByRole('link', { name: `Save as ${format}` }).click();
    const got = await download;
    expect(got.suggestedFilename()).toBe(`shelter-v1.${format.toLowerCase()}`);
    return readFileSync(await got.path(), 'utf8');
  };
  expect(await saved('SVG')).toMatch(/^<svg /);
  const dxf = await saved('DXF');
  expect(dxf).toContain('FURNITURE');
  await tools.getByLabel('Drawn from').selectOption('height');
  await tools.getByLabel('Height of the cut').fill('4000');
  const upper = await saved('DXF');
  expect(upper).not.toContain('FURNITURE');
  // The same drawing without its first bench.
  const lines = dxf.split(/(?=^ *0\nLINE\n)/m);
  const ofBench = lines.findIndex((line) => line.includes('FURNITURE'));
  const less = lines.filter((_, k) => k < ofBench || k >= ofBench + 6).join('');
  const name = `plan ${Date.now()}.dxf`;
  const drawing = await modelFile(page, name, Buffer.from(dxf), Buffer.from(less));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await page.getByRole('button', { name: 'Compare with another file …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel(/name$/).fill(name);
  await dialog.getByRole('button', { name }).click();
  await dialog.getByLabel('Version').selectOption({ index: 1 });
  await dialog.getByRole('button', { name: 'Compare', exact: true }).click();
  await expect(page.getByText(/Plan of Pontoon deck of the building model \(IFC\)/)).toBeVisible();
  await expect(page.getByText('No change').first()).toBeVisible();
  const other = (
    (await (await page.request.get(`/api/v1/files/${drawing}/versions`)).json()) as { id: string; number: number }[]
  ).find(({ number }) => number === 2);
  await page.goto(`/files/${id}?with=${other?.id}`);
  // The drawing lacks a bench, which the model has.
  await expect(causesOf(page).first()).toContainText(/removed|added/);
  await expect(page.getByRole('button', { name: 'Side by side' })).toBeVisible();
});

test('a model that was cut off is shown as far as it goes, and says so; an assembly has its products', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await modelFile(page, 'shelter.ifc', shelter(4), shelter(5));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await expect(page.getByText(/The file does not end where it should/)).toBeVisible();
  const step = await modelFile(page, 'hinge.step', hinge(2), hinge(3));
  await page.goto(`/files/${step}?a=1&b=2`);
  await isDrawn(page);
  await expect(causesOf(page)).toHaveText([/^Product “Bolt M16” replaced by “Bolt M20”: 6 placements/]);
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  const parts = page.getByRole('complementary', { name: 'Parts of the model' });
  await expect(parts.getByText('Gangway hinge › Moving leaf')).toBeVisible();
  await parts.getByRole('button', { name: 'Only what changed' }).click();
  await expect(page.getByRole('button', { name: /^Show all \(14 hidden\)$/ })).toBeVisible();
});
