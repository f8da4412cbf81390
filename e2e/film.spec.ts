/** Versions through time: stepped with a picture at once, played, stopped at one, and sent as a picture that moves. */
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { addVersion, drawing, expect, makeDrawing, signIn, test } from './support.ts';

const plan = (x: number): string => drawing(`<rect id="deck" x="${x}" y="60" width="60" height="60"/>`);

async function fiveVersions(page: Page): Promise<string> {
  const id = await makeDrawing(page, plan(10));
  for (const x of [70, 130, 190, 250]) await addVersion(page, id, plan(x));
  await page.goto(`/files/${id}`);
  await expect(page.getByText('5 versions')).toBeVisible();
  return id;
}

/** Whether the picture is dark where the deck of a version stands. */
const deckAt = (page: Page, x: number): Promise<boolean> =>
  page.locator('.ov-film canvas').evaluate((element, place) => {
    const canvas = element as HTMLCanvasElement;
    const scale = canvas.width / 400;
    const [red = 255] = canvas.getContext('2d')!.getImageData((place + 30) * scale, 90 * scale, 1, 1).data;
    return red < 128;
  }, x);
const canvasOf = (page: Page) => page.locator('.ov-film canvas');

test('keys step through versions with their pictures, and “this one” goes there', async ({ page }) => {
  await signIn(page, 'tobias');
  await fiveVersions(page);
  await page.keyboard.press('v');
  const film = page.getByRole('dialog');
  await expect(film.getByRole('heading', { name: 'pier.svg through time' })).toBeVisible();
  await expect(canvasOf(page)).toHaveAttribute('data-shows', 'v5');
  await page.keyboard.press('ArrowLeft');
  await expect(canvasOf(page)).toHaveAttribute('data-shows', 'v4');
  await page.keyboard.press('End');
  await film.getByLabel('Mark what changed').uncheck();
  await expect(canvasOf(page)).toHaveAttribute('data-shows', 'v5');
  expect([await deckAt(page, 250), await deckAt(page, 10)]).toEqual([true, false]);
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(canvasOf(page)).toHaveAttribute('data-shows', 'v3');
  expect([await deckAt(page, 130), await deckAt(page, 250)]).toEqual([true, false]);
  await film.getByRole('button', { name: 'This one' }).click();
  await expect(film).toHaveCount(0);
  await expect(page.getByText('v3 Check-in')).toBeVisible();
});

test('it plays from the beginning to the end, marks what changed, and can be stopped at any version', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  await fiveVersions(page);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const film = page.getByRole('dialog');
  await film.getByLabel('Pace').selectOption('very fast');
  await film.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(canvasOf(page)).toHaveAttribute('data-shows', 'v5');
  await expect(film.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(film.getByRole('status')).toContainText('(5 of 5)');
  // Where the deck was before stands a tint.
  await expect
    .poll(() =>
      canvasOf(page).evaluate((element) => {
        const canvas = element as HTMLCanvasElement;
        const scale = canvas.width / 400;
        const [red = 0, green = 0] = canvas.getContext('2d')!.getImageData(220 * scale, 90 * scale, 1, 1).data;
        return red - green;
      }),
    )
    .toBeGreaterThan(15);
  // The slowest pace leaves time to stop.
  await film.getByLabel('Pace').selectOption('very slowly');
  await film.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(canvasOf(page)).toHaveAttribute('data-shows', 'v2');
  await film.getByRole('button', { name: 'Stop' }).click();
  const number = (await canvasOf(page).getAttribute('data-shows')) ?? '';
  await film.getByRole('button', { name: 'This one' }).click();
  await expect(page.getByText(`${number} Check-in`)).toBeVisible();
});

test('a stretch can be sent as a picture that moves', async ({ page }) => {
  await signIn(page, 'tobias');
  await fiveVersions(page);
  await page.keyboard.press('v');
  const film = page.getByRole('dialog');
  for (const form of ['GIF', 'WebP']) {
    const download = page.waitForEvent('download');
    await film.getByRole('link', { name: form }).click();
    const arrived = await download;
    expect(arrived.suggestedFilename()).toBe(`pier v1 to v5.${form.toLowerCase()}`);
    const { pages, delay } = await sharp(await arrived.path(), { animated: true }).metadata();
    expect(pages).toBe(5);
    expect(delay?.[0]).toBe(700);
  }
});
