import { unzipSync } from 'fflate';
import { drawing, expect, makeDrawing, post, signIn, test } from './support.ts';

const photo = (text: string): string => drawing(`<text x="5" y="20">${text}</text>`);

test('a drawing says what it needs, is checked out with it, and downloads with it as it was', async ({ page }) => {
  await signIn(page, 'tobias');
  const stamp = await makeDrawing(page, photo('one'), 'stamp.svg');
  const { projectId } = (await (await page.request.get(`/api/v1/files/${stamp}`)).json()) as { projectId: string };
  const add = async (name: string, content: string): Promise<string> => {
    const answer = await page.request.post(`/api/v1/projects/${projectId}/files`, {
      multipart: { note: '', file: { name, mimeType: 'image/svg+xml', buffer: Buffer.from(content) } },
    });
    return ((await answer.json()) as { file: { id: string } }).file.id;
  };
  const sheet = await add(
    'sheet.svg',
    drawing('<image href="stamp.svg" width="10" height="10"/><image href="lost.png" width="10" height="10"/>'),
  );
  const model = await add('model.txt', 'a model');
  await page.goto(`/files/${sheet}`);
  const references = page.getByRole('region', { name: 'References' });
  await expect(references.getByRole('link', { name: 'stamp.svg' })).toBeVisible();
  // The stamp is drawn on the sheet, though the sheet only names it.
  const view = await (
    await page.request.get(
      `/api/v1/versions/${((await (await page.request.get(`/api/v1/files/${sheet}`)).json()) as { newest: { id: string } }).newest.id}/view`,
    )
  ).text();
  expect(view).toContain(`href="data:image/svg+xml;base64,${Buffer.from(photo('one')).toString('base64')}"`);
  expect(view).toContain('href="lost.png"');
  await expect(references).toContainText('lost.png');
  await expect(references).toContainText('not found in this project');
  await references.getByRole('button', { name: 'Add a reference by hand' }).click();
  await page.getByLabel('It needs').selectOption('model.txt');
  await page.getByLabel('How they belong together').fill('drawing of');
  await page.getByRole('dialog').getByRole('button', { name: 'Add', exact: true }).click();
  await expect(references).toContainText('drawing of');
  await page.request.post(`/api/v1/files/${stamp}/versions`, {
    multipart: { note: '', file: { name: 'stamp.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(photo('two')) } },
  });
  await page.reload();
  await expect(references).toContainText('v1 then; now v2');
  const [then, now] = await Promise.all(
    ['as it was then', 'as it is now'].map(async (as) => {
      const href = await references
        .getByRole('link', { name: `Download with what it needs, ${as}` })
        .getAttribute('href');
      return unzipSync(new Uint8Array(await (await page.request.get(href ?? '')).body()));
    }),
  );
  expect(Object.keys(then!).sort()).toEqual(['model.txt', 'sheet.svg', 'stamp.svg']);
  expect(Buffer.from(then!['stamp.svg']!).toString()).toBe(photo('one'));
  expect(Buffer.from(now!['stamp.svg']!).toString()).toBe(photo('two'));
  // Both ways: the model knows that the sheet needs it.
  await page.goto(`/files/${model}`);
  await expect(references).toContainText('Needed by');
  await references.getByRole('link', { name: 'sheet.svg' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('sheet.svg');
  await page.getByRole('region', { name: 'Check-out' }).getByRole('button', { name: 'Check out …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('lost.png: not found in this project');
  await dialog.getByLabel(/model\.txt/).uncheck();
  await dialog.getByLabel('Where you work on it').fill('drawing office');
  await dialog.getByRole('button', { name: 'Check out 2 files' }).click();
  await expect(page.getByText('You have it checked out on drawing office since')).toBeVisible();
  await page.goto('/desk');
  const held = page.getByRole('table', { name: 'Checked out by you' });
  await expect(held).toContainText('stamp.svg');
  await expect(held).not.toContainText('model.txt');
  const mine = (await (await page.request.get('/api/v1/checkouts?mine=yes')).json()) as { fileId: string }[];
  await page.request.delete('/api/v1/checkouts', { data: { files: mine.map((c) => c.fileId) } });
  await post(page, '/checkouts', { files: [model] });
  await page.request.delete('/api/v1/checkouts', { data: { files: [model] } });
});

test('the check-in dialog says what changed and what belongs to it, and takes the other file along in one set', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const stamp = await makeDrawing(page, photo('one'), 'stamp.svg');
  const { projectId } = (await (await page.request.get(`/api/v1/files/${stamp}`)).json()) as { projectId: string };
  const body = (x: number, more = ''): string =>
    drawing(
      `<rect id="deck" x="${x}" y="20" width="90" height="40"/><image href="stamp.svg" width="10" height="10"/>${more}`,
    );
  const made = await page.request.post(`/api/v1/projects/${projectId}/files`, {
    multipart: { note: '', file: { name: 'sheet.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(body(10)) } },
  });
  const sheet = ((await made.json()) as { file: { id: string } }).file.id;
  await post(page, '/checkouts', { files: [sheet, stamp], desk: 'office' });
  await page.goto(`/files/${sheet}`);
  await page.getByRole('button', { name: 'Check in', exact: false }).first().click();
  const dialog = page.getByRole('dialog');
  const svg = (name: string, text: string): { name: string; mimeType: string; buffer: Buffer } => ({
    name,
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(text),
  });
  await dialog
    .getByLabel('File', { exact: true })
    .setInputFiles(svg('sheet.svg', body(60, '<image href="lost.png" width="4" height="4"/>')));
  await expect(dialog.locator('.ov-proposal')).toContainText('moved');
  const belongs = dialog.getByRole('region', { name: 'What belongs to it' });
  await expect(belongs).toContainText('lost.png not found in this project');
  await expect(belongs).toContainText('stamp.svg v1 you hold it');
  await belongs
    .getByLabel('Did it change as well? Its new version can go along')
    .setInputFiles(svg('stamp.svg', photo('two')));
  await dialog.getByRole('button', { name: 'Take this as the note' }).click();
  await dialog.getByRole('button', { name: 'Check in 2 files together' }).click();
  await expect(page.getByText(/Set \d+ was checked in: 2 files\./)).toBeVisible();
  const [set] = (await (await page.request.get(`/api/v1/projects/${projectId}/sets`)).json()) as {
    note: string;
    files: { name: string; version: number }[];
  }[];
  expect(set!.files.map((f) => [f.name, f.version])).toEqual([
    ['sheet.svg', 2],
    ['stamp.svg', 2],
  ]);
  expect(set!.note).toContain('moved');
  // The stamp knows who needs it, also in its own dialog.
  await page.goto(`/files/${stamp}`);
  await page.getByRole('button', { name: 'Check in', exact: false }).first().click();
  await dialog.getByLabel('File', { exact: true }).setInputFiles(svg('stamp.svg', photo('three')));
  await expect(belongs).toContainText('It is needed by');
  await expect(belongs).toContainText('sheet.svg v2 nobody holds it');
});
