/** The day it was right: for a file and for a whole project. */
import { drawing, expect, makeDrawing, openFile, signIn, test } from './support.ts';

test('a day is chosen, its versions are looked at, and one of them is brought forward', async ({ page }) => {
  await signIn(page, 'tobias');
  await openFile(page, 'wayfinding-signs.svg');
  await page.keyboard.press('y');
  const dialog = page.getByRole('dialog');
  // It opens at the version that is shown; from there back to October.
  const october = dialog.getByRole('table', { name: 'October 2026' });
  for (let turns = 0; turns < 3 && !(await october.isVisible()); turns++)
    await dialog.getByRole('button', { name: 'Month before' }).click();
  await expect(october.getByRole('button')).toHaveCount(8);
  await october.getByRole('button', { name: '22 Oct 2026: 1 version' }).click();
  const versions = dialog.getByRole('region', { name: 'Versions of 22 Oct 2026' });
  await expect(versions.getByRole('listitem')).toHaveCount(2);
  await expect(versions.getByRole('listitem').first()).toContainText('Agreed with council');
  await expect(versions).toContainText('In the morning it was');
  await expect(versions.getByRole('listitem').last()).toContainText('Barbed arrow');
  await versions.getByRole('button', { name: 'Look at v5' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(page.getByText('v5 Agreed with council')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Bring v5 forward' })).toBeVisible();
});

test('a day without versions cannot be chosen; a file of today has one', async ({ page }) => {
  await signIn(page, 'tobias');
  await makeDrawing(page, drawing('<rect width="40" height="40"/>'));
  await page.getByRole('button', { name: 'Find the day it was right …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('table').getByRole('button')).toHaveCount(1);
  await expect(dialog.getByRole('table').getByRole('button')).toHaveAttribute('aria-pressed', 'true');
  await dialog.getByRole('button', { name: 'Month after' }).click();
  await expect(dialog.getByRole('table').getByRole('button')).toHaveCount(0);
});

test('a whole project is turned back to a day', async ({ page }) => {
  await signIn(page, 'jory');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('link', { name: 'As it was' }).click();
  const october = page.getByRole('table', { name: 'October 2026' });
  const before = page.getByRole('button', { name: 'Month before' });
  await expect(before).toBeVisible();
  for (let turns = 0; turns < 3 && !(await october.isVisible()); turns++) await before.click();
  await october.getByRole('button', { name: /^19 Oct 2026: / }).click();
  await expect(page).toHaveURL(/at=2026-10-19T23/);
  await expect(page.getByRole('row', { name: /wayfinding-signs\.svg/ })).toContainText('v4');
});
