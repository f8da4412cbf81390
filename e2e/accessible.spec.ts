/** Every page and the dialogs, light and dark, against WCAG 2.2 AA, as far as a program can tell. */
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, openFile, signIn, test } from './support.ts';

const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

/** What is wrong, a line each, with the element. */
async function faults(checks: AxeBuilder): Promise<string[]> {
  const { violations } = await checks.analyze();
  return violations.flatMap(({ id, help, nodes }) => nodes.map((node) => `${id}: ${help}: ${node.html.slice(0, 200)}`));
}

const settled = async (page: Page): Promise<void> => {
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
};

async function projectPage(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await expect(page.getByRole('table', { name: 'Folders and files' })).toBeVisible();
}

/** A page of the demo's project, by its ending. */
const below =
  (ending: string, heading: RegExp) =>
  async (page: Page): Promise<void> => {
    await projectPage(page);
    await page.goto(`${new URL(page.url()).pathname}/${ending}`);
    await expect(page.getByRole('heading', { level: 1, name: heading })).toBeVisible();
  };

const at =
  (address: string, heading: RegExp) =>
  async (page: Page): Promise<void> => {
    await page.goto(address);
    await expect(page.getByRole('heading', { level: 1, name: heading })).toBeVisible();
  };

const file =
  (name: string) =>
  async (page: Page): Promise<void> => {
    await page.goto('/');
    await openFile(page, name);
    await expect(
      page.locator('.ov-canvas[data-ready="true"], .ov-text, .ov-tables, .ov-bytes, canvas').first(),
    ).toBeVisible();
  };

const after =
  (first: (page: Page) => Promise<void>, press: RegExp) =>
  async (page: Page): Promise<void> => {
    await first(page);
    await page.getByRole('button', { name: press }).first().click();
    await expect(page.getByRole('dialog')).toBeVisible();
  };

const pages: Readonly<Record<string, (page: Page) => Promise<void>>> = {
  home: at('/', /^Home$/),
  'a project': projectPage,
  'its history': below('history', /History/),
  'its deleted files': below('deleted', /Deleted/),
  'its access': below('access', /^Access/),
  'its keeping rules': below('keeping', /^Keeping rules/),
  'its desk folder': below('desk', /^Desk of/),
  'its old copies': below('intake', /^Old copies/),
  'the desk': at('/desk', /desk/i),
  'the ledger': at('/ledger', /^Ledger$/),
  people: at('/people', /^People$/),
  account: at('/account', /^Account$/),
  storage: at('/storage', /^Storage$/),
  'a drawing': file('landing-plan.svg'),
  'another drawing': file('deck-framing.dxf'),
  'a document': file('landing-set.pdf'),
  'a picture': file('old-landing.jpg'),
  'a text': file('method-statement.md'),
  'a model': file('mooring-caps.3mf'),
  'two models': async (page) => {
    await file('handrail-bracket.stl')(page);
    await page.goto(`${new URL(page.url()).pathname}?a=1&b=2`);
    await expect(page.getByLabel('Legend')).toContainText('outwards');
    await page.locator('.ov-canvas canvas').click();
    await expect(page.getByRole('complementary', { name: 'Part' })).toBeVisible();
  },
  'a page that is not there': at('/files/00000000-0000-4000-8000-000000000000', /./),
  'adding a project': after(at('/', /^Home$/), /^New project$/),
  'making a folder': after(projectPage, /^New folder$/),
  'downloading all': after(projectPage, /^Download all$/),
  'checking in': after(file('landing-plan.svg'), /^Check in/),
  'branching off': after(file('landing-plan.svg'), /^Branch off/),
  'giving a title': after(file('landing-plan.svg'), /title/),
  'erasing back': async (page) => {
    await file('landing-plan.svg')(page);
    await page.keyboard.press('ArrowLeft');
    await page.getByRole('button', { name: /^Erase back to/ }).click();
    await expect(page.getByRole('dialog').getByLabel('Why')).toBeVisible();
  },
  'what is about to be done': async (page) => {
    await file('gangway-hinge.svg')(page);
    await page.keyboard.press('ArrowDown');
    await page.getByRole('button', { name: /^Join “Twelve bolts”/ }).click();
    await expect(page.locator('.ov-proposed')).toBeVisible();
  },
  'two tables': async (page) => {
    await file('steel-quantities.xlsx')(page);
    await page.goto(`${new URL(page.url()).pathname}?a=4&b=5`);
    await expect(page.getByRole('grid', { name: 'Steel' })).toBeVisible();
    await page.getByRole('button', { name: 'Next change' }).click();
  },
  'a sitting': async (page) => {
    await file('method-statement.md')(page);
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('region', { name: 'Sitting' })).toBeVisible();
  },
  'through time': async (page) => {
    await file('wayfinding-signs.svg')(page);
    await page.keyboard.press('v');
    await expect(page.locator('.ov-film canvas')).toHaveAttribute('data-shows', /^v\d+$/);
  },
  'the day it was right': after(file('landing-plan.svg'), /^Find the day/),
  'a filtered rail': async (page) => {
    await file('landing-plan.svg')(page);
    await page.getByRole('button', { name: 'Filter', exact: true }).click();
    await expect(page.getByRole('search', { name: 'Filter versions' })).toBeVisible();
  },
  'who drew what': async (page) => {
    await file('wayfinding-signs.svg')(page);
    await page.getByRole('button', { name: 'Show who drew what' }).click();
    await expect(page.getByRole('list', { name: 'People' })).toBeVisible();
  },
  'a project as it was': async (page) => {
    await projectPage(page);
    await page.goto(`${new URL(page.url()).pathname}/as-of?at=2026-10-20T12:00:00Z`);
    await expect(page.getByRole('table', { name: 'Files as they were' })).toBeVisible();
  },
};

/** The page as it stands, in one theme after the other: the dark one has other colours, and nothing else. */
async function faultsInThemes(page: Page): Promise<string[]> {
  const turn = (theme: string): Promise<void> =>
    page.evaluate((name) => document.documentElement.setAttribute('data-bs-theme', name), theme);
  await turn('light');
  const light = await faults(new AxeBuilder({ page }).withTags(RULES));
  await turn('dark');
  const dark = await faults(new AxeBuilder({ page }).withRules(['color-contrast']));
  return [...light.map((fault) => `light: ${fault}`), ...dark.map((fault) => `dark: ${fault}`)];
}

test('every page and dialog is accessible, light and dark', async ({ page }) => {
  test.setTimeout(900_000);
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.goto('/sign-in');
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  const found: Record<string, string[]> = { 'signing in': await faultsInThemes(page) };
  await signIn(page, 'marit');
  for (const [name, go] of Object.entries(pages)) {
    await go(page);
    await settled(page);
    found[name] = await faultsInThemes(page);
  }
  expect(Object.entries(found).filter(([, wrong]) => wrong.length > 0)).toEqual([]);
});
