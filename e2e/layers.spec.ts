import { readFile } from 'node:fs/promises';
import { makeOra } from '@ovrel/core/node';
import { layeredOf } from '../core/src/testing.ts';
import { writePsdUint8Array } from 'ag-psd';
import sharp from 'sharp';
import { causesOf, expect, openFile, post, ready, shareOf, signIn, test, visit } from './support.ts';

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

const layersOf = (page: Parameters<typeof ready>[0]): ReturnType<typeof page.getByRole> =>
  page.getByRole('group', { name: 'Layers of the picture' }).getByRole('button');

test('what was tidied up on the poster: hidden, deleted, healed, each with its layer', async ({ page }) => {
  await openFile(page, 'season-poster.ora');
  await page.goto(`${new URL(page.url()).pathname}?a=6&b=7`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([
    /^Layer “birch texture” hidden/,
    /^Layer “gulls, first try” deleted, was hidden/,
    /^Something removed: \d+ × \d+ px at the lower right on layer “sea”/,
  ]);
  await page.getByRole('button', { name: 'Layers', exact: true }).click();
  await expect(layersOf(page).filter({ hasText: 'gulls, first try' })).toHaveText(/hidden\s*−A/);
  await expect(layersOf(page).filter({ hasText: 'birch texture' })).toHaveText(/hidden, 35 %, multiply\s*~/);
  await expect(layersOf(page).filter({ hasText: 'ferry' })).toHaveText('ferry');
});

test('flattened layers are said so, and getting back is the rail’s business', async ({ page }) => {
  await openFile(page, 'season-poster.ora');
  await page.goto(`${new URL(page.url()).pathname}?a=7&b=8`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([
    /^Layers put together: “ferry”, “sea” and “sun” are one layer now, “picture”; they look the same/,
  ]);
});

test('a layer alone: seen by itself on chequers, of one version and of two', async ({ page }) => {
  await openFile(page, 'season-poster.ora');
  await visit(page, 6);
  await ready(page);
  const canvas = page.locator('.ov-canvas > canvas');
  const sky = [243, 217, 196] as const;
  await page.getByRole('button', { name: 'Layers', exact: true }).click();
  await layersOf(page).filter({ hasText: /^sky/ }).click();
  await expect.poll(() => shareOf(canvas, sky)).toBeGreaterThan(0.1);
  await layersOf(page).filter({ hasText: 'title' }).click();
  await expect.poll(() => shareOf(canvas, sky)).toBeLessThan(0.005);
  await expect.poll(() => shareOf(canvas, [213, 219, 224])).toBeGreaterThan(0.05);
  await expect(page.getByRole('button', { name: 'Layer: title' })).toBeVisible();
  await layersOf(page).filter({ hasText: 'The whole picture' }).click();
  await expect.poll(() => shareOf(canvas, [213, 219, 224])).toBeLessThan(0.01);
});

test('a layered file of image editors is read, compared, and saved as OpenRaster', async ({ page }) => {
  const block = (x0: number, colour: readonly number[]): ImageData => {
    const data = new Uint8ClampedArray(4 * 160 * 120);
    for (let y = 20; y < 60; y++) for (let x = x0; x < x0 + 50; x++) data.set([...colour, 255], 4 * (y * 160 + x));
    return { width: 160, height: 120, data, colorSpace: 'srgb' };
  };
  const paper = {
    width: 160,
    height: 120,
    data: new Uint8ClampedArray(4 * 160 * 120).fill(255),
    colorSpace: 'srgb',
  } as ImageData;
  const saved = (x: number): Buffer =>
    Buffer.from(
      writePsdUint8Array(
        {
          width: 160,
          height: 120,
          imageData: paper,
          children: [
            { name: 'paper', imageData: paper },
            { name: 'sign', imageData: block(x, [20, 80, 90]) },
          ],
        },
        { noBackground: true },
      ),
    );
  const project = await post<{ id: string }>(page, '/projects', { name: `Layers ${Date.now()}` });
  const send = async (path: string, buffer: Buffer): Promise<{ file: { id: string } }> =>
    (
      await page.request.post(`/api/v1${path}`, {
        multipart: { note: '', file: { name: 'board.psd', mimeType: 'application/octet-stream', buffer } },
      })
    ).json() as Promise<{ file: { id: string } }>;
  const { file } = await send(`/projects/${project.id}/files`, saved(30));
  await send(`/files/${file.id}/versions`, saved(48));
  await page.goto(`/files/${file.id}?a=1&b=2`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([/^Layer “sign” moved by \(18, 0\) px/]);
  await page.goto(`/files/${file.id}?v=2`);
  await ready(page);
  await expect(page.getByText('layered picture (PSD)')).toBeVisible();
  await page.getByRole('button', { name: 'Save …' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByText('The picture, as OpenRaster').click();
  const { layers } = await layeredOf(await readFile(await (await waiting).path()));
  expect(layers.map((l) => l.name)).toEqual(['sign', 'paper']);
});

test('a damaged layered picture is kept, and says what is wrong', async ({ page }) => {
  const png = new Uint8Array(
    await sharp({ create: { width: 40, height: 30, channels: 4, background: '#204060' } })
      .png()
      .toBuffer(),
  );
  const bytes = await makeOra(40, 30, undefined, [
    { name: 'only', group: -1, hidden: false, opacity: 1, blend: 'normal', pixels: { png, x: 0, y: 0 } },
  ]);
  const project = await post<{ id: string }>(page, '/projects', { name: `Damaged layers ${Date.now()}` });
  const answer = await page.request.post(`/api/v1/projects/${project.id}/files`, {
    multipart: {
      note: '',
      file: {
        name: 'cut.ora',
        mimeType: 'application/octet-stream',
        buffer: Buffer.from(bytes.subarray(0, bytes.length - 60)),
      },
    },
  });
  const { file } = (await answer.json()) as { file: { id: string } };
  await page.goto(`/files/${file.id}`);
  await expect(page.getByText('The container is damaged: its contents cannot be taken out.').first()).toBeVisible();
});
