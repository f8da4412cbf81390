import { drawing, expect, makeDrawing, post, signIn, test } from './support.ts';

test('a lead opens one folder to a guest, who sees that and no more, and is told whom to ask', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tobias');
  const secret = await makeDrawing(page, drawing('<rect width="9" height="9"/>'), 'offer.svg');
  const { projectId } = (await (await page.request.get(`/api/v1/files/${secret}`)).json()) as { projectId: string };
  const folder = await post<{ id: string }>(page, `/projects/${projectId}/folders`, {
    name: 'Lettering',
    parentId: null,
  });
  const made = await page.request.post(`/api/v1/projects/${projectId}/files`, {
    multipart: {
      note: '',
      folderId: folder.id,
      file: { name: 'letters.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing('<circle r="9"/>')) },
    },
  });
  const letters = ((await made.json()) as { file: { id: string } }).file.id;

  await page.goto(`/projects/${projectId}`);
  await page.getByRole('link', { name: 'Access' }).click();
  await page.getByLabel('Place').selectOption('Lettering');
  await expect(page.getByText('What holds in the folder “Lettering”.')).toBeVisible();
  // Before it is given away, the state that it is in can be told and found again.
  await page.getByLabel('Before others get to see more').fill('As given to Wenna');
  await page.getByRole('button', { name: 'Title this state' }).click();
  await expect(page.getByText('The newest version of one file is called “As given to Wenna” now')).toBeVisible();
  const row = page.getByRole('row', { name: /^Wenna Strand/ });
  await expect(row.getByLabel('Wenna Strand: see', { exact: true })).not.toBeChecked();
  await page.getByLabel('Role of Wenna Strand').selectOption('newest only');
  await expect(row.getByLabel('Wenna Strand: see', { exact: true })).toBeChecked();
  await expect(row).toContainText('this place');
  // A right brings along what it needs.
  await row.getByLabel('Wenna Strand: bring forward').click();
  await expect(row.getByLabel('Wenna Strand: see old versions')).toBeChecked();
  await row.getByLabel('Wenna Strand: see old versions').click();
  await expect(row.getByLabel('Wenna Strand: bring forward')).not.toBeChecked();
  await expect(page.getByLabel('Role of Wenna Strand')).toHaveValue('newest only');

  const other = await browser.newPage();
  await signIn(other, 'wenna');
  await expect(other.getByRole('link', { name: 'Storage' })).toHaveCount(0);
  await other.goto(`/projects/${projectId}`);
  await expect(
    other.getByText('What lies directly in here is closed to you: you are a guest. Ask Tobias Renn for more.'),
  ).toBeVisible();
  await expect(other.getByText('offer.svg')).toHaveCount(0);
  await other.getByRole('link', { name: 'Lettering' }).click();
  await other.getByRole('link', { name: 'letters.svg' }).click();
  await expect(
    other.getByText('You can look at this file, but not change it: the folder “Lettering” of'),
  ).toContainText('gives you “see” only. Ask Tobias Renn for more.');
  await expect(other.getByRole('button', { name: 'Check in' })).toHaveCount(0);
  await other.goto(`/files/${secret}`);
  await expect(other.getByRole('heading', { name: 'Closed to you' })).toBeVisible();
  await expect(other.getByText('This is closed to you. Ask Tobias Renn.')).toBeVisible();
  await other.goto(`/projects/${projectId}/history`);
  await expect(other.getByText(/^You can't see the history here: .* Ask Tobias Renn\.$/)).toBeVisible();
  await other.goto(`/projects/${projectId}/access?folder=${folder.id}`);
  await expect(other.getByText('You can read this, not change it')).toBeVisible();
  await expect(other.getByLabel('Role of Jory Pell')).toBeDisabled();

  // Taken back, it is closed with the next look; what was said is in the ledger.
  await page.getByLabel('Role of Wenna Strand').selectOption('say nothing here');
  await expect(row).toContainText('role in Ovrel');
  await other.goto(`/files/${letters}`);
  await expect(other.getByRole('heading', { name: 'Closed to you' })).toBeVisible();
  await other.close();
  await page.goto(`/ledger?project=${projectId}`);
  await expect(page.getByText('Lettering: Wenna Strand: nothing is said any more')).toBeVisible();
});

test('a project is closed to everybody else, and stays open to whoever made it', async ({ page, browser }) => {
  await signIn(page, 'tobias');
  const file = await makeDrawing(page, drawing('<rect width="9" height="9"/>'));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${file}`)).json()) as { projectId: string };
  await page.goto(`/projects/${projectId}/access`);
  await page.getByLabel('Role of Everybody else').selectOption('nothing');
  await page.getByLabel('Role of Anselm Dray').selectOption('checker');
  await expect(page.getByLabel('Anselm Dray: change state')).toBeChecked();
  await expect(page.getByLabel('Ines Calloway: see', { exact: true })).not.toBeChecked();
  await expect(page.getByRole('row', { name: /^Marit Oakes/ })).toContainText('may do everything');
  const other = await browser.newPage();
  await signIn(other, 'ines');
  await other.goto(`/files/${file}`);
  await expect(other.getByText('This is closed to you. Ask Tobias Renn.')).toBeVisible();
  await other.close();
  await page.goto(`/files/${file}`);
  await expect(page.getByRole('button', { name: 'Check out' })).toBeEnabled();
});
