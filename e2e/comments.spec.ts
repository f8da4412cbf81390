import { DxfWriter, open } from '@ovrel/core';
import { unzipSync } from 'fflate';
import { addVersion, causesOf, expect, makeDrawing, openFile, ready, signIn, test } from './support.ts';

const plan = (handle: number, dx: number): string => {
  const d = new DxfWriter({ firstHandle: handle }).layer('walls', { colour: '#335577' });
  for (let n = 0; n < 8; n++)
    d.polyline(
      [
        [n * 1000 + (n === 3 ? dx : 0), 0],
        [n * 1000 + 500 + n * 20 + (n === 3 ? dx : 0), 0],
        [n * 1000 + 200 + (n === 3 ? dx : 0), 3000 - n * 50],
      ],
      true,
      { layer: 'walls' },
    );
  return d.finish();
};

test('a comment on a place, with a mention: answered, followed into the next version, resolved', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page, 'marit');
  const id = await makeDrawing(page, plan(0x100, 0), 'walls.dxf');
  await ready(page);
  await page.getByRole('button', { name: 'Comment on a place …' }).click();
  const canvas = page.locator('canvas');
  const box = (await canvas.boundingBox())!;
  // The fourth wall's left corner: the page is 7640 wide and 3000 high.
  const scale = Math.min((box.width - 56) / 7640, (box.height - 56) / 3000);
  const x = box.width / 2 + (3010 - 3820) * scale;
  const y = box.height / 2 + (-20 + 1500) * scale;
  await canvas.click({ position: { x, y } });
  await page.getByLabel('About this place').fill('@Ines, does this wall stay?');
  await page.getByRole('button', { name: 'Say it' }).click();
  const comments = page.getByRole('region', { name: 'Comments' });
  const entry = comments.getByRole('listitem').first();
  await expect(entry).toContainText('Marit');
  await expect(entry).toContainText('polyline, walls');

  const other = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  await signIn(other, 'ines');
  await other
    .getByRole('region', { name: 'You are mentioned' })
    .getByRole('link', { name: 'walls.dxf v1' })
    .first()
    .click();
  await expect(other.getByRole('heading', { name: 'walls.dxf', exact: true })).toBeVisible();
  await other.getByLabel('Answer').fill('It goes, from phase two on');
  await other.getByRole('button', { name: 'Answer', exact: true }).click();
  // The answer appears on the first page without a reload.
  await expect(comments).toContainText('It goes, from phase two on');

  await addVersion(page, id, plan(0x9000, 240), 'walls.dxf');
  await page.goto(`/files/${id}`);
  await ready(page);
  await expect(entry).toContainText('on v1');
  await expect(entry).not.toContainText('any more');
  // The pin went along: a click where it stands now opens the comment.
  const width = Math.min((box.width - 56) / 7640, (box.height - 56) / 3000);
  const at = { x: box.width / 2 + (3010 + 240 - 3820) * width + 8, y: box.height / 2 + (-20 + 1500) * width - 16 };
  await canvas.click({ position: at });
  await expect(entry.getByRole('button').first()).toHaveAttribute('aria-expanded', 'true');
  await entry.getByRole('button', { name: 'Resolve' }).click();
  await expect(comments.getByRole('button', { name: 'Show 1 resolved' })).toBeVisible();
  await other.goto('/');
  await expect(other.getByRole('heading', { name: 'Projects' })).toBeVisible();
  await expect(other.getByRole('region', { name: 'You are mentioned' }).getByText('does this wall stay')).toHaveCount(
    0,
  );
});

test('a comment on a change stands at its part', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, plan(0x100, 0), 'walls.dxf');
  await addVersion(page, id, plan(0x100, 240), 'walls.dxf');
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  await page.getByRole('list', { name: 'Changes' }).getByRole('button').first().click();
  await page.getByRole('button', { name: 'Comment on the chosen change' }).click();
  await page.getByLabel(/^About polyline/).fill('Why so far?');
  await page.getByRole('button', { name: 'Say it' }).click();
  await expect(page.getByRole('region', { name: 'Comments' }).getByRole('listitem')).toContainText('polyline, walls');
});

test('the comparison as a file: document, table, data, and a drawing of the changes alone', async ({ page }) => {
  await signIn(page, 'tobias');
  await openFile(page, 'deck-framing.dxf');
  await page.goto(`${new URL(page.url()).pathname}?a=4&b=5`);
  await ready(page);
  await expect(causesOf(page).first()).toBeVisible();
  await page.getByText('This comparison as a file').click();
  const get = async (form: string): Promise<{ name: string; bytes: Buffer }> => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: form, exact: true }).click(),
    ]);
    const pieces: Buffer[] = [];
    for await (const piece of await download.createReadStream()) pieces.push(piece as Buffer);
    return { name: download.suggestedFilename(), bytes: Buffer.concat(pieces) };
  };
  const pdf = await get('PDF');
  expect(pdf.name).toBe('deck-framing v4 to v5.pdf');
  expect(pdf.bytes.subarray(0, 5).toString()).toBe('%PDF-');
  // Pictures of before and after are in it.
  expect(pdf.bytes.toString('latin1').match(/\/Subtype ?\/Image/g)?.length).toBeGreaterThanOrEqual(4);
  const csv = (await get('CSV')).bytes.toString();
  expect(csv).toMatch(/^\ufeffchange,kind of change,part/);
  expect(csv).toContain('only in B,text,');
  const sheets = unzipSync((await get('XLSX')).bytes);
  const text = Object.entries(sheets)
    .filter(([n]) => n.endsWith('.xml'))
    .map(([, b]) => Buffer.from(b).toString())
    .join('');
  expect(text).toContain('Gate 1200, opens seaward');
  expect(text).toContain('Causes');
  const json = JSON.parse((await get('JSON')).bytes.toString()) as { causes: { sentence: string }[] };
  expect(json.causes[0]?.sentence).toMatch(/parts added/);
  const drawing = (await open(Uint8Array.from((await get('DXF')).bytes), 'x.dxf')).design!;
  expect(drawing.parts.filter((p) => p.category === 'B only')).toHaveLength(5);
  expect((await open(Uint8Array.from((await get('SVG')).bytes), 'x.svg')).kinds[0]).toBe('drawing');
});
