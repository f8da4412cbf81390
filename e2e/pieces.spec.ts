/** Getting back layers, pages and areas, which are not parts of a drawing. */
import { makeOra } from '@ovrel/core/node';
import type { Page } from '@playwright/test';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { layeredOf } from '../core/src/testing.ts';
import { causesOf, drawing, expect, makeDrawing, openFile, post, ready, signIn, stop, test } from './support.ts';

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

const W = 160;
const H = 120;
type Block = readonly [left: number, top: number, right: number, bottom: number, colour: string];

/** A picture of rectangles on nothing, as PNG. */
const painted = async (...blocks: readonly Block[]): Promise<Buffer> => {
  const rectangles = blocks.map(
    ([x0, y0, x1, y1, colour]) => `<rect x="${x0}" y="${y0}" width="${x1 - x0}" height="${y1 - y0}" fill="${colour}"/>`,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}">${rectangles.join('')}</svg>`;
  return sharp(Buffer.from(svg)).png().toBuffer();
};

/** A file with these versions; gives its id and theirs. */
async function kept(
  page: Page,
  name: string,
  contents: readonly Buffer[],
): Promise<{ id: string; versions: string[] }> {
  const project = await post<{ id: string }>(page, '/projects', { name: `Pieces ${name} ${Date.now()}` });
  const send = async (path: string, buffer: Buffer): Promise<{ file: { id: string } }> => {
    const answer = await page.request.post(`/api/v1${path}`, {
      multipart: { note: '', file: { name, mimeType: 'application/octet-stream', buffer } },
    });
    expect(answer.status()).toBe(201);
    return (await answer.json()) as { file: { id: string } };
  };
  const [first, ...later] = contents;
  if (!first) throw new Error('a file needs a version');
  const { file } = await send(`/projects/${project.id}/files`, first);
  for (const content of later) await send(`/files/${file.id}/versions`, content);
  const list = (await (await page.request.get(`/api/v1/files/${file.id}/versions`)).json()) as {
    id: string;
    number: number;
  }[];
  return { id: file.id, versions: list.sort((a, b) => a.number - b.number).map((v) => v.id) };
}

async function newestBytes(page: Page, fileId: string): Promise<Buffer> {
  const answer = await page.request.get(`/api/v1/files/${fileId}`);
  const { newest } = (await answer.json()) as { newest: { id: string } };
  return (await page.request.get(`/api/v1/versions/${newest.id}/content`)).body();
}

async function colourAt(png: Buffer, x: number, y: number): Promise<string> {
  const { data, info } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
  const at = info.channels * (y * info.width + x);
  return `#${data.subarray(at, at + 3).toString('hex')}`;
}

const land = async (page: Page, version: number): Promise<void> => {
  await page.getByRole('button', { name: `Check in as v${version}` }).click();
  await expect(page.getByText(`Checked in as v${version}. Nothing was removed.`)).toBeVisible();
};

test('a layer that was thrown away comes back out of an older version, under what was painted since', async ({
  page,
}) => {
  const layer = async (name: string, ...blocks: Block[]): Promise<Parameters<typeof makeOra>[3][number]> => ({
    name,
    group: -1,
    hidden: false,
    opacity: 1,
    blend: 'normal',
    pixels: { png: await painted(...blocks), x: 0, y: 0 },
  });
  const paper = await layer('paper', [0, 0, W, H, '#f0ece2']);
  const gulls = await layer('gulls', [10, 10, 40, 30, '#224466']);
  const ferry = await layer('ferry', [60, 50, 120, 90, '#aa4422']);
  const longFerry = await layer('ferry', [60, 50, 150, 90, '#aa4422']);
  const poster = async (...layers: Parameters<typeof makeOra>[3]): Promise<Buffer> =>
    Buffer.from(await makeOra(W, H, undefined, layers));
  const { id, versions } = await kept(page, 'poster.ora', [
    await poster(ferry, gulls, paper),
    await poster(longFerry, paper),
  ]);
  await page.goto(`/files/${id}?v=${versions[0]}`);
  await page.getByLabel('gulls').check();
  await page.getByRole('button', { name: 'Carry over into v2' }).click();
  await expect(causesOf(page)).toHaveText([/^Layer “gulls” added/]);
  await land(page, 3);
  const layers = (await layeredOf(new Uint8Array(await newestBytes(page, id)))).layers.map((l) => l.name);
  expect(layers).toEqual(['ferry', 'gulls', 'paper']);
});

test('an area of an older picture is carried over, and what was painted elsewhere stays', async ({ page }) => {
  const ground: Block = [0, 0, W, H, '#ffffff'];
  const { id, versions } = await kept(page, 'season.png', [
    await painted(ground, [20, 20, 60, 60, '#224466']),
    await painted(ground, [100, 70, 150, 110, '#aa4422']),
  ]);
  await page.goto(`/files/${id}?v=${versions[0]}`);
  await ready(page);
  await page.getByRole('button', { name: 'Mark an area to carry over' }).click();
  const pen = await page.getByRole('application', { name: 'Draw a rectangle' }).boundingBox();
  if (!pen) throw new Error('there is nothing to draw on');
  // Much of the left half, whatever the zoom: the picture is fitted into the middle.
  await page.mouse.move(pen.x + pen.width / 2 - 4, pen.y + pen.height - 4);
  await page.mouse.down();
  await page.mouse.move(pen.x + 4, pen.y + 4, { steps: 4 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Carry over into v2' }).click();
  await expect(causesOf(page)).toHaveCount(1);
  await land(page, 3);
  const result = await newestBytes(page, id);
  expect(await colourAt(result, 40, 40)).toBe('#224466');
  expect(await colourAt(result, 130, 90)).toBe('#aa4422');
});

test('what was done to one page is taken back with that page, and pages that came later stay', async ({ page }) => {
  const book = async (...words: readonly string[]): Promise<Buffer> => {
    const pdf = await PDFDocument.create();
    for (const word of words) pdf.addPage([300, 200]).drawText(word, { x: 20, y: 100, size: 18 });
    return Buffer.from(await pdf.save());
  };
  const { id, versions } = await kept(page, 'method.pdf', [
    await book('Scope', 'Tides'),
    await book('Scope', 'No tides'),
    await book('Scope', 'No tides', 'Signs'),
  ]);
  await page.goto(`/files/${id}?a=${versions[0]}&b=${versions[1]}`);
  await page
    .getByRole('checkbox', { name: /^Pick: / })
    .first()
    .check();
  await page.getByRole('button', { name: 'Take back in v3' }).click();
  await expect(causesOf(page).first()).toContainText('Tides');
  await land(page, 4);
  // Against the version before the edit: that page is as it was, and only the one that came later is more.
  const newest = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { newest: { id: string } };
  const since = await page.request.get(`/api/v1/comparisons?a=${versions[0]}&b=${newest.newest.id}`);
  const { comparison } = (await since.json()) as { comparison: { causes: { sentence: string }[] } };
  expect(comparison.causes.map((cause) => cause.sentence)).toEqual([expect.stringMatching(/^Page .*added/)]);
  await expect(stop(page, 4)).toBeVisible();
});

test('a line is checked out by itself, and the main line stays free', async ({ page, browser }) => {
  const id = await makeDrawing(page, drawing('<rect id="deck" x="40" y="60" width="160" height="60"/>'));
  const list = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as { id: string }[];
  const line = await post<{ lineId: string; id: string }>(page, `/versions/${list[0]?.id}/lines`, {
    name: 'Hut to the east',
    reason: '',
  });
  await page.goto(`/files/${id}?v=${line.id}`);
  const holder = page.getByRole('region', { name: 'Check-out' });
  await expect(holder).toContainText('Nobody has “Hut to the east” checked out.');
  await holder.getByRole('button', { name: 'Check out' }).click();
  await expect(holder).toContainText('You have it checked out, on “Hut to the east”');
  await page.goto(`/files/${id}?v=${list[0]?.id}`);
  await expect(holder).toContainText('Nobody has this file checked out.');
  await page.goto('/desk');
  await expect(page.getByRole('table', { name: 'Checked out by you' })).toContainText('on “Hut to the east”');
  const other = await browser.newPage();
  await signIn(other, 'ines');
  await other.goto(`/files/${id}?v=${line.id}`);
  await expect(other.getByRole('region', { name: 'Check-out' })).toContainText('Tobias');
  await other.close();
});

test('a version is saved as PDF, whatever program it is of', async ({ page }) => {
  await openFile(page, 'deck-framing.dxf');
  const file = new URL(page.url()).pathname;
  const { newest } = (await (await page.request.get(`/api/v1${file}`)).json()) as { newest: { id: string } };
  const version = newest.id;
  const answer = await page.request.get(`/api/v1/versions/${version}/view?as=document`);
  expect(answer.headers()['content-disposition']).toMatch(/\.pdf/);
  const pdf = await PDFDocument.load(await answer.body());
  expect(pdf.getPageCount()).toBeGreaterThan(0);
  // What is on the page is the drawing: compared as drawn, nothing of it is missing.
  const project = await post<{ id: string }>(page, '/projects', { name: `Print ${Date.now()}` });
  const kept = await page.request.post(`/api/v1/projects/${project.id}/files`, {
    multipart: { note: '', file: { name: 'print.pdf', mimeType: 'application/pdf', buffer: await answer.body() } },
  });
  const print = ((await kept.json()) as { file: { newest: { id: string } } }).file.newest.id;
  const compared = await page.request.get(`/api/v1/comparisons?a=${version}&b=${print}`);
  const { comparison } = (await compared.json()) as { comparison: { level: string; changes: unknown[] } };
  expect(comparison).toMatchObject({ level: 'pixels', changes: [] });
});
