import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { causesOf, expect, openFile, post, ready, shareOf, signIn, test } from './support.ts';
import type { Page } from '@playwright/test';

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

const stripes = (paint: (x: number, y: number) => readonly [number, number, number]): Buffer => {
  const out = Buffer.alloc(320 * 240 * 3);
  for (let y = 0; y < 240; y++) for (let x = 0; x < 320; x++) out.set(paint(x, y), 3 * (y * 320 + x));
  return out;
};
const board = (x: number, y: number): readonly [number, number, number] => [
  60 + ((Math.imul((x >> 4) * 31 + (y >> 4) * 17 + 7, 2_654_435_761) >>> 24) % 5) * 35,
  120 + (x >> 2),
  150 - (y >> 2),
];
const encoded = (paint: typeof board): ReturnType<typeof sharp> =>
  sharp(stripes(paint), { raw: { width: 320, height: 240, channels: 3 } });

let counter = 0;
async function makePicture(page: Page, name: string, ...contents: Buffer[]): Promise<string> {
  const project = await post<{ id: string }>(page, '/projects', { name: `Pictures ${Date.now()} ${++counter}` });
  const send = (path: string, buffer: Buffer): ReturnType<Page['request']['post']> =>
    page.request.post(`/api/v1${path}`, {
      multipart: { note: '', file: { name, mimeType: 'application/octet-stream', buffer } },
    });
  const { file } = (await (await send(`/projects/${project.id}/files`, contents[0]!)).json()) as {
    file: { id: string };
  };
  for (const buffer of contents.slice(1)) expect((await send(`/files/${file.id}/versions`, buffer)).status()).toBe(201);
  return file.id;
}

test('the boat that was retouched out of a photograph is found, with what was done to all of it', async ({ page }) => {
  await openFile(page, 'old-landing.jpg');
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=4`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([
    /^Something removed: \d+ × \d+ px at the left/,
    /^Brighter overall, lightness \+\d/,
  ]);
  await expect(page.getByText('Compared pixel by pixel: 1 place changed')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Changes' }).getByRole('button').getByLabel('only in A')).toBeVisible();
});

test('the threshold decides what is listed, at once', async ({ page }) => {
  // One place is plain to see, of the other an eye can hardly tell.
  const id = await makePicture(
    page,
    'board.png',
    await encoded(board).png().toBuffer(),
    await encoded((x, y) => {
      const c = board(x, y);
      if (x > 200 && x < 260 && y > 150 && y < 200) return [250, 40, 40];
      if (x > 40 && x < 90 && y > 40 && y < 80) return [c[0] + 4, c[1] + 4, c[2] + 4];
      return c;
    })
      .png()
      .toBuffer(),
  );
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  const changes = page.getByRole('list', { name: 'Changes' }).getByRole('button');
  await expect(changes).toHaveCount(1);
  await page.getByLabel(/^Differences of at least/).fill('0.8');
  await expect(changes).toHaveCount(2);
  await expect(page.getByText('Compared pixel by pixel: 2 places changed')).toBeVisible();
  await page.getByRole('button', { name: 'Back to 2.3' }).click();
  await expect(changes).toHaveCount(1);
});

test('heat is bright where something changed and dark where nothing did; the pixels under the pointer are said', async ({
  page,
}) => {
  const id = await makePicture(
    page,
    'board.png',
    await encoded(board).png().toBuffer(),
    await encoded((x, y) => (x > 200 && x < 260 && y > 150 && y < 200 ? [250, 40, 40] : board(x, y)))
      .png()
      .toBuffer(),
  );
  await page.goto(`/files/${id}?a=1&b=2&look=heat`);
  await ready(page);
  const canvas = page.locator('.ov-canvas > canvas');
  const box = (await canvas.boundingBox())!;
  const scale = Math.min((box.width - 56) / 320, (box.height - 56) / 240);
  const at = (x: number, y: number) => ({
    x: box.width / 2 + (x - 160) * scale,
    y: box.height / 2 + (y - 120) * scale,
  });
  const light = (x: number, y: number): Promise<number> =>
    canvas.evaluate(
      (el, p) => {
        const c = el as HTMLCanvasElement;
        const k = c.width / c.clientWidth;
        const { data } = c.getContext('2d')!.getImageData(Math.round(p.x * k), Math.round(p.y * k), 1, 1);
        return data[0]! + data[1]! + data[2]!;
      },
      at(x, y),
    );
  await expect.poll(() => light(230, 175)).toBeGreaterThan(350);
  expect(await light(60, 60)).toBeLessThan(150);
  await page.keyboard.press('g');
  await canvas.hover({ position: at(230, 175) });
  const loupe = page.getByRole('group', { name: 'Magnifier' });
  await expect(loupe).toContainText('B #fa2828');
  await expect(loupe).toContainText(/difference \d\d/);
  await canvas.hover({ position: at(60, 60) });
  await expect(loupe).toContainText('difference 0.0');
});

test('a cropped picture is laid over the other, and that can be switched off', async ({ page }) => {
  const whole = await encoded(board).png().toBuffer();
  const cut = await sharp(whole).extract({ left: 30, top: 20, width: 260, height: 200 }).png().toBuffer();
  const id = await makePicture(page, 'board.png', whole, cut);
  await page.goto(`/files/${id}?a=1&b=2&look=only`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([
    /^Cropped: 320 × 240 → 260 × 200 px, 30 px at the left, 20 px at the top, 30 px at the right, 20 px at the bottom cut off/,
  ]);
  // Share of what is not white within B's page.
  const dark = (): Promise<number> =>
    page.locator('.ov-canvas > canvas').evaluate((el) => {
      const c = el as HTMLCanvasElement;
      const { data } = c.getContext('2d')!.getImageData(c.width / 2 - 60, c.height / 2 - 60, 120, 120);
      let n = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i]! + data[i + 1]! + data[i + 2]! < 700) n++;
      return n / (data.length / 4);
    });
  await expect.poll(dark).toBeLessThan(0.01);
  await page.getByRole('button', { name: 'Laid over' }).click();
  await expect.poll(dark).toBeGreaterThan(0.02);
});

test('a TIFF is shown, compared with its next version, and reported with pictures', async ({ page }) => {
  const id = await makePicture(
    page,
    'board.tif',
    await encoded(board).tiff().toBuffer(),
    await encoded((x, y) => (x < 64 && y < 48 ? [20, 20, 20] : board(x, y)))
      .tiff()
      .toBuffer(),
  );
  await page.goto(`/files/${id}`);
  await ready(page);
  await expect(page.getByRole('region', { name: 'About this version' })).toContainText('320 × 240 px');
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([/at the upper left/]);
  await page.getByText('This comparison as a file').click();
  const save = async (form: string): Promise<string> => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: form, exact: true }).click(),
    ]);
    return await download.path();
  };
  const pdf = (await readFile(await save('PDF'))).toString('latin1');
  // Before and after.
  expect(pdf.match(/\/Subtype \/Image/g)?.length ?? 0).toBeGreaterThanOrEqual(2);
  expect((await readFile(await save('CSV'))).toString()).toContain('1, upper left');
});

test('a picture that was cut off is shown as far as it goes, and says so', async ({ page }) => {
  const whole = await encoded((x, y) => board(x + ((y * 7) % 5), y))
    .jpeg({ quality: 92 })
    .toBuffer();
  const id = await makePicture(
    page,
    'board.jpg',
    whole,
    Buffer.from(whole.subarray(0, Math.floor(whole.length * 0.55))),
  );
  await page.goto(`/files/${id}`);
  await expect(page.getByRole('region', { name: 'About this version' })).toContainText(
    /The picture is damaged \(the file ends too early\)\. About \d+ % at its lower end could not be decoded; it is shown hatched/,
  );
  await page.goto(`/files/${id}?v=2`);
  await ready(page);
  // The lines of the hatching.
  await expect.poll(() => shareOf(page.locator('.ov-canvas > canvas'), [180, 83, 9])).toBeGreaterThan(0.01);
  await page.goto(`/files/${id}?a=1&b=2`);
  await expect(page.getByRole('region', { name: 'What changed' })).toContainText('B: The picture is damaged');
});

test('a TIFF of several pages: page by page, and each can be looked at', async ({ page }) => {
  const book = async (mark: boolean): Promise<Buffer> => {
    const pages = await Promise.all(
      [0, 1].map((k) =>
        encoded((x, y) =>
          mark && k === 1 && x > 200 && x < 260 && y > 150 && y < 200 ? [250, 40, 40] : board(x + 40 * k, y),
        )
          .png()
          .toBuffer(),
      ),
    );
    return sharp(pages, { join: { animated: true } })
      .tiff({ compression: 'lzw' })
      .toBuffer();
  };
  const id = await makePicture(page, 'scans.tif', await book(false), await book(true));
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([/ on “Page 2”/]);
  const canvas = page.locator('.ov-canvas > canvas');
  const red = [211, 50, 50] as const;
  await page.keyboard.press('2');
  await page.getByLabel('Page', { exact: true }).selectOption('Page 1');
  await ready(page);
  expect(await shareOf(canvas, red)).toBeLessThan(0.001);
  await page.getByLabel('Page', { exact: true }).selectOption('Page 2');
  await expect.poll(() => shareOf(canvas, red)).toBeGreaterThan(0.005);
});

test('frames of a moving picture: one by one, and one that was put in between is no change of the others', async ({
  page,
}) => {
  const film = async (...shifts: number[]): Promise<Buffer> =>
    sharp(
      await Promise.all(
        shifts.map((by) =>
          encoded((x, y) => (Math.abs(x - by) < 30 && y > 90 && y < 150 ? [200, 30, 30] : [225, 228, 220]))
            .png()
            .toBuffer(),
        ),
      ),
      { join: { animated: true } },
    )
      .gif()
      .toBuffer();
  const id = await makePicture(page, 'gate.gif', await film(60, 160, 250), await film(60, 110, 160, 250));
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  await expect(causesOf(page)).toHaveText([/^Frame 2 added/]);
  const canvas = page.locator('.ov-canvas > canvas');
  await page.keyboard.press('2');
  await page.getByLabel('Page', { exact: true }).selectOption('Frame 4');
  await ready(page);
  // The third frame of A stands beside it: both show the gate at the right.
  await expect.poll(() => shareOf(canvas, [200, 30, 30])).toBeGreaterThan(0.01);
});

test('before a picture is checked in, the dialog says what changed in it', async ({ page }) => {
  const id = await makePicture(page, 'board.png', await encoded(board).png().toBuffer());
  await page.goto(`/files/${id}`);
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  const edited = await encoded((x, y) => (x > 200 && x < 260 && y > 150 && y < 200 ? [250, 40, 40] : board(x, y)))
    .png()
    .toBuffer();
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'board.png', mimeType: 'image/png', buffer: edited });
  await expect(page.getByRole('dialog')).toContainText(
    /What changed: (Something added|Painted over): 60 × \d+ px at the lower right/,
  );
  await page.getByRole('button', { name: 'Take this as the note' }).click();
  await page.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByText('Checked in as v2')).toBeVisible();
  await expect(page.locator('.ov-about')).toContainText(/60 × \d+ px at the lower right/);
});

test('while large pictures are compared, a first look already says what is seen', async ({ page }) => {
  let seed = 9;
  const grain = (paint: (x: number, y: number) => number | undefined): ReturnType<typeof sharp> => {
    const data = Buffer.alloc(1200 * 900 * 3);
    seed = 9;
    for (let k = 0; k < 1200 * 900; k++) {
      seed = (seed * 48_271) % 2_147_483_647;
      data.fill(
        paint(k % 1200, Math.floor(k / 1200)) ??
          90 + 40 * Math.sin((k % 1200) / 60) + 40 * Math.cos(k / 1200 / 50) + (seed % 16),
        3 * k,
        3 * k + 3,
      );
    }
    return sharp(data, { raw: { width: 1200, height: 900, channels: 3 } });
  };
  const id = await makePicture(
    page,
    'hall.png',
    await grain(() => undefined)
      .png()
      .toBuffer(),
    await grain((x, y) => (x > 900 && x < 1000 && y > 60 && y < 140 ? 250 : undefined))
      .png()
      .toBuffer(),
  );
  let letGo = (): void => undefined;
  const held = new Promise<void>((resolve) => {
    letGo = resolve;
  });
  await page.route(/\/api\/v1\/comparisons\?/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`/files/${id}?a=1&b=2`);
  await expect(page.getByRole('list', { name: 'At a first look' })).toHaveText(/(added|Painted over): upper right/);
  await expect(page.getByTestId('first-look')).toContainText('at 75 % of the size');
  letGo();
  await expect(causesOf(page).first()).toHaveText(/ 10\d × \d+ px at the upper right|100 × 80 px at the upper right/);
  await expect(page.getByTestId('first-look')).toHaveCount(0);
});

test('a set of sheets: pages are paired, what changed on each is listed and drawn', async ({ page }) => {
  await openFile(page, 'landing-set.pdf');
  await ready(page);
  await expect(page.getByRole('region', { name: 'About this version' })).toContainText('PDF document');
  await page.getByLabel('Page', { exact: true }).selectOption({ index: 3 });
  await ready(page);
  const dark = (): Promise<number> =>
    page.locator('.ov-canvas > canvas').evaluate((el) => {
      const c = el as HTMLCanvasElement;
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      let n = 0;
      for (let i = 0; i < data.length; i += 4)
        if (data[i + 3]! > 200 && data[i]! + data[i + 1]! + data[i + 2]! < 300) n++;
      return n / (data.length / 4);
    });
  await expect.poll(dark).toBeGreaterThan(0.001);
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=2`);
  await ready(page);
  const causes = causesOf(page);
  await expect(causes.filter({ hasText: /^Page “Page 5” added, with \d+ parts/ })).toHaveCount(1);
  await expect(causes.filter({ hasText: /^Page “Page 9 of A” removed, with \d+ parts/ })).toHaveCount(1);
  await expect(causes.filter({ hasText: '“P01” replaced by “P02” in 8 texts' })).toHaveCount(1);
  await page.goto(`${new URL(page.url()).pathname}?a=2&b=3`);
  await ready(page);
  await expect(causes.filter({ hasText: /^Page “Page 3” was page \d/ })).toHaveCount(1);
  await expect(causes.filter({ hasText: /“fabrication\.” replaced by “fabrication, then painted\.”/ })).toHaveCount(1);
});
