/** Building models and assemblies: what was exchanged and raised, parts by storey, sections, measures, and plans beside drawings. */
import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { hinge } from '../demo/models/hinge.ts';
import { shelter, type ShelterStage } from '../demo/models/shelter.ts';
import { causesOf, expect, post, signIn, test } from './support.ts';

async function filed(page: Page, name: string, ...versions: readonly Uint8Array[]): Promise<string> {
  const project = await post<{ id: string }>(page, '/projects', { name: `Buildings ${Date.now()}` });
  let id = '';
  for (const bytes of versions) {
    const file = { name, mimeType: 'application/octet-stream', buffer: Buffer.from(bytes) };
    const path = id ? `/files/${id}/versions` : `/projects/${project.id}/files`;
    const answer = await page.request.post(`/api/v1${path}`, { multipart: { note: '', file } });
    expect(answer.status()).toBe(201);
    if (!id) id = ((await answer.json()) as { file: { id: string } }).file.id;
  }
  return id;
}

const canvas = (page: Page): Locator => page.locator('.ov-viewer canvas');
const isDrawn = (page: Page): Promise<void> => expect(canvas(page)).toHaveAttribute('data-drawn', 'true');
const picture = (page: Page): Promise<string> =>
  canvas(page).evaluate((element) => (element as HTMLCanvasElement).toDataURL());

test('an exchanged type is one cause, a raised storey another; with what each of them touched', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await filed(page, 'shelter.ifc', ...([0, 1, 2] as const).map((stage: ShelterStage) => shelter(stage)));
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
  const id = await filed(page, 'shelter.ifc', shelter(0));
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

test('a plane cuts through the model, and a way on it is measured', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await filed(page, 'hinge.step', hinge(0));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await page.getByLabel('Look from').selectOption('Above');
  const whole = await picture(page);
  await page.getByRole('button', { name: 'Section' }).click();
  await expect.poll(() => picture(page)).not.toBe(whole);
  const cut = await picture(page);
  await page.getByLabel('Plane of the section').selectOption('upright');
  await page.getByLabel('Turn of the section').fill('90');
  await expect.poll(() => picture(page)).not.toBe(cut);
  const upright = await picture(page);
  await page.getByRole('button', { name: 'Other side' }).click();
  await expect.poll(() => picture(page)).not.toBe(upright);
  await page.getByRole('button', { name: 'Section' }).click();
  await expect.poll(() => picture(page)).toBe(whole);
  await page.getByRole('button', { name: 'Measure' }).click();
  const said = page.locator('.ov-measured');
  await expect(said).toContainText('Click on two places');
  const { width, height } = (await canvas(page).boundingBox())!;
  await canvas(page).click({ position: { x: width * 0.5, y: height * 0.42 } });
  await canvas(page).click({ position: { x: width * 0.5, y: height * 0.58 } });
  await expect(said).toHaveText(/^[\d,.]+ mm: .* along x, .* along y, .* along z$/);
});

test('a plan of a model is saved, and laid over a drawing of it; what the drawing lacks is shown', async ({ page }) => {
  test.slow();
  await signIn(page, 'tobias');
  const id = await filed(page, 'shelter.ifc', shelter(0));
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
  const drawing = await filed(page, name, Buffer.from(dxf), Buffer.from(less));
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
  await expect(causesOf(page).first()).toContainText(/added|removed|differently/);
  await expect(page.getByRole('button', { name: 'Side by side' })).toBeVisible();
});

test('a model that was cut off is shown as far as it goes, and says so; an assembly has its products', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await filed(page, 'shelter.ifc', shelter(4), shelter(5));
  await page.goto(`/files/${id}`);
  await isDrawn(page);
  await expect(page.getByText(/The file does not end where it should/)).toBeVisible();
  const step = await filed(page, 'hinge.step', hinge(2), hinge(3));
  await page.goto(`/files/${step}?a=1&b=2`);
  await isDrawn(page);
  await expect(causesOf(page)).toHaveText([/^Product “Bolt M16” replaced by “Bolt M20”: 6 placements/]);
  await page.getByRole('button', { name: 'Parts', exact: true }).click();
  const parts = page.getByRole('complementary', { name: 'Parts of the model' });
  await expect(parts.getByText('Gangway hinge › Moving leaf')).toBeVisible();
  await parts.getByRole('button', { name: 'Only what changed' }).click();
  await expect(page.getByRole('button', { name: /^Show all \(14 hidden\)$/ })).toBeVisible();
});
