import { addVersion, drawing, expect, makeDrawing, signIn, test } from './support.ts';

test('projects, folders and files: make, add, rename, move, find', async ({ page }) => {
  await signIn(page, 'tobias');
  const name = `Slipway ${Date.now()}`;
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('a/b');
  await page.getByRole('button', { name: 'Make project' }).click();
  await expect(page.getByRole('alert').filter({ hasText: "can't contain /" })).toBeVisible();
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.getByRole('button', { name: 'Make project' }).click();
  await page.getByRole('link', { name }).click();
  await expect(page.getByText('Nothing is in here yet.')).toBeVisible();
  await page.getByLabel('Files to add').setInputFiles([
    { name: 'slip.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing('<rect width="9" height="9"/>')) },
    { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('high water 07:40\n') },
  ]);
  await expect(page.getByText('slip.svg was added as v1.')).toBeVisible();
  const row = page.getByRole('row').filter({ hasText: 'slip.svg' });
  await expect(row).toContainText('v1');
  await expect(row).toContainText('Tobias Renn');
  await expect
    .poll(() => row.locator('img').evaluate((img) => (img as HTMLImageElement).naturalWidth))
    .toBeGreaterThan(0);
  await page.getByRole('button', { name: 'New folder' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Concrete');
  await page.getByRole('button', { name: 'Make folder' }).click();
  await expect(page.getByRole('link', { name: 'Concrete' })).toBeVisible();
  await page.getByRole('button', { name: 'Rename slip.svg' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('slipway.svg');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(page.getByRole('link', { name: 'slipway.svg' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Choose slipway.svg' }).check();
  await page.getByRole('checkbox', { name: 'Choose notes.txt' }).check();
  await page.getByRole('button', { name: 'Move 2 chosen' }).click();
  await page.getByLabel('To', { exact: true }).selectOption({ label: 'Concrete' });
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await expect(page.getByRole('link', { name: 'slipway.svg' })).toHaveCount(0);
  await page.getByRole('link', { name: 'Concrete' }).click();
  await expect(page.getByRole('link', { name: 'slipway.svg' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'notes.txt' })).toBeVisible();
  await page.getByRole('combobox', { name: 'Find a file' }).fill('SLIPWAY');
  await expect(page.getByRole('option', { name: /slipway\.svg/ }).first()).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'slipway.svg' })).toBeVisible();
});

test('the same name twice in one place is told, and nothing is lost', async ({ page }) => {
  await signIn(page, 'tobias');
  await makeDrawing(page, drawing('<rect width="9" height="9"/>'));
  await page.locator('.ov-where a').last().click();
  await page.getByLabel('Files to add').setInputFiles({
    name: 'PIER.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(drawing('<rect width="1" height="1"/>')),
  });
  await expect(page.getByRole('alert').filter({ hasText: 'already a file called' })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'pier.svg' })).toContainText('v1');
});

test('addresses of things that are not there are told plainly', async ({ page }) => {
  await signIn(page, 'ines');
  for (const address of ['/files/nonsense', '/projects/00000000-0000-4000-8000-000000000000', '/nowhere']) {
    await page.goto(address);
    await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible();
  }
  expect((await page.request.get('/api/v1/files/nonsense')).status()).toBe(404);
});

test('the list of versions knows what changed', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, drawing('<rect id="r" width="9" height="9"/>'));
  await addVersion(page, id, drawing('<rect id="r" x="50" width="9" height="9"/>'));
  await page.locator('.ov-where a').last().click();
  await expect(page.getByRole('row').filter({ hasText: 'pier.svg' })).toContainText('v2');
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole('row').filter({ hasText: 'pier.svg' })).toContainText(
      'Rectangle “r” moved by (50, 0) mm',
      { timeout: 1000 },
    );
  }).toPass();
});
