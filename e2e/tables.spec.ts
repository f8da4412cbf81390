/** Tables in the real interface: seen as a grid, compared cell by cell, walked by keys. */
import { steelWorkbook } from '../demo/tables/steel.ts';
import { modelFile as tableFile } from './space.ts';
import { causesOf, expect, signIn, test } from './support.ts';

test('a formula that was replaced by a number stands first, and is seen in its cell', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await tableFile(page, 'steel.xlsx', await steelWorkbook(3), await steelWorkbook(4));
  await page.goto(`/files/${id}?a=1&b=2`);
  await expect(causesOf(page).first()).toContainText('Formula in G8 replaced by 412');
  const grid = page.getByRole('grid', { name: 'Steel' });
  const cell = grid.getByRole('gridcell').filter({ has: page.locator('ins', { hasText: '412.00' }) });
  await expect(cell).toBeVisible();
  await expect(cell.locator('del')).toHaveText('=D8/1000*E8*F8*1.05');
  await expect(page.getByRole('group', { name: 'Sheets' }).getByRole('button', { name: /^Order/ })).toContainText('1');
  await page.getByRole('button', { name: 'Next change' }).click();
  await expect(grid.getByRole('gridcell', { selected: true })).toBeVisible();
});

test('rows and columns that came stand in their places, also where only changes are shown', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await tableFile(page, 'steel.xlsx', await steelWorkbook(0), await steelWorkbook(2));
  await page.goto(`/files/${id}?a=1&b=2`);
  await expect(causesOf(page)).toContainText([/Column C added: “Coating”/, /Row 13 added: “R1”/]);
  const grid = page.getByRole('grid', { name: 'Steel' });
  await expect(grid.getByRole('row').filter({ hasText: 'R1' })).toContainText('+B');
  await expect(grid.getByRole('columnheader', { name: 'C +B', exact: true })).toHaveClass(/is-added/);
  const count = Number(await grid.getAttribute('aria-rowcount'));
  await page.getByRole('button', { name: 'Changes only' }).click();
  await expect.poll(async () => Number(await grid.getAttribute('aria-rowcount'))).toBeLessThan(count);
  await page.getByRole('button', { name: 'Side by side' }).click();
  const before = page.getByRole('grid', { name: 'Steel, v1' });
  const after = page.getByRole('grid', { name: 'Steel, v2' });
  await expect(after.getByRole('columnheader', { name: /^G/ })).toBeVisible();
  await expect(before.getByRole('columnheader', { name: /^F/ })).toBeVisible();
  await expect(before.getByRole('columnheader', { name: /^G/ })).toHaveCount(0);
});

test('one table alone: cells by key, by name, and with their formulas', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await tableFile(page, 'steel.xlsx', await steelWorkbook(2));
  await page.goto(`/files/${id}`);
  const grid = page.getByRole('grid', { name: 'Steel' });
  await page.getByLabel('Go to cell').fill('G16');
  await page.getByLabel('Go to cell').press('Enter');
  const spot = grid.locator('[data-spot="true"]');
  await expect(spot).toHaveText(/^[\d,]+\.\d\d$/);
  await page.getByRole('button', { name: 'Formulas' }).click();
  await expect(spot).toHaveText('=SUM(G4:G15)');
  await spot.click();
  await page.keyboard.press('ArrowUp');
  await expect(spot).toBeFocused();
  await expect(spot).toContainText('=D15/1000');
});

test('a long table is drawn only where it is seen, to its last row', async ({ page }) => {
  await signIn(page, 'tobias');
  const rows = Array.from({ length: 30_000 }, (_, k) => `B${k},${k % 97},steel`);
  const id = await tableFile(page, 'long.csv', Buffer.from(`Mark,Count,What\n${rows.join('\n')}\n`));
  await page.goto(`/files/${id}`);
  const grid = page.getByRole('grid', { name: 'Table' });
  await expect(grid).toHaveAttribute('aria-rowcount', '30002');
  await page.getByLabel('Go to cell').fill('A30001');
  await page.getByLabel('Go to cell').press('Enter');
  await expect(grid.getByRole('gridcell', { name: 'B29999', exact: true })).toBeVisible();
  expect(await grid.getByRole('row').count()).toBeLessThan(200);
});

test('a row that was lost is taken back from a comparison of two tables of values', async ({ page }) => {
  await signIn(page, 'tobias');
  const rows = ['Mark,Mass', 'B1,10', 'B2,20', 'B3,30', 'B4,40'];
  const text = (lines: readonly string[]): Buffer => Buffer.from(`${lines.join('\n')}\n`);
  const later = ['Mark,Mass', 'B1,10', 'B3,30', 'B4,41'];
  const id = await tableFile(page, 'order.csv', text(rows), text(later));
  await page.goto(`/files/${id}?a=1&b=2`);
  await expect(causesOf(page)).toContainText([/Row 3 removed: “B2”/]);
  await page.getByRole('checkbox', { name: /^Pick: Row 3 removed/ }).check();
  await page.getByRole('button', { name: 'Take back in v2' }).click();
  await page.getByRole('button', { name: 'Check in as v3' }).click();
  await expect(page.getByText('3 versions')).toBeVisible();
  await page.goto(`/files/${id}?a=1&b=3`);
  await expect(causesOf(page)).toContainText([/B5, “Mass”: 40 → 41/]);
});
