import { mkdirSync, mkdtempSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { addVersion, drawing, expect, makeDrawing, signIn, test } from './support.ts';

const pier = (x: number): string => drawing(`<rect id="deck" x="${x}" y="40" width="120" height="30"/>`);

/** As a person drags a folder from the file manager onto the page. */
async function drop(page: Page, folder: string): Promise<void> {
  const box = (await page.getByRole('group', { name: 'Connect a folder, or drop it here' }).boundingBox())!;
  const session = await page.context().newCDPSession(page);
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
    await session.send('Input.dispatchDragEvent', {
      type,
      x: box.x + 20,
      y: box.y + 20,
      data: { items: [], files: [folder], dragOperationsMask: 1 },
    });
  }
}

test('a folder of the computer: filled before it was connected, changed by other programs, renamed in, and checked in from', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  await addVersion(page, id, pier(60));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  const api = `/api/v1/projects/${projectId}`;
  const details = (
    (await (await page.request.post(`${api}/folders`, { data: { name: 'Details', parentId: null } })).json()) as {
      id: string;
    }
  ).id;
  await page.request.post(`${api}/files`, {
    multipart: {
      note: '',
      folderId: details,
      file: { name: 'bolt.txt', mimeType: 'text/plain', buffer: Buffer.from('M16\n') },
    },
  });
  await page.request.post(`${api}/files`, {
    multipart: {
      note: '',
      file: { name: 'levels.txt', mimeType: 'text/plain', buffer: Buffer.from('Level of the deck: 4.20 m\n') },
    },
  });

  const folder = mkdtempSync(join(tmpdir(), 'ovrel-desk-'));
  try {
    mkdirSync(join(folder, 'Details'));
    writeFileSync(join(folder, 'pier.svg'), pier(20));
    writeFileSync(join(folder, 'Details', 'bolt.txt'), 'M20\n');
    writeFileSync(join(folder, 'levels 2.txt'), 'Level of the deck: 4.20 m\n');
    // Two names that differ by capitals only are two files here.
    writeFileSync(join(folder, 'Pier.svg'), pier(90));
    // What can't be read is told, and stands in nobody's way.
    symlinkSync(join(folder, 'nowhere'), join(folder, 'broken.svg'));
    await page.goto(`/projects/${projectId}/desk`);
    await drop(page, folder);
    const row = (path: string) =>
      page
        .getByRole('table', { name: 'Files of the desk' })
        .locator('tr')
        .filter({ has: page.locator('td:first-child', { hasText: new RegExp(`^${path.replace('.', '\\.')}`) }) });
    // v1 was there before the folder was connected: it is older, not changed.
    await expect(row('pier.svg')).toContainText('newer on the server');
    await expect(row('pier.svg')).toContainText('v1');
    await expect(row('Pier.svg')).toContainText('not in Ovrel');
    // What was never a version of it is not overwritten: it may be somebody's work.
    await expect(row('Details/bolt.txt')).toContainText('changed on both');
    await expect(row('levels 2.txt')).toContainText('perhaps levels.txt, moved or renamed');
    await expect(row('levels.txt')).toContainText('not on this desk');

    // Another program renames and saves; another look tells.
    renameSync(join(folder, 'levels 2.txt'), join(folder, 'levels.txt'));
    rmSync(join(folder, 'Pier.svg'));
    writeFileSync(join(folder, 'pier.svg'), pier(60));
    await page.getByRole('button', { name: 'Look again' }).click();
    await expect(row('levels.txt')).toContainText('same as newest');
    await expect(row('pier.svg')).toContainText('same as newest');
    await expect(row('Pier.svg')).toHaveCount(0);
    writeFileSync(join(folder, 'pier.svg'), pier(75));
    await page.getByRole('button', { name: 'Look again' }).click();
    await page.getByRole('button', { name: 'Check in what changed' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.locator('.ov-proposal')).toContainText('pier.svg: ');
    // Saved once more while the dialog is open: what is sent is what lies there now.
    writeFileSync(join(folder, 'pier.svg'), pier(80));
    await dialog.getByLabel('Note: why?').fill('Moved as surveyed');
    await dialog.getByRole('button', { name: 'Check in one file' }).click();
    await expect(page.getByText('was checked in: 1 file.')).toBeVisible();
    await expect(row('pier.svg')).toContainText('same as newest');
    const { newest } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as {
      newest: { id: string; number: number; note: string };
    };
    expect([newest.number, newest.note]).toEqual([3, 'Moved as surveyed']);
    expect(await (await page.request.get(`/api/v1/versions/${newest.id}/content`)).text()).toBe(pier(80));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('what was dropped and is no folder is said to be none', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-desk-'));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  writeFileSync(join(folder, 'pier.svg'), pier(20));
  await page.goto(`/projects/${projectId}/desk`);
  await drop(page, join(folder, 'pier.svg'));
  await expect(page.locator('.ov-said.is-problem')).toContainText(
    'That was no folder. Drop the folder itself, not the files in it.',
  );
  rmSync(folder, { recursive: true, force: true });
});
