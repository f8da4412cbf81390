/** Old copies in the browser: planned, looked at, changed, and taken in. */
import { mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Locator } from '@playwright/test';
import { zipSync, type Zippable } from 'fflate';
import { projectOf } from './saves.ts';
import { drawing, expect, makeDrawing, signIn, stop, test, visit } from './support.ts';

const plan = (x: number): string => drawing(`<rect id="deck" x="${x}" y="60" width="160" height="60"/>`);

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

test('in the browser a folder of old copies is planned, changed, and taken in', async ({ page }) => {
  const id = await makeDrawing(page, plan(10), 'landing.svg');
  const projectId = await projectOf(page, id);
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-copies-'));
  const lines = Array.from({ length: 40 }, (_, k) => `pile ${k}: ${k * 311} mm from the quay, driven to ${k * 97} mm`);
  const copy = (name: string, day: number, ...more: string[]): void => {
    const path = join(folder, name);
    writeFileSync(path, [...lines, ...more].join('\n'));
    const at = new Date(Date.UTC(2026, 8, day));
    utimesSync(path, at, at);
  };
  copy('piles.txt', 1);
  copy('piles final.txt', 2, 'with the two at the slipway');
  copy('piles v3.txt', 3, 'with the two at the slipway', 'and the fender');
  copy('copy of piles.txt', 4);
  try {
    await page.goto(`/projects/${projectId}`);
    await page.getByRole('link', { name: 'Old copies' }).click();
    await page.getByLabel('Folder of old copies').setInputFiles(folder);
    const history = page.getByRole('list', { name: 'History of piles.txt' });
    const names = history.locator('.ov-plan-name');
    await expect(names).toHaveText(['v1 piles.txt', 'v2 piles final.txt', 'v3 piles v3.txt']);
    await expect(page.getByText('piles final.txt is older than piles v3.txt')).toBeVisible();
    await expect(page.getByText('copy of piles.txt as piles.txt')).toBeVisible();
    // What each step changed is computed here, before anything is sent.
    await expect(history.getByRole('button', { name: 'piles v3.txt' })).toContainText('Line “and the fender” added');
    await history.getByRole('button', { name: 'piles final.txt' }).click();
    await page.getByRole('button', { name: 'Take out' }).click();
    await expect(names).toHaveText(['v1 piles.txt', 'v2 piles v3.txt']);
    await history.getByRole('button', { name: 'piles v3.txt' }).click();
    await expect(page.getByRole('region', { name: 'piles v3.txt' })).toContainText('Came from piles.txt.');
    await page.getByLabel('Made by').fill('Wenna Tregar');
    await page.getByLabel('Why').fill('the fender');
    await page.getByLabel('When (UTC)').fill('2026-09-05T10:30');
    await page.getByLabel('Name in the project').fill('pile-list.txt');
    await page.getByRole('button', { name: 'Take 2 copies in as one file' }).click();
    await expect(page.getByText('2 copies are one file now, with its history.')).toBeVisible();
    await page.getByRole('link', { name: /^Open / }).click();
    await page.getByRole('link', { name: 'pile-list.txt' }).first().click();
    await expect(stop(page, 2)).toBeVisible();
    await expect(page.getByText('piles v3.txt, made by Wenna Tregar: the fender').first()).toBeVisible();
    await expect(page.getByText('5 Sep 2026, 10:30').first()).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('a ZIP of old copies is planned with pictures; copies are dragged, put aside and put back', async ({ page }) => {
  const id = await makeDrawing(page, plan(10), 'landing.svg');
  const projectId = await projectOf(page, id);
  const piles = Array.from({ length: 30 }, (_, k) => `<rect id="p${k}" x="${k * 12}" y="9" width="6" height="6"/>\n`);
  const copy = (day: number, count: number): Zippable[string] => [
    new TextEncoder().encode(drawing(`${piles.join('')}${bollards.slice(0, count).join('')}`)),
    { mtime: new Date(2026, 8, day) },
  ];
  const bollards = Array.from({ length: 3 }, (_, k) => `<circle id="b${k}" cx="${k * 90 + 40}" cy="120" r="14"/>\n`);
  const zip = zipSync({
    'landing/plan.svg': copy(1, 0),
    'landing/plan (2).svg': copy(2, 1),
    'landing/plan (3).svg': copy(3, 2),
    'landing/plan (4).svg': copy(4, 3),
  });
  await page.goto(`/projects/${projectId}/intake`);
  await page.getByLabel('ZIP of old copies').setInputFiles({
    name: 'old copies.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(zip),
  });
  const history = page.getByRole('list', { name: 'History of plan.svg' });
  const card = (name: string): Locator => history.getByRole('button', { name });
  const names = history.locator('.ov-plan-name');
  await expect(names).toHaveText(['v1 plan.svg', 'v2 plan (2).svg', 'v3 plan (3).svg', 'v4 plan (4).svg']);
  await expect(card('plan (4)').locator('img')).toHaveJSProperty('complete', true);
  // Dragged onto the first half of another, it stands before it.
  await card('plan (4)').dragTo(card('plan (2)'), { targetPosition: { x: 8, y: 40 } });
  await expect(names).toHaveText(['v1 plan.svg', 'v2 plan (4).svg', 'v3 plan (2).svg', 'v4 plan (3).svg']);
  await expect(card('plan (4)')).toContainText('placed by you');
  await page.getByRole('button', { name: 'As it was proposed' }).click();
  await card('plan (3)').dragTo(page.getByText('here, for a line of its own'));
  await expect(names).toHaveText(['v1 plan.svg', 'v2 plan (2).svg', 'v3 plan (4).svg', 'v3 plan (3).svg']);
  // By keys alone: along, across, and moved.
  await card('plan (2)').focus();
  await page.keyboard.press('ArrowRight');
  await expect(card('plan (4)')).toBeFocused();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(names).toHaveText(['v1 plan.svg', 'v2 plan (4).svg', 'v3 plan (2).svg', 'v4 plan (3).svg']);
  await page.getByRole('button', { name: 'Take 4 copies in as one file' }).click();
  await expect(page.getByText('4 copies are one file now, with its history.')).toBeVisible();
  await page.getByRole('link', { name: /^Open / }).click();
  await page.getByRole('link', { name: 'plan.svg', exact: true }).first().click();
  await visit(page, 3);
  await expect(page.getByText('landing/plan (2).svg').first()).toBeVisible();
});

test('a ZIP that is locked or broken is refused with a sentence', async ({ page }) => {
  const id = await makeDrawing(page, plan(10), 'landing.svg');
  await page.goto(`/projects/${await projectOf(page, id)}/intake`);
  const give = (buffer: Uint8Array): Promise<void> =>
    page
      .getByLabel('ZIP of old copies')
      .setInputFiles({ name: 'old.zip', mimeType: 'application/zip', buffer: Buffer.from(buffer) });
  const sound = zipSync({ 'a.txt': new TextEncoder().encode('pile 1\n'.repeat(500)) });
  await give(sound.subarray(0, sound.length - 30));
  await expect(page.getByRole('alert').filter({ hasText: 'The ZIP cannot be read' })).toBeVisible();
  const locked = sound.slice();
  const central = Buffer.from(locked).indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
  locked[central + 8] = (locked[central + 8] ?? 0) | 1;
  await give(locked);
  await expect(page.getByRole('alert').filter({ hasText: 'locked with a password' })).toBeVisible();
});
