import { mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { openFile, signIn } from '../e2e/support.ts';
import { dataFolder, freePort } from './lib/cluster.ts';
import { startInstance } from './lib/instance.ts';
import { root } from './lib/prepare.mjs';

const folder = dataFolder(undefined, '.ovrel-screenshots');
rmSync(folder, { recursive: true, force: true });
const instance = await startInstance({ port: await freePort(), demo: true, data: () => folder });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-background-networking'],
});
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: instance.address });
  await page.goto('/sign-in');
  await signIn(page, 'tobias');
  await page.getByRole('region', { name: 'What happened' }).waitFor();
  await shoot(page, 'home');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('link', { name: 'Drawings', exact: true }).click();
  await page.getByRole('link', { name: 'landing-plan.svg' }).waitFor();
  await shoot(page, 'project');
  await openFile(page, 'wayfinding-signs.svg');
  const signs = new URL(page.url()).pathname;
  await ready(page);
  await page.getByRole('button', { name: /^v6, / }).locator('.hit').hover();
  await shoot(page, 'file');
  await page.mouse.move(640, 300);
  for (const [query, name] of [['a=5&b=6', 'compare-overlay']] as const) {
    await page.goto(`${signs}?${query}`);
    await ready(page);
    await page
      .getByRole('checkbox', { name: /^Pick: / })
      .first()
      .check();
    await shoot(page, name);
  }
  await page.goto(signs);
  await ready(page);
  await page.keyboard.press('h');
  await page.getByRole('list', { name: 'People' }).waitFor({ timeout: 180_000 });
  await page.locator('canvas').click({ position: { x: 440, y: 270 } });
  await page.getByRole('list', { name: 'Stories' }).scrollIntoViewIfNeeded();
  await shoot(page, 'drawn-by');
  await page.keyboard.press('h');
  await openFile(page, 'gangway-hinge.svg');
  await ready(page);
  await page.locator('body').press('ArrowDown');
  await page.getByRole('button', { name: /^Join “Twelve bolts”/ }).click();
  await page.locator('.ov-proposed').waitFor();
  await ready(page);
  await shoot(page, 'join');
  await page.getByRole('button', { name: 'Let it go' }).click();
  await openFile(page, 'handrail-bracket.stl');
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=2`);
  await page.locator('.ov-canvas canvas[data-drawn=true]').waitFor({ timeout: 180_000 });
  await page.getByRole('list', { name: 'Causes' }).getByText('Hole made').first().waitFor({ timeout: 180_000 });
  await page.waitForTimeout(2500);
  await shoot(page, 'compare-model');
  await openFile(page, 'landing-set.pdf');
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=3`);
  await ready(page);
  await page.getByLabel('Page', { exact: true }).selectOption({ index: 3 });
  await ready(page);
  await page.waitForTimeout(1500);
  await shoot(page, 'compare-sheets');
  await openFile(page, 'season-poster.ora');
  await page.goto(`${new URL(page.url()).pathname}?a=6&b=7`);
  await ready(page);
  await page.getByRole('button', { name: 'Layers', exact: true }).click();
  await shoot(page, 'compare-layers');
  await openFile(page, 'old-landing.jpg');
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=4&look=heat`);
  await ready(page);
  await page.keyboard.press('g');
  await page.mouse.move(540, 400);
  await page.mouse.move(562, 421);
  await shoot(page, 'compare-heat');
  await page.goto('/storage');
  await page.locator('canvas[data-ready=true]').waitFor();
  await page.getByRole('button', { name: 'Check everything' }).click();
  await page.getByText(/All is well/).waitFor();
  await page.reload();
  await page.locator('canvas[data-ready=true]').waitFor();
  await shoot(page, 'storage');
  await page.goto(signs);
  await ready(page);
  await page.keyboard.press('v');
  await page.locator('.ov-film canvas[data-shows="v9"]').waitFor({ timeout: 180_000 });
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await page.locator('.ov-film canvas[data-shows="v7"]').waitFor({ timeout: 180_000 });
  await shoot(page, 'through-time');
  await page.keyboard.press('Escape');
  await page.goto('/');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('link', { name: 'Keeping rules' }).click();
  await page.getByRole('button', { name: 'Try it on the past' }).click();
  await page.getByRole('region', { name: 'Tried on the past' }).waitFor();
  await shoot(page, 'keeping-rules');
  await page.goto('/');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('link', { name: 'History' }).click();
  await page.locator('.ov-sets').waitFor();
  await shoot(page, 'history');
  await page.goto(page.url().replace(/history.*/, 'desk'));
  await page.getByRole('button', { name: 'Use the practice folder' }).click();
  await page.getByRole('button', { name: /^Get the \d+ that are newer/ }).click();
  await page.getByText(/files are here as their newest versions/).waitFor();
  await page.getByRole('button', { name: 'Edit Drawings/landing-plan.svg' }).click();
  await page.getByRole('button', { name: 'Move a shape' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByText('Everything is saved.').waitFor();
  await page.getByRole('button', { name: 'Close', exact: true }).last().click();
  await page.getByText('changed here').waitFor();
  await shoot(page, 'desk-folder');
  await page.goto(page.url().replace(/desk.*/, 'access'));
  await page.getByLabel('Place').selectOption({ label: 'Graphics (says something of 1)' });
  await page.getByText('What holds in the folder “Graphics”.').waitFor();
  await shoot(page, 'access');
  await page.goto('/ledger');
  await page.getByRole('table', { name: 'Ledger' }).waitFor();
  await shoot(page, 'ledger');
  await openFile(page, 'deck-framing.dxf');
  await oldCopies(page, new URL(page.url()).pathname);
  await openFile(page, 'steel-quantities.xlsx');
  await page.goto(`${new URL(page.url()).pathname}?a=2&b=5`);
  await page.getByRole('grid', { name: 'Steel' }).waitFor({ timeout: 180_000 });
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'Next change' }).click();
  await shoot(page, 'compare-table');
  await page.keyboard.press('t');
} finally {
  await browser.close();
  await instance.stop();
  rmSync(folder, { recursive: true, force: true });
}
process.exit(0);

/** Pictures are not tests: a busy machine may take its time. */
async function ready(page: Page): Promise<void> {
  await page.locator('canvas[data-ready=true]').waitFor({ timeout: 180_000 });
}

/** The versions of a file as copies in a folder, called as people call them, and the plan that is made of them. */
async function oldCopies(page: Page, file: string): Promise<void> {
  const copies = mkdtempSync(join(tmpdir(), 'ovrel-copies-'));
  const versions = (await (await page.request.get(`/api/v1${file}/versions`)).json()) as { id: string; at: string }[];
  const marks = ['', '-v2', '-v3', '-final', '-v5', '-final-2', '-v7 (1)'];
  for (const [k, { id, at }] of versions.sort((a, b) => a.at.localeCompare(b.at)).entries()) {
    const path = join(copies, `deck-framing${marks[k] ?? `-${k}`}.dxf`);
    writeFileSync(path, await (await page.request.get(`/api/v1/versions/${id}/content`)).body());
    utimesSync(path, new Date(at), new Date(at));
  }
  await page.goto('/');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).first().click();
  await page.getByRole('link', { name: 'Old copies' }).click();
  await page.getByLabel('Folder of old copies').setInputFiles(copies);
  const steps = page.locator('.ov-plan-step');
  await steps.nth(3).click();
  // All of them but the first say what they changed.
  await page.waitForFunction(() => document.querySelectorAll('.ov-plan-summary').length >= 6);
  await shoot(page, 'old-copies');
  rmSync(copies, { recursive: true, force: true });
}

async function shoot(page: Page, name: string): Promise<void> {
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(root, 'docs', 'screenshots', `${name}.png`) });
  console.log(name);
}
