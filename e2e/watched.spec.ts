/** A folder of the server that a program saves into, with its numbered backups. */
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { saveInto } from '../demo/share-program.ts';
import { expect, post, signIn, test } from './support.ts';

const shares = join(process.env['OVREL_E2E_DATA'] ?? '', 'shares');

test('an administrator has a folder watched; what a program saves there becomes versions, numbered backups first', async ({
  page,
}) => {
  await signIn(page, 'marit');
  const project = await post<{ id: string; name: string }>(page, '/projects', { name: `Shares ${Date.now()}` });
  await page.request.patch(`/api/v1/projects/${project.id}`, { data: { savesCount: true } });
  const share = `office-${Date.now()}`;
  for (let saves = 0; saves < 3; saves++) saveInto(join(shares, share));
  await page.goto('/');
  await page.getByRole('link', { name: 'Watched folders' }).click();
  await page.getByRole('button', { name: 'Watch a folder' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel(/^Folder in /).fill('no-such-folder');
  await dialog.getByLabel('Project').selectOption(project.name);
  await dialog.getByRole('button', { name: 'Watch it' }).click();
  await expect(dialog).toContainText(/There is no folder “no-such-folder” in .* that can be read\./);
  await dialog.getByLabel(/^Folder in /).fill(share);
  await dialog.getByRole('button', { name: 'Watch it' }).click();
  const row = page.getByRole('row', { name: new RegExp(share) });
  await expect(row).toContainText('60 minutes');
  // Settled files are taken at once, others at the second look.
  await row.getByRole('button', { name: /^Look at .* now$/ }).click();
  await expect(page.getByText(`${share} was looked at.`)).toBeVisible();
  await row.getByRole('button', { name: /^Look at .* now$/ }).click();
  await expect(row).toContainText('3 files taken');
  await row.getByRole('link', { name: project.name }).click();
  await page.getByRole('link', { name: 'pontoon-anchors.svg' }).click();
  await expect(page.getByText('3 versions')).toBeVisible();
  await expect(page.getByText('v3 Backup')).toBeVisible();
  await page.goto('/watched');
  await row.getByRole('button', { name: /no more$/ }).click();
  await expect(row).toHaveCount(0);
  rmSync(join(shares, share), { recursive: true });
});

test('only administrators set watched folders; the demo’s share shows its backups on the rail', async ({ page }) => {
  await signIn(page, 'tobias');
  await expect(page.getByRole('link', { name: 'Watched folders' })).toHaveCount(0);
  expect((await page.request.get('/api/v1/watched')).status()).toBe(403);
  await page.goto('/');
  await page.getByRole('link', { name: 'Quillmere ferry landing', exact: true }).click();
  await page.getByRole('link', { name: 'From the share' }).click();
  await page.getByRole('link', { name: 'pontoon-anchors.svg' }).click();
  await expect(page.getByText('4 versions')).toBeVisible();
  await expect(page.getByRole('button', { name: /^v2, backup by Marit Oakes/ })).toBeVisible();
});
