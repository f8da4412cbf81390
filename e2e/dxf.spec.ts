import { DxfWriter } from '@ovrel/core';
import { drawFraming, framings } from '../demo/drawings/framing.ts';
import { addVersion, causesOf, expect, makeDrawing, openFile, ready, shareOf, signIn, test } from './support.ts';

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

const PLUM = [0x6b, 0x2d, 0x5c] as const;
const BEAM = [0x1f, 0x4e, 0x79] as const;

test('a DXF drawing is shown from its parts, in its colours, with layers to switch', async ({ page }) => {
  await openFile(page, 'deck-framing.dxf');
  await ready(page);
  const canvas = page.locator('canvas');
  await expect.poll(() => shareOf(canvas, BEAM)).toBeGreaterThan(0.001);
  expect(await shareOf(canvas, PLUM)).toBeGreaterThan(0.0005);
  await page.getByRole('button', { name: 'Layers' }).click();
  const layers = page.getByRole('group', { name: 'Layers shown' });
  await layers.getByLabel('primary steel').click();
  await expect.poll(() => shareOf(canvas, BEAM)).toBeLessThan(0.0001);
  expect(await shareOf(canvas, PLUM)).toBeGreaterThan(0.0005);
  await layers.getByRole('button', { name: 'All on' }).click();
  await expect.poll(() => shareOf(canvas, BEAM)).toBeGreaterThan(0.001);
  const about = page.getByRole('region', { name: 'About this version' });
  await expect(about).toContainText('DXF drawing');
  await expect(about).toContainText('AC1018 (2004)');
});

test('one swapped component is one cause, not a thousand changes; opening it shows its parts', async ({ page }) => {
  await openFile(page, 'deck-framing.dxf');
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=2`);
  await ready(page);
  const causes = causesOf(page);
  await expect(causes.first()).toHaveText(/^Block “cleat” changed: 48 placements/);
  await expect(causes).toHaveCount(1);
  await causes.first().click();
  await expect(page.getByRole('list', { name: 'Changes' }).getByRole('button')).toHaveCount(48);
  await expect(page.getByRole('list', { name: 'Changes' }).getByRole('button').first()).toContainText('cleat');
});

test('three months of edits between two versions: each is named, and chosen alone it is drawn alone', async ({
  page,
}) => {
  await openFile(page, 'deck-framing.dxf');
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=7&look=only`);
  await ready(page);
  const causes = causesOf(page);
  for (const sentence of [
    'Block “cleat” changed: 48 placements',
    '48 parts moved together by (−350, 0) mm',
    '“C16” replaced by “C24” in 12 texts',
    'Layer “beams” renamed “primary steel”, 7 parts',
    'Everything renumbered',
  ])
    await expect(causes.filter({ hasText: sentence })).toHaveCount(1);
  const canvas = page.locator('canvas');
  const BLUE = [29, 78, 216] as const;
  await expect.poll(() => shareOf(canvas, BLUE)).toBeGreaterThan(0.001);
  await causes.filter({ hasText: 'C24' }).click();
  await expect.poll(() => shareOf(canvas, BLUE)).toBeLessThan(0.0001);
  await expect(page.getByRole('list', { name: 'Changes' }).getByRole('button')).toHaveCount(12);
  await causes.filter({ hasText: 'C24' }).click();
  await expect.poll(() => shareOf(canvas, BLUE)).toBeGreaterThan(0.001);
});

test('blocks, sizes and an area drawn on the page limit the list', async ({ page }) => {
  await openFile(page, 'deck-framing.dxf');
  await page.goto(`${new URL(page.url()).pathname}?a=2&b=3`);
  await ready(page);
  const changes = page.getByRole('list', { name: 'Changes' }).getByRole('button');
  await expect(changes).toHaveCount(54);
  await page.getByRole('button', { name: 'More filters, and what to ignore' }).click();
  await page.getByLabel('Block', { exact: true }).selectOption('pile (4)');
  await expect(changes).toHaveCount(4);
  await page.getByLabel('Block', { exact: true }).selectOption('*');
  await page.getByRole('button', { name: 'Only within an area …' }).click();
  const canvas = (await page.locator('canvas').boundingBox())!;
  // The title block stands at the lower right.
  await page.mouse.move(canvas.x + canvas.width * 0.7, canvas.y + canvas.height * 0.75);
  await page.mouse.down();
  await page.mouse.move(canvas.x + canvas.width * 0.97, canvas.y + canvas.height * 0.97, { steps: 4 });
  await page.mouse.up();
  await expect(changes).toHaveCount(2);
  await expect(changes.first()).toContainText('REVISION');
  await page.getByRole('button', { name: 'Whole page again' }).click();
  await expect(changes).toHaveCount(54);
});

test('what somebody ignores stays ignored for them, on any comparison', async ({ page }) => {
  const plan = (colour: string, x: number): string =>
    new DxfWriter()
      .layer('deck', { colour })
      .line([0, 0], [500, 0], { layer: 'deck' })
      .line([x, 100], [400 + x, 100], { layer: 'deck' })
      .circle([200, 300], 50, { layer: 'deck' })
      .text([0, 400], 30, 'Deck')
      .finish();
  const id = await makeDrawing(page, plan('#aa0000', 0), 'ignored.dxf');
  await addVersion(page, id, plan('#00aa00', 40), 'ignored.dxf');
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  const causes = causesOf(page);
  await expect(causes).toHaveText([
    /One line moved by \(40, 0\) mm/,
    /Layer “deck”: colour #aa0000 → #00aa00, 3 parts/,
  ]);
  await page.getByRole('button', { name: 'More filters, and what to ignore' }).click();
  await page.getByLabel('Colours, pens and line types').click();
  await expect(causes).toHaveText([/One line moved/]);
  await expect(page.getByText('2 ignored')).toBeVisible();
  await page.reload();
  await expect(causes).toHaveText([/One line moved/]);
  await page.getByRole('button', { name: 'More filters, and what to ignore' }).click();
  await page.getByLabel('Moves smaller than').fill('50');
  await expect(page.getByTestId('summary')).toHaveText('Nothing but what you ignore');
  await page.getByLabel('Moves smaller than').fill('');
  await page.getByLabel('Colours, pens and line types').click();
  await expect(causes).toHaveCount(2);
});

test('the distance within which places are the same can be said', async ({ page }) => {
  const plan = (x: number): string =>
    new DxfWriter()
      .line([0, 0], [900, 0])
      .line([100 + x, 100], [400 + x, 100])
      .circle([200, 300], 50)
      .text([0, 400], 30, 'Deck')
      .finish();
  const id = await makeDrawing(page, plan(0), 'near.dxf');
  await addVersion(page, id, plan(0.4), 'near.dxf');
  await page.goto(`/files/${id}?a=1&b=2`);
  await expect(causesOf(page)).toHaveText([/One line moved by \(0.4, 0\) mm/]);
  await page.getByRole('button', { name: 'More filters, and what to ignore' }).click();
  await page.getByLabel('The same place within').fill('1');
  await page.getByRole('button', { name: 'Compare so' }).click();
  await expect(page.getByTestId('summary')).toHaveText('No change');
});

test('distances and areas are measured from end to end of lines', async ({ page }) => {
  const id = await makeDrawing(
    page,
    new DxfWriter()
      .polyline(
        [
          [0, 0],
          [4000, 0],
          [4000, 2000],
          [0, 2000],
        ],
        true,
      )
      .finish(),
    'square.dxf',
  );
  await page.goto(`/files/${id}`);
  await ready(page);
  await page.getByRole('button', { name: 'Measure' }).click();
  const canvas = page.locator('canvas');
  const box = (await canvas.boundingBox())!;
  const scale = Math.min((box.width - 56) / 4000, (box.height - 56) / 2000);
  // A few pixels off: the corners are caught.
  const corner = (x: number, y: number) =>
    canvas.click({
      position: { x: box.width / 2 + (x - 2000) * scale + 3, y: box.height / 2 + (1000 - y) * scale - 3 },
    });
  await corner(0, 0);
  await corner(4000, 0);
  await expect(page.getByRole('status').filter({ hasText: '4,000 mm' })).toBeVisible();
  await corner(4000, 2000);
  await corner(0, 2000);
  await expect(page.getByRole('status').filter({ hasText: 'area 8 m²' })).toBeVisible();
});

test('what is seen is saved as a picture, the page as SVG', async ({ page }) => {
  await openFile(page, 'deck-framing.dxf');
  await ready(page);
  const save = async (name: string): Promise<{ name: string; bytes: Buffer }> => {
    await page.getByRole('button', { name: 'Save …' }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByText(name).click()]);
    const pieces: Buffer[] = [];
    for await (const piece of await download.createReadStream()) pieces.push(piece as Buffer);
    return { name: download.suggestedFilename(), bytes: Buffer.concat(pieces) };
  };
  const png = await save('What is seen, as PNG');
  expect(png.name).toBe('deck-framing.dxf v7.png');
  expect(png.bytes.readUInt32BE(16)).toBeGreaterThan(800);
  const svg = await save('The page, as SVG');
  expect(svg.bytes.toString()).toContain('Gate 1200, opens seaward');
  const pdf = await save('What is seen, as PDF');
  expect(pdf.name).toBe('deck-framing.dxf v7.pdf');
  expect(pdf.bytes.subarray(0, 5).toString()).toBe('%PDF-');
  for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Closer' }).click();
  const seen = await save('What is seen, as SVG');
  expect(seen.name).toBe('deck-framing v7.svg');
  const [, , wide] = /viewBox="(\S+) (\S+) (\S+)/.exec(seen.bytes.toString())!.slice(1).map(Number);
  const [, , whole] = /viewBox="(\S+) (\S+) (\S+)/.exec(svg.bytes.toString())!.slice(1).map(Number);
  expect(wide! / whole!).toBeGreaterThan(0.2);
  expect(wide! / whole!).toBeLessThan(0.6);
});

test('layouts are pages; a change on one is found there', async ({ page }) => {
  const sheet = (words: string): string => {
    const g = (...pairs: (readonly [number, string | number])[]): string =>
      pairs.map(([c, v]) => `${c}\n${v}\n`).join('');
    return `${g([0, 'SECTION'], [2, 'HEADER'], [9, '$ACADVER'], [1, 'AC1015'], [0, 'ENDSEC'], [0, 'SECTION'], [2, 'TABLES'], [0, 'BLOCK_RECORD'], [5, 'A1'], [2, '*Model_Space'], [0, 'BLOCK_RECORD'], [5, 'A2'], [2, '*Paper_Space'], [0, 'ENDSEC'])}${g([0, 'SECTION'], [2, 'ENTITIES'], [0, 'LINE'], [5, '10'], [8, '0'], [10, 0], [20, 0], [11, 900], [21, 500], [0, 'CIRCLE'], [5, '11'], [8, '0'], [10, 300], [20, 300], [40, 90], [0, 'TEXT'], [5, '12'], [67, 1], [8, '0'], [10, 20], [20, 20], [40, 12], [1, words], [0, 'LINE'], [5, '13'], [67, 1], [8, '0'], [10, 5], [20, 5], [11, 400], [21, 5], [0, 'ENDSEC'])}${g([0, 'SECTION'], [2, 'OBJECTS'], [0, 'LAYOUT'], [100, 'AcDbLayout'], [1, 'Sheet 1'], [71, 1], [10, 0], [20, 0], [11, 420], [21, 297], [330, 'A2'], [0, 'ENDSEC'], [0, 'EOF'])}`;
  };
  const id = await makeDrawing(page, sheet('Issue A'), 'sheets.dxf');
  await addVersion(page, id, sheet('Issue B'), 'sheets.dxf');
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  // It opens where something changed; the model is beside it, and choosing the change leads back.
  await expect(page.getByLabel('Page', { exact: true })).toHaveValue('Sheet 1');
  await page.getByLabel('Page', { exact: true }).selectOption('Model');
  await expect(page.getByLabel('Page', { exact: true })).toHaveValue('Model');
  await page.getByRole('list', { name: 'Changes' }).getByRole('button').click();
  await expect(page.getByLabel('Page', { exact: true })).toHaveValue('Sheet 1');
  await expect.poll(() => shareOf(page.locator('canvas'), [109, 40, 217])).toBeGreaterThan(0.0005);
});

test('a drawing that was cut off is shown as far as it goes, and the place is named', async ({ page }) => {
  const whole = drawFraming(framings[0]!.framing);
  await makeDrawing(page, whole.slice(0, whole.length * 0.8), 'cut.dxf');
  await ready(page);
  await expect(page.getByRole('region', { name: 'About this version' })).toContainText(
    /The file (?:ends at byte [\d,]+ without the mark|is damaged at byte)/,
  );
  await expect.poll(() => shareOf(page.locator('canvas'), BEAM)).toBeGreaterThan(0.0005);
});
