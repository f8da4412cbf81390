import type { Page } from '@playwright/test';
import { countAtOnce, projectOf, versionsOf } from './saves.ts';
import { addVersion, drawing, expect, makeDrawing, post, signIn, test } from './support.ts';

const plan = (x: number): string =>
  drawing(
    `<rect id="deck" x="${x}" y="100" width="200" height="60" fill="#446688"/><text x="20" y="30">Landing</text>`,
  );

async function pickVersion(page: Page, act: string): Promise<void> {
  await page.getByRole('button', { name: 'Another version of landing.svg' }).click();
  await page.getByRole('button', { name: act, exact: true }).click();
}

test('a desk: get, edit in the practice editor, see what changed, check in as a set, put back; nothing is replaced unasked', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, plan(20), 'landing.svg');
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  await page.request.post(`/api/v1/projects/${projectId}/files`, {
    multipart: { note: '', file: { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('Piles first.\n') } },
  });
  await page.goto(`/projects/${projectId}/desk`);
  await page.getByRole('button', { name: 'Use the practice folder' }).click();
  await expect(page.getByText('stands in for a folder of your computer')).toBeVisible();
  const row = (name: string) => page.getByRole('row', { name: new RegExp(name.replace('.', '\\.')) });
  const dialog = page.getByRole('dialog');
  await expect(row('landing.svg')).toContainText('not on this desk');
  await page.getByRole('button', { name: 'Get the 2 that are newer' }).click();
  await expect(page.getByText('2 files are here as their newest versions.')).toBeVisible();
  await expect(row('landing.svg')).toContainText('same as newest');

  // Closing without saving leaves the file as it was.
  await page.getByRole('button', { name: 'Edit landing.svg' }).click();
  await dialog.getByRole('button', { name: 'Move a shape' }).click();
  await dialog.getByRole('button', { name: 'Close without saving' }).click();
  await expect(row('landing.svg')).toContainText('same as newest');
  await page.getByRole('button', { name: 'Edit landing.svg' }).click();
  await dialog.getByRole('button', { name: 'Move a shape' }).click();
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toContainText('Everything is saved.');
  await dialog.getByRole('button', { name: 'Close', exact: true }).last().click();
  await expect(row('landing.svg')).toContainText('changed here');

  // What changed, before it is checked in; and the way back that is asked about.
  await page.getByRole('button', { name: 'What changed in landing.svg' }).click();
  await expect(dialog).toContainText('v1 against what is here');
  await expect(dialog.locator('strong')).toContainText('moved');
  await dialog.getByRole('button', { name: 'Keep what is here' }).click();

  // A second file changes; both go as one set, with the computed summary as the note.
  await page.getByRole('button', { name: 'Edit notes.txt' }).click();
  await dialog.getByRole('button', { name: 'Add a line' }).click();
  await dialog.getByRole('button', { name: 'Save over and over' }).click();
  await expect(dialog).toContainText('Saved 5 times.');
  await dialog
    .getByRole('button', { name: 'Close without saving' })
    .or(dialog.getByRole('button', { name: 'Close', exact: true }))
    .last()
    .click();
  await expect(row('notes.txt')).toContainText('changed here');
  await page.getByRole('button', { name: 'Check in what changed' }).click();
  await expect(dialog.getByText('landing.svg: ')).toBeVisible();
  await expect(dialog.locator('.ov-proposal')).toContainText('notes.txt: ');
  await dialog.getByRole('button', { name: 'Take this as the note' }).click();
  await dialog.getByRole('button', { name: 'Check in 2 files' }).click();
  await expect(page.getByText(/Set \d+ was checked in: 2 files\./)).toBeVisible();
  await expect(row('landing.svg')).toContainText('same as newest');
  const [, second] = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as {
    note: string;
    summary: string | null;
  }[];
  expect(second!.note).toMatch(/^landing\.svg: .*moved/);

  // Somebody else goes on: seen here without a reload, and brought on request.
  await addVersion(page, id, plan(90), 'landing.svg');
  await expect(row('landing.svg')).toContainText('newer on the server');
  await page.getByRole('button', { name: 'Edit landing.svg' }).click();
  await dialog.getByRole('button', { name: 'Recolour' }).click();
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toContainText('Everything is saved.');
  await dialog.getByRole('button', { name: 'Close', exact: true }).last().click();
  await expect(row('landing.svg')).toContainText('changed on both');
  await page.getByRole('button', { name: 'Check in what changed' }).click();
  await expect(dialog).toContainText('v3 is newer on the server');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('button', { name: 'What changed in landing.svg' }).click();
  await dialog.getByRole('button', { name: 'Put v3 here instead' }).click();
  await expect(row('landing.svg')).toContainText('same as newest');

  // An older version; a crash while saving is a change like any other, and can be undone.
  await pickVersion(page, 'Get v1');
  await expect(page.getByText('“landing.svg” is here as v1.')).toBeVisible();
  await expect(row('landing.svg')).toContainText('newer on the server');
  await page.getByRole('button', { name: 'Get landing.svg', exact: true }).click();
  await expect(row('landing.svg')).toContainText('same as newest');
  await page.getByRole('button', { name: 'Edit landing.svg' }).click();
  await dialog.getByRole('button', { name: 'Crash while saving' }).click();
  await expect(dialog).toContainText('only a part of the file is there');
  await dialog
    .getByRole('button', { name: /^Close/ })
    .last()
    .click();
  await expect(row('landing.svg')).toContainText('changed here');
  await page.getByRole('button', { name: 'What changed in landing.svg' }).click();
  await dialog.getByRole('button', { name: 'Put v3 here instead' }).click();
  await expect(row('landing.svg')).toContainText('same as newest');

  // A second look, after a reload, knows everything.
  await page.reload();
  await page.getByRole('button', { name: 'Use the practice folder' }).click();
  await expect(row('landing.svg')).toContainText('same as newest');
  await page.getByRole('button', { name: 'Check out landing.svg', exact: true }).click();
  await expect(row('landing.svg')).toContainText('you');
  await page.getByRole('button', { name: 'Give up landing.svg' }).click();
  await expect(row('landing.svg')).toContainText('nobody');

  // With fetching what is newer, in one act.
  await addVersion(page, id, plan(140), 'landing.svg');
  await page.getByRole('button', { name: 'Check out and get landing.svg' }).click();
  await expect(page.getByText('You have “landing.svg” checked out, and it is here as v4.')).toBeVisible();
  await expect(row('landing.svg')).toContainText('same as newest');
  await expect(row('landing.svg')).toContainText('you');

  // Going on from an older version, in one act: content, check-out, and the source of what follows.
  await pickVersion(page, 'Go on from v1');
  await expect(page.getByText('What you check in will be v5, with v1 as its source.')).toBeVisible();
  await expect(row('landing.svg')).toContainText('changed here');
  await page.getByRole('button', { name: 'Edit landing.svg' }).click();
  await dialog.getByRole('button', { name: 'Recolour' }).click();
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toContainText('Everything is saved.');
  await dialog.getByRole('button', { name: 'Close', exact: true }).last().click();
  await pickVersion(page, 'Go on from v2');
  await expect(page.getByText('is changed here. Check it in or put a version back first')).toBeVisible();
  await page.getByRole('button', { name: 'Check in what changed' }).click();
  await dialog.getByRole('button', { name: 'Check in one file' }).click();
  await expect(page.getByText('was checked in: 1 file.')).toBeVisible();
  const last = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as {
    newest: { number: number; source: number };
  };
  expect(last.newest).toMatchObject({ number: 5, source: 1 });
});

test('a file that Ovrel does not know becomes a new one, or a new version of the file that it resembles', async ({
  page,
}) => {
  await signIn(page, 'ines');
  const project = await (async () => {
    const tobias = await page.context().browser()!.newContext();
    const other = await tobias.newPage();
    await signIn(other, 'tobias');
    const id = await makeDrawing(other, plan(20), 'landing.svg');
    const { projectId } = (await (await other.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
    await tobias.close();
    return { id: projectId, file: id };
  })();
  await page.goto(`/projects/${project.id}/desk`);
  // As somebody renames a copy in the file manager.
  await page.evaluate(
    async ({ folder, files }) => {
      const root = await navigator.storage.getDirectory();
      const desk = await root.getDirectoryHandle(folder, { create: true });
      for (const [name, text] of Object.entries(files)) {
        const out = await (await desk.getFileHandle(name, { create: true })).createWritable();
        await out.write(text);
        await out.close();
      }
    },
    { folder: `practice-${project.id}`, files: { 'landing final.svg': plan(20), 'tides.txt': 'High water 06:12\n' } },
  );
  await page.getByRole('button', { name: 'Use the practice folder' }).click();
  await expect(page.getByRole('row', { name: /landing final\.svg/ })).toContainText(
    'perhaps landing.svg, moved or renamed',
  );
  await page.getByRole('button', { name: 'Check in what changed' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: 'Check in 0 files' })).toBeDisabled();
  await dialog.getByLabel('What tides.txt is').selectOption('a new file');
  await dialog.getByLabel('What landing final.svg is').selectOption('a new version of landing.svg');
  await dialog.getByLabel('Note: why?').fill('Tides added');
  await dialog.getByRole('button', { name: 'Check in 2 files' }).click();
  // The drawing has not changed, only its name here; the tides are new.
  await expect(page.getByText('was checked in: 1 file.')).toBeVisible();
  await expect(page.getByRole('row', { name: /tides\.txt/ })).toContainText('same as newest');
  const [set] = (await (await page.request.get(`/api/v1/projects/${project.id}/sets`)).json()) as {
    note: string;
    files: { name: string; first: boolean }[];
  }[];
  expect(set).toMatchObject({ note: 'Tides added', files: [{ name: 'tides.txt', first: true }] });
  await post(page, '/checkouts', { files: [project.file] });
  await page.request.delete('/api/v1/checkouts', { data: { files: [project.file] } });
});

test('what belongs to a file is not forgotten: a new picture that it names, a drawing that it needs; and a copy is known by what it holds', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const shapes = (n: number, from = 0): string =>
    Array.from(
      { length: n },
      (_, i) => `<rect x="${(from + i) * 3}" y="${(i * 37) % 290}" width="2" height="${5 + ((from + i) % 7)}"/>`,
    ).join('\n');
  const sheet = await makeDrawing(page, drawing('<rect width="50" height="40"/>'), 'sheet.svg');
  const { projectId } = (await (await page.request.get(`/api/v1/files/${sheet}`)).json()) as { projectId: string };
  await page.request.post(`/api/v1/projects/${projectId}/files`, {
    multipart: {
      note: '',
      file: { name: 'fence.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing(shapes(200))) },
    },
  });
  await page.goto(`/projects/${projectId}/desk`);
  await page.getByRole('button', { name: 'Use the practice folder' }).click();
  await page.getByRole('button', { name: 'Get the 2 that are newer' }).click();
  await expect(page.getByText('2 files are here as their newest versions.')).toBeVisible();
  await page.evaluate(
    async ({ folder, files }) => {
      const root = await navigator.storage.getDirectory();
      const desk = await root.getDirectoryHandle(folder);
      for (const [name, text] of Object.entries(files)) {
        const out = await (await desk.getFileHandle(name, { create: true })).createWritable();
        await out.write(text);
        await out.close();
      }
    },
    {
      folder: `practice-${projectId}`,
      files: {
        'sheet.svg': drawing(
          '<image href="stamp.svg" width="9" height="9"/><image href="fence.svg" width="9" height="9"/><image href="lost.png" width="9" height="9"/>',
        ),
        'stamp.svg': drawing('<circle r="4"/>'),
        'railing as built.svg': drawing(shapes(190) + shapes(6, 900)),
      },
    },
  );
  await page.getByRole('button', { name: 'Look again' }).click();
  const dialog = page.getByRole('dialog');
  await expect(page.getByRole('row', { name: /railing as built\.svg/ })).toContainText(/[789]\d % like fence\.svg/);
  await page.getByRole('button', { name: 'Check in what changed' }).click();
  const belongs = dialog.getByRole('region', { name: 'What belongs together' });
  await expect(belongs).toContainText('sheet.svg needs stamp.svg, which is not in Ovrel yet and left out.');
  await expect(belongs).toContainText('sheet.svg needs lost.png, which is neither here nor in the project.');
  await expect(belongs).toContainText('sheet.svg: needs stamp.svg (not in Ovrel), fence.svg (same as newest)');
  await belongs.getByRole('button', { name: 'Take stamp.svg along' }).click();
  await expect(belongs).toContainText('stamp.svg (goes along)');
  await expect(belongs).not.toContainText('left out');
  await dialog.getByLabel('What railing as built.svg is').selectOption({ index: 2 });
  await dialog.getByRole('button', { name: 'Check in 3 files' }).click();
  await expect(page.getByText('was checked in: 3 files.')).toBeVisible();
  const [set] = (await (await page.request.get(`/api/v1/projects/${projectId}/sets`)).json()) as {
    files: { name: string; version: number }[];
  }[];
  expect(set!.files.map((f) => [f.name, f.version])).toEqual([
    ['fence.svg', 2],
    ['sheet.svg', 2],
    ['stamp.svg', 1],
  ]);
});

test('a folder that is open in the browser is watched: each save of a program is a version, also after the server was away', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const piles = Array.from(
    { length: 2000 },
    (_, k) => `<rect x="${k * 7}" y="${(k * 7919) % 997}" width="5" height="5"/>`,
  );
  const large = drawing(piles.join('\n'));
  const id = await makeDrawing(page, large, 'landing.svg');
  /** Bytes that each save sent. */
  const sent: number[] = [];
  page.on('requestfinished', (request) => {
    if (request.url().endsWith('/saves')) void request.sizes().then((sizes) => sent.push(sizes.requestBodySize));
  });
  const projectId = await projectOf(page, id);
  await countAtOnce(page, projectId);
  const kinds = async (): Promise<string[]> => (await versionsOf(page, id)).map(({ kind }) => kind);
  await page.goto(`/projects/${projectId}/desk`);
  await page.getByRole('button', { name: 'Use the practice folder' }).click();
  await page.getByRole('button', { name: 'Get the one that is newer' }).click();
  await expect(page.getByRole('row', { name: /landing\.svg/ })).toContainText('same as newest');
  await page.getByLabel('Save to Ovrel as programs save here').check();
  await expect(page.getByText('Watching: what programs save here becomes versions.')).toBeVisible();
  await page.getByRole('button', { name: 'Edit landing.svg' }).click();
  const editor = page.getByRole('dialog');
  const saveAgain = async (): Promise<void> => {
    await editor.getByRole('button', { name: 'Move a shape' }).click();
    await editor.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(editor).toContainText('Everything is saved.');
  };
  await saveAgain();
  await expect.poll(kinds).toEqual(['check-in', 'autosave']);
  // While nobody answers it waits here.
  await page.route('**/saves', (route) => route.abort());
  await saveAgain();
  await expect(page.getByText('landing.svg was saved; it is on its way.')).toBeAttached();
  expect(await kinds()).toHaveLength(2);
  await page.unroute('**/saves');
  await expect.poll(kinds).toEqual(['check-in', 'autosave', 'autosave']);
  await editor.getByRole('button', { name: 'Close', exact: true }).last().click();
  await expect(page.getByRole('row', { name: /landing\.svg/ })).toContainText('same as newest');
  const [, first, second] = await versionsOf(page, id);
  const parents = (await (await page.request.get(`/api/v1/versions/${second?.id ?? ''}`)).json()) as {
    parentId: string;
  };
  expect(parents.parentId).toBe(first?.id);
  // Only what is new travelled, and what is there is the whole of it.
  expect(sent).toHaveLength(2);
  expect(Math.max(...sent)).toBeLessThan(large.length / 10);
  const content = await (await page.request.get(`/api/v1/versions/${second?.id ?? ''}/content`)).text();
  expect(content.length).toBeGreaterThan(large.length);
});
