import type { Browser, Page } from '@playwright/test';
import { addVersion, drawing, expect, makeDrawing, post, ready, signIn, stop, test } from './support.ts';

const pier = (x: number): string => drawing(`<rect id="deck" x="${x}" y="100" width="200" height="60" fill="#446"/>`);

/** A second person at another computer. */
async function another(browser: Browser, who: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await signIn(page, who);
  return page;
}

test('a check-out is seen at once by whoever else looks; they ask for it, and the holder sees why', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const ines = await another(browser, 'ines');
  const mine = page.getByRole('region', { name: 'Check-out' });
  const theirs = ines.getByRole('region', { name: 'Check-out' });
  await ines.goto(`/files/${id}`);
  await expect(mine.getByText('Also looking at it now: Ines Calloway')).toBeVisible();
  await expect(theirs).toContainText('Nobody has this file checked out.');
  await mine.getByRole('button', { name: 'Check out' }).click();
  await expect(mine).toContainText('You have it checked out since');
  await expect(theirs).toContainText('Tobias Renn has it checked out since');
  await theirs.getByRole('button', { name: 'Ask for it' }).click();
  await ines.getByLabel('Reason').fill('The railing is drawn twice');
  await ines.getByRole('dialog').getByRole('button', { name: 'Ask for it' }).click();
  await expect(mine).toContainText('Ines Calloway asks for it');
  await expect(mine).toContainText('“The railing is drawn twice”');
  await page.goto('/desk');
  await expect(page.getByRole('table', { name: 'Checked out by you' })).toContainText('The railing is drawn twice');
  await page.getByRole('button', { name: 'Give up pier.svg' }).click();
  await expect(page.getByRole('status')).toContainText('One check-out was given up.');
  await expect(theirs).toContainText('Nobody has this file checked out.');
  // Tobias has left the page of the file.
  await expect(theirs).not.toContainText('Also looking');
  await ines.context().close();
});

test('what a colleague checks in appears without a reload', async ({ page, browser }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const ines = await another(browser, 'ines');
  await ready(page);
  await addVersion(ines, id, pier(50));
  await expect(stop(page, 2)).toBeVisible();
  await expect(page.getByText('the newest version')).toBeVisible();
  await ines.context().close();
});

test('nobody overwrites a holder: the check-in is refused and goes into a branch, which is kept beside the main line', async ({
  page,
  browser,
}) => {
  await signIn(page, 'ines');
  const tobias = await another(browser, 'tobias');
  const id = await makeDrawing(tobias, pier(20));
  await page.goto(`/files/${id}`);
  await page.getByRole('button', { name: 'Check out', exact: true }).click();
  await expect(page.getByText('You have it checked out since')).toBeVisible();
  await tobias.getByRole('button', { name: 'Take it over' }).click();
  await tobias.getByLabel('Reason').fill('Ines is ill');
  await tobias.getByRole('dialog').getByRole('button', { name: 'Take it over' }).click();
  await expect(page.getByText('Tobias Renn took your check-out over: “Ines is ill”.')).toBeVisible();
  await addVersion(tobias, id, pier(60));
  await expect(stop(page, 2)).toBeVisible();
  await expect(page.locator('.ov-about')).toContainText(/v2.*the newest version/);
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'pier.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(pier(200)) });
  await page.getByRole('dialog').getByRole('button', { name: 'Check in as v3' }).click();
  await expect(page.locator('.ov-said.is-problem')).toContainText('Tobias Renn took your check-out over');
  await page.getByRole('button', { name: 'Check it in as a branch from v1' }).click();
  await expect(page.getByText('Checked in as v2 of a new branch, “branch of Ines Calloway”.')).toBeVisible();
  // The page is on the branch at once; the main line is beside it.
  await expect(page.getByLabel('Line', { exact: true }).locator('option:checked')).toHaveText(
    'branch of Ines Calloway, from v1',
  );
  await expect(page.getByRole('heading', { name: 'pier.svg' })).toBeVisible();
  await expect(page.locator('.ov-about')).toContainText('Ines Calloway');
  await expect(stop(page, 2)).toBeVisible();
  await expect(stop(page, 1)).toHaveCount(0);
  await page.getByLabel('Line', { exact: true }).selectOption({ label: 'main line' });
  await expect(stop(page, 1)).toBeVisible();
  await expect(page).not.toHaveURL(/line=/);
  await tobias.context().close();
});

test('several files are checked out together, all or none, and the list says who holds them', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  for (const name of ['stairs.svg', 'kiosk.svg'])
    await page.request.post(`/api/v1/projects/${projectId}/files`, {
      multipart: { note: '', file: { name, mimeType: 'image/svg+xml', buffer: Buffer.from(pier(5)) } },
    });
  const ines = await another(browser, 'ines');
  await post(ines, '/checkouts', { files: [id] });
  await page.goto(`/projects/${projectId}`);
  await expect(page.getByRole('row', { name: /pier\.svg/ })).toContainText('Ines Calloway');
  for (const name of ['pier.svg', 'stairs.svg', 'kiosk.svg']) await page.getByLabel(`Choose ${name}`).check();
  await page.getByRole('button', { name: 'Check out 3 chosen' }).click();
  await expect(page.locator('.ov-said.is-problem')).toContainText('“pier.svg” is checked out by Ines Calloway since');
  await expect(page.locator('.ov-said.is-problem')).toContainText('None of the files was checked out for you.');
  await page.getByLabel('Choose pier.svg').uncheck();
  await page.getByRole('button', { name: 'Check out 2 chosen' }).click();
  await expect(page.getByRole('status')).toContainText('You have 2 files checked out.');
  await expect(page.getByRole('row', { name: /stairs\.svg/ })).toContainText('Tobias Renn');
  // Given up elsewhere, it is free here without a reload.
  await ines.request.delete('/api/v1/checkouts', { data: { files: [id] } });
  await expect(page.getByRole('row', { name: /pier\.svg/ })).toContainText('nobody');
  await ines.context().close();
});

test('a deleted file is found in the history by its set, and comes back', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  await addVersion(page, id, pier(60));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  await page.goto(`/projects/${projectId}`);
  await page.getByRole('button', { name: 'Delete pier.svg' }).click();
  await expect(page.getByRole('dialog')).toContainText('Its 2 versions are kept');
  await page.getByLabel('Reason').fill('drawn anew elsewhere');
  await page.getByRole('button', { name: 'Delete it' }).click();
  await expect(page.getByText('Nothing is in here yet.')).toBeVisible();
  await page.getByRole('link', { name: 'History' }).click();
  await expect(page.locator('#set-3')).toContainText('Deleted by Tobias Renn');
  await expect(page.locator('#set-2')).toContainText('pier.svg v2');
  await page.getByRole('link', { name: 'Deleted files' }).click();
  await expect(page.getByRole('table', { name: 'Deleted files' })).toContainText('drawn anew elsewhere');
  await page.getByRole('link', { name: 'pier.svg' }).click();
  await expect(page.getByText('This file is deleted. Its versions are all here.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Check in a new version' })).toHaveCount(0);
  await page.goto(`/projects/${projectId}/deleted`);
  await page.getByRole('button', { name: 'Bring pier.svg back' }).click();
  await expect(page.getByLabel('At version')).toContainText('v2, the last');
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByRole('status')).toContainText('“pier.svg” is back, with all 2 versions.');
  await page.goto(`/projects/${projectId}`);
  await expect(page.getByRole('row', { name: /pier\.svg/ })).toContainText('v2');
  // Deleted again, while another file takes its name: back under another one, at its first version.
  await page.request.delete(`/api/v1/files/${id}`, { data: { reason: 'once more' } });
  await page.request.post(`/api/v1/projects/${projectId}/files`, {
    multipart: { note: '', file: { name: 'pier.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(pier(5)) } },
  });
  await page.goto(`/projects/${projectId}/deleted`);
  await page.getByRole('button', { name: 'Bring pier.svg back' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('At version').selectOption({ index: 1 });
  await dialog.getByRole('button', { name: 'Bring it back' }).click();
  await expect(dialog).toContainText('There is already a file called “pier.svg” here');
  await dialog.getByLabel('Name').fill('pier before the flood.svg');
  await dialog.getByLabel('Why?').fill('wanted for the survey');
  await dialog.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByRole('status')).toContainText(
    '“pier before the flood.svg” is back, with v1 brought forward as v3, and with all 3 versions.',
  );
  const versions = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as { sha256: string }[];
  expect(versions[2]!.sha256).toBe(versions[0]!.sha256);
});

test('one file is brought forward out of a set, and the others of the set stay as they are', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  const text = (name: string, content: string): { name: string; mimeType: string; buffer: Buffer } => ({
    name,
    mimeType: 'text/plain',
    buffer: Buffer.from(content),
  });
  const together = async (
    files: readonly ReturnType<typeof text>[],
    plan: unknown,
  ): Promise<{ set: { files: { fileId: string; name: string }[] } }> => {
    const form = new FormData();
    form.append('plan', JSON.stringify(plan));
    form.append('note', 'survey of June');
    for (const f of files) form.append('file', new Blob([Uint8Array.from(f.buffer)]), f.name);
    return (await (await page.request.post(`/api/v1/projects/${projectId}/sets`, { multipart: form })).json()) as {
      set: { files: { fileId: string; name: string }[] };
    };
  };
  const { set } = await together([text('levels.txt', 'June'), text('tides.txt', 'June')], [{}, {}]);
  for (const f of set.files)
    await page.request.post(`/api/v1/files/${f.fileId}/versions`, {
      multipart: { note: '', file: text(f.name, 'September') },
    });
  await page.goto(`/projects/${projectId}/history`);
  await page.locator('#set-2').getByRole('button', { name: 'Bring levels.txt v1 forward' }).click();
  await expect(page.getByRole('dialog')).toContainText(
    'levels.txt becomes again what it was in set 2, as its newest version. The other files of the set stay as they are now',
  );
  await page.getByLabel('Note: why?').fill('September was misread');
  await page.getByRole('button', { name: 'Bring it forward' }).click();
  await expect(page.getByRole('status')).toContainText('levels.txt v1 was brought forward as v3.');
  await expect(page.locator('#set-5')).toContainText('Brought forward from v1: September was misread');
  const newest = async (name: string): Promise<string> =>
    (
      await page.request.get(
        `/api/v1/versions/${((await (await page.request.get(`/api/v1/files/${set.files.find((f) => f.name === name)?.fileId ?? ''}`)).json()) as { newest: { id: string } }).newest.id}/content`,
      )
    ).text();
  expect([await newest('levels.txt'), await newest('tides.txt')]).toEqual(['June', 'September']);
});

test('the ledger tells it all, can be filtered and exported', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20), 'mooring.svg');
  await post(page, '/checkouts', { files: [id], desk: 'the site hut' });
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  await page.goto(`/ledger?project=${projectId}`);
  const table = page.getByRole('table', { name: 'Ledger' });
  await expect(table.getByRole('row')).toHaveCount(4);
  await expect(table).toContainText('mooring.svg on the site hut');
  await page.getByLabel('Act').selectOption('checked in');
  await expect(table.getByRole('row')).toHaveCount(2);
  await expect(table).toContainText('mooring.svg v1');
  await page.getByLabel('Words').fill('nowhere to be found');
  await expect(page.getByText('No entry matches.')).toBeVisible();
  const csv = await (await page.request.get(`/api/v1/ledger?project=${projectId}&as=csv`)).text();
  expect(csv.split('\r\n')[0]).toBe('seq,at,by,act,subject,reason,from,project,file,hash');
  expect(csv).toContain('Tobias Renn,checked out,mooring.svg on the site hut');
  const all = (await (await page.request.get('/api/v1/ledger?as=json')).json()) as { seq: number }[];
  expect(all.map((e) => e.seq)).toEqual(all.map((_, i) => i + 1));
});

test('a token opens the API for a program, only as far as it is meant to, until it is revoked', async ({
  page,
  playwright,
  baseURL,
}) => {
  await signIn(page, 'anselm');
  const make = async (name: string, scope: string): Promise<string> => {
    await page.goto('/desk');
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByLabel('For', { exact: true }).selectOption(scope);
    await page.getByRole('button', { name: 'Make a token' }).click();
    return (await page.getByTestId('token').innerText()).trim();
  };
  const [reading, desk] = [await make('reports', 'read'), await make('site laptop', 'desk')];
  const program = (token: string) =>
    playwright.request.newContext({
      ...(baseURL ? { baseURL } : {}),
      extraHTTPHeaders: { authorization: `Bearer ${token}` },
    });
  const reader = await program(reading);
  const writer = await program(desk);
  const stranger = await program('ovrel_made-up');
  expect((await reader.get('/api/v1/projects')).status()).toBe(200);
  const refused = await reader.post('/api/v1/checkouts', { data: { files: ['00000000-0000-4000-8000-000000000000'] } });
  const readingOnly = 'This access token is for reading only. Make one for the desk to check out and check in.';
  expect([refused.status(), ((await refused.json()) as { detail: string }).detail]).toEqual([403, readingOnly]);
  // What somebody is about to do is not landed by it either.
  const landed = await reader.post('/api/v1/proposals/00000000-0000-4000-8000-000000000000/land', { data: {} });
  expect(((await landed.json()) as { detail: string }).detail).toBe(readingOnly);
  expect(
    (await writer.post('/api/v1/checkouts', { data: { files: ['00000000-0000-4000-8000-000000000000'] } })).status(),
  ).toBe(404);
  expect((await stranger.get('/api/v1/projects')).status()).toBe(401);
  // A token makes neither tokens nor people, gives no rights, and starts no jobs.
  const [project] = (await (await reader.get('/api/v1/projects')).json()) as { id: string }[];
  for (const beyond of [
    writer.post('/api/v1/tokens', { data: { name: 'more', scope: 'desk', days: 1 } }),
    writer.post('/api/v1/people', { data: {} }),
    writer.put(`/api/v1/projects/${project!.id}/access`, { data: {} }),
    writer.post('/api/v1/jobs', { data: { kind: 'scrub' } }),
  ]) {
    const told = (await (await beyond).json()) as { status: number; detail: string };
    expect(told).toMatchObject({
      status: 403,
      detail: 'An access token does not open this: sign in and do it yourself, in the browser.',
    });
  }
  await page.getByRole('button', { name: 'Revoke site laptop' }).click();
  await expect(page.getByRole('row', { name: /site laptop/ })).toContainText('revoked');
  expect(((await (await writer.get('/api/v1/projects')).json()) as { detail: string }).detail).toContain('was revoked');
  await Promise.all([reader, writer, stranger].map((c) => c.dispose()));
});

test('a token that is revoked while an upload runs does not bring the version in', async ({ page, baseURL }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const { id: tokenId, token } = await post<{ id: string; token: string }>(page, '/tokens', {
    name: 'lost laptop',
    scope: 'desk',
    days: 1,
  });
  const send = (between: () => Promise<void>): Promise<Response> => {
    const border = 'a-border';
    const head = `--${border}\r\ncontent-disposition: form-data; name="file"; filename="pier.svg"\r\ncontent-type: image/svg+xml\r\n\r\n`;
    const [first, rest] = [pier(60).slice(0, 40), pier(60).slice(40)];
    const body = new ReadableStream<Uint8Array>({
      async start(out) {
        out.enqueue(new TextEncoder().encode(head + first));
        await between();
        out.enqueue(new TextEncoder().encode(`${rest}\r\n--${border}--\r\n`));
        out.close();
      },
    });
    return fetch(`${baseURL ?? ''}/api/v1/files/${id}/versions`, {
      method: 'POST',
      body,
      headers: { authorization: `Bearer ${token}`, 'content-type': `multipart/form-data; boundary=${border}` },
      duplex: 'half',
    } as RequestInit);
  };
  const refused = await send(async () => {
    // The first half is under way; then the owner notices.
    await page.waitForTimeout(500);
    expect((await page.request.delete(`/api/v1/tokens/${tokenId}`)).ok()).toBe(true);
  });
  expect([refused.status, ((await refused.json()) as { detail: string }).detail]).toEqual([
    401,
    'This access token was revoked meanwhile. Nothing was changed; make a new one on the page “Desk”.',
  ]);
  expect((await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as unknown[]).toHaveLength(1);
});

test('where a note is required, a check-in without one is refused with a sentence, and adding files asks for it', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  await page.goto(`/projects/${projectId}`);
  const notes = page.getByLabel('Notes at check-in');
  await notes.selectOption('Notes: required at every check-in');
  await expect(notes.locator('option:checked')).toHaveText('Notes: required at every check-in');
  await page.goto(`/files/${id}`);
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'pier.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(pier(70)) });
  await page.getByRole('dialog').getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByText('Here every check-in needs a note: say why.')).toBeVisible();
  await page.getByLabel('Note: why?').fill('The deck moves east');
  await page.getByRole('dialog').getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByText('Checked in as v2.')).toBeVisible();
  await page.goto(`/projects/${projectId}`);
  await expect(notes.locator('option:checked')).toHaveText('Notes: required at every check-in');
  await page
    .getByLabel('Files to add')
    .setInputFiles({ name: 'stairs.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(pier(5)) });
  await page.getByLabel('Reason').fill('Stairs for the second landing');
  await page.getByRole('dialog').getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('row', { name: /stairs\.svg/ })).toContainText('Stairs for the second landing');
});

test('an older version is gone on from in one step: checked out, downloaded, and the source of what is checked in next', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  await addVersion(page, id, pier(60));
  await page.goto(`/files/${id}?v=1`);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Check out and go on from v1' }).click();
  expect((await download).suggestedFilename()).toBe('pier v1.svg');
  await expect(page.getByRole('region', { name: 'Check-out' })).toContainText('going on from v1');
  await addVersion(page, id, pier(25));
  await expect(page.getByRole('img', { name: 'v3 goes on from v1' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Check-out' })).toContainText('Nobody has this file checked out.');
});

test("a file's history shows versions and acts together, leads to the set and back, and fills in live", async ({
  page,
  browser,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  await addVersion(page, id, pier(60));
  await post(page, '/checkouts', { files: [id], desk: 'drawing office' });
  await page.request.delete('/api/v1/checkouts', { data: { files: [id] } });
  await page.request.patch(`/api/v1/files/${id}`, { data: { name: 'pier head.svg' } });
  await page.reload();
  await page.getByRole('link', { name: 'History of the file' }).click();
  const steps = page.locator('.ov-sets > li');
  await expect(steps).toHaveCount(5);
  await expect(steps.nth(0)).toContainText('Changed a file pier.svg, now pier head.svg by Tobias Renn');
  await expect(steps.nth(1)).toContainText('Gave up');
  await expect(steps.nth(2)).toContainText('Checked out pier.svg on drawing office by Tobias Renn');
  await expect(steps.nth(3)).toContainText('v2 by Tobias Renn');
  await expect(steps.nth(4)).toContainText('first version');
  const other = await browser.newPage();
  await signIn(other, 'ines');
  await post(other, '/checkouts', { files: [id], desk: 'site hut' });
  await expect(steps.nth(0)).toContainText('Checked out pier head.svg on site hut by Ines Calloway');
  await other.request.delete('/api/v1/checkouts', { data: { files: [id] } });
  await other.close();
  await page.getByLabel('Show').selectOption('Versions only');
  await expect(steps).toHaveCount(2);
  await steps.nth(0).getByRole('link', { name: 'set 2' }).click();
  await expect(page.locator('#set-2')).toContainText('pier head.svg v2');
  await page.locator('#set-2').getByRole('link', { name: 'pier head.svg' }).click();
  await expect(page.getByRole('heading', { name: 'pier head.svg' })).toBeVisible();
});

test('a set whose connection drops in the middle leaves nothing behind, and lands when it is sent again', async ({
  page,
  baseURL,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, pier(20));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ');
  const border = 'a-border';
  const field = (name: string, value: string): string =>
    `--${border}\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`;
  const file = (name: string, content: string): string =>
    `--${border}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\ncontent-type: text/plain\r\n\r\n${content}\r\n`;
  const whole = `${field('plan', JSON.stringify([{}, {}]))}${field('note', 'both')}${file('levels.txt', 'all of it')}${file('tides.txt', 'x'.repeat(300_000))}--${border}--\r\n`;
  const send = (part: string): Promise<Response> => {
    const body = new ReadableStream<Uint8Array>({
      async start(out) {
        out.enqueue(new TextEncoder().encode(part));
        if (part === whole) return out.close();
        // The network is gone after this.
        await page.waitForTimeout(400);
        out.error(new Error('gone'));
      },
    });
    return fetch(`${baseURL ?? ''}/api/v1/projects/${projectId}/sets`, {
      method: 'POST',
      body,
      headers: { cookie, 'content-type': `multipart/form-data; boundary=${border}` },
      duplex: 'half',
    } as RequestInit);
  };
  await expect(send(whole.slice(0, -100_000))).rejects.toThrow();
  const sets = async (): Promise<{ note: string; files: { name: string }[] }[]> =>
    (await (await page.request.get(`/api/v1/projects/${projectId}/sets`)).json()) as {
      note: string;
      files: { name: string }[];
    }[];
  expect((await sets()).map((s) => s.files.map((f) => f.name))).toEqual([['pier.svg']]);
  expect((await (await page.request.get(`/api/v1/projects/${projectId}/desk`)).json()) as unknown[]).toHaveLength(1);
  expect((await send(whole)).status).toBe(201);
  expect((await sets())[0]!.files.map((f) => f.name)).toEqual(['levels.txt', 'tides.txt']);
});
