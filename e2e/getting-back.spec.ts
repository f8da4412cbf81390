import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { addVersion, causesOf, drawing, expect, makeDrawing, openFile, ready, signIn, stop, test } from './support.ts';

const quay = (deck: string, hut: number, words = 'Pier one', extra = ''): string =>
  drawing(`<g data-name="Deck"><rect id="deck" x="40" y="60" width="160" height="60" fill="${deck}"/>
  <rect id="hut" x="${hut}" y="60" width="60" height="60" fill="#777"/></g>
  <text id="name" x="40" y="200" font-size="24">${words}</text>${extra}`);

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

const proposed = (page: Page): ReturnType<Page['locator']> => page.locator('.ov-proposed');

/** The newest version, as the server gives it. */
async function newestContent(page: Page, fileId: string): Promise<string> {
  const answer = await page.request.get(`/api/v1/files/${fileId}`);
  const { newest } = (await answer.json()) as { newest: { id: string } };
  return (await page.request.get(`/api/v1/versions/${newest.id}/content`)).text();
}

test('one cause of an old comparison is taken back; what came later stays', async ({ page }) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await addVersion(page, id, quay('#aa7744', 290));
  await addVersion(page, id, quay('#aa7744', 290, 'Pier two'));
  const { versions } = await versionsOf(page, id);
  await page.goto(`/files/${id}?a=${versions[0]}&b=${versions[1]}`);
  await page
    .getByRole('checkbox', { name: /Pick: .*hut/ })
    .first()
    .check();
  await page.getByRole('button', { name: 'Take back in v3' }).click();
  await expect(page.getByRole('heading', { name: 'Take back one change' })).toBeVisible();
  await expect(causesOf(page)).toHaveText([/hut.*moved/i]);
  await ready(page);
  await page.getByLabel('Note: why?').fill('The hut stays where it was');
  await page.getByRole('button', { name: 'Check in as v4' }).click();
  await expect(page.getByText('Checked in as v4. Nothing was removed.')).toBeVisible();
  await expect(stop(page, 4)).toBeVisible();
  expect(await newestContent(page, id)).toBe(quay('#aa7744', 250, 'Pier two'));
});

async function versionsOf(page: Page, fileId: string): Promise<{ versions: string[] }> {
  const answer = await page.request.get(`/api/v1/files/${fileId}/versions`);
  const list = (await answer.json()) as { id: string; number: number }[];
  return { versions: list.sort((a, b) => a.number - b.number).map((v) => v.id) };
}

test('what was changed again later is decided part by part, and kept over a reload', async ({ page }) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await addVersion(page, id, quay('#aa7744', 290));
  await addVersion(page, id, quay('#aa7744', 310));
  const { versions } = await versionsOf(page, id);
  await page.goto(`/files/${id}?a=${versions[0]}&b=${versions[1]}`);
  for (const name of [/Pick: .*hut/, /Pick: .*deck/]) await page.getByRole('checkbox', { name }).first().check();
  await page.getByRole('button', { name: 'Take back in v3' }).click();
  const clash = page.getByRole('list', { name: 'Clashes' }).getByRole('listitem');
  await expect(clash).toHaveCount(1);
  await expect(clash).toContainText('was changed again later');
  await expect(page.getByRole('button', { name: 'Check in as v4' })).toBeDisabled();
  await clash.getByLabel('as in v1').click();
  await expect(page.getByRole('button', { name: 'Check in as v4' })).toBeEnabled();
  await page.reload();
  await expect(clash.getByLabel('as in v1')).toBeChecked();
  await page.getByRole('button', { name: 'Check in as v4' }).click();
  await expect(page.getByText('Checked in as v4. Nothing was removed.')).toBeVisible();
  expect(await newestContent(page, id)).toBe(quay('#777', 250));
});

test('an image of an older version is three clicks away: the version, the part, carry over', async ({ page }) => {
  const picture = readFileSync('demo/real/backdrop.webp').toString('base64');
  const image = `<image id="photo" x="300" y="180" width="80" height="60" href="data:image/webp;base64,${picture}"/>`;
  const id = await makeDrawing(page, quay('#777', 250, 'Pier one', image));
  await addVersion(page, id, quay('#777', 250, 'Pier two'));
  await page.reload();
  await stop(page, 1).click();
  await ready(page);
  const canvas = page.locator('canvas');
  const box = await canvas.boundingBox();
  if (!box) throw new Error('the drawing has no place');
  // The page of 400 × 300 is fitted into the canvas.
  const scale = await fitted(page, box);
  await canvas.click({ position: { x: box.width / 2 + (340 - 200) * scale, y: box.height / 2 + (210 - 150) * scale } });
  await page.getByRole('button', { name: 'Carry over into v2' }).click();
  await expect(page.getByRole('heading', { name: 'Carry over from v1' })).toBeVisible();
  await page.getByRole('button', { name: 'Check in as v3' }).click();
  await expect(page.getByText('Checked in as v3. Nothing was removed.')).toBeVisible();
  // A failure need not print the picture.
  expect((await newestContent(page, id)) === quay('#777', 250, 'Pier two', image)).toBe(true);
});

/** CSS pixels a unit of the page, where all of it is in sight. */
async function fitted(page: Page, box: { readonly width: number; readonly height: number }): Promise<number> {
  await page.keyboard.press('0');
  return Math.min(box.width / 400, box.height / 300) * 0.94;
}

test('what is about to be done can be let go, and nothing was changed', async ({ page }) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await addVersion(page, id, quay('#aa7744', 290));
  const { versions } = await versionsOf(page, id);
  await page.goto(`/files/${id}?a=${versions[0]}&b=${versions[1]}`);
  await page
    .getByRole('checkbox', { name: /Pick: .*deck/ })
    .first()
    .check();
  await page.getByRole('button', { name: 'Take back in v2' }).click();
  await expect(proposed(page)).toBeVisible();
  await page.getByRole('button', { name: 'Let it go' }).click();
  await expect(page.getByRole('region', { name: 'About this version' })).toBeVisible();
  expect((await versionsOf(page, id)).versions).toHaveLength(2);
});

test('a change of the demo’s plan can be taken back', async ({ page }) => {
  await openFile(page, 'landing-plan.svg');
  await page.keyboard.press('c');
  await page
    .getByRole('checkbox', { name: /^Pick: / })
    .first()
    .check();
  await page.getByRole('button', { name: /^Take back in v/ }).click();
  await expect(proposed(page)).toBeVisible();
  await expect(causesOf(page).first()).toBeVisible();
  await page.getByRole('button', { name: 'Let it go' }).click();
});

test('a try beside the main line: branched off, gone on with, joined back with what happened meanwhile', async ({
  page,
}) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await page.keyboard.press('b');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Hut to the east');
  await dialog.getByLabel('Why').fill('The ramp needs the room');
  await dialog.getByRole('button', { name: 'Branch off' }).click();
  await expect(page.getByText('“Hut to the east” starts from v1.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Join “Hut to the east” into the main line' })).toBeVisible();
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'pier.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(quay('#777', 310)) });
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /Check in/ })
    .click();
  await expect(page.getByText('Checked in as v3.')).toBeVisible();
  await addVersion(page, id, quay('#aa7744', 250));
  await page.getByRole('button', { name: 'Join “Hut to the east” into the main line' }).click();
  await expect(page.getByRole('heading', { name: 'Join “Hut to the east”' })).toBeVisible();
  await expect(causesOf(page)).toHaveText([/hut.*moved/i]);
  await page.getByRole('button', { name: 'Check in as v3' }).click();
  await expect(page.getByText('Checked in as v3. Nothing was removed.')).toBeVisible();
  expect(await newestContent(page, id)).toBe(quay('#aa7744', 310));
  const lane = page.getByRole('group', { name: 'Line Hut to the east' });
  await lane.getByRole('button', { name: /Hut to the east v3/ }).click({ modifiers: ['Shift'] });
  await expect(page.getByText('A is of')).toContainText('Hut to the east');
});

test('a version becomes a file of its own, and both pages tell of it', async ({ page }) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await page.getByRole('button', { name: 'Branch off from v1 …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('As a file of its own, in the same folder').check();
  await expect(dialog.getByLabel('Name')).toHaveValue('pier from v1.svg');
  await dialog.getByRole('button', { name: 'Branch off' }).click();
  await expect(page.getByRole('heading', { name: 'pier from v1.svg', exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: 'pier.svg v1' })).toBeVisible();
  await page.goto(`/files/${id}`);
  await expect(page.getByRole('link', { name: 'pier from v1.svg' })).toBeVisible();
});

test('later versions are erased for good, after what goes was told, a reason given and the name typed', async ({
  page,
}) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await addVersion(page, id, quay('#aa7744', 290));
  await addVersion(page, id, quay('#aa7744', 310));
  await page.reload();
  await stop(page, 1).click();
  await page.getByRole('button', { name: 'Erase back to v1 …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('v2 to v3 go for good');
  await expect(dialog).toContainText('2 versions since');
  await dialog.getByLabel('Why').fill('A wrong survey');
  const erase = dialog.getByRole('button', { name: 'Erase for good' });
  await expect(erase).toBeDisabled();
  await dialog.getByLabel('Type pier.svg to confirm').fill('pier.svg');
  await erase.click();
  await expect(page.getByText('2 versions were erased for good. v1 is the newest again.')).toBeVisible();
  await expect(stop(page, 2)).toHaveCount(0);
  expect(await newestContent(page, id)).toBe(quay('#777', 250));
});

test('a starting state: what was made is set aside, and the file begins again', async ({ page }) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await page.keyboard.press('k');
  await page.getByLabel('Title', { exact: true }).fill('Empty quay');
  await page.getByLabel(/A starting state/).check();
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('v1 is “Empty quay” now, and is kept.')).toBeVisible();
  await addVersion(page, id, quay('#aa7744', 310));
  await page.reload();
  await stop(page, 1).press('Enter');
  await page.getByRole('button', { name: 'Set v2 aside and start afresh …' }).click();
  await page.getByLabel('Name of what is set aside').fill('quay of group {number}');
  await page.getByRole('dialog').getByRole('button', { name: 'Set aside and start afresh' }).click();
  await expect(
    page.getByText('What was there is “quay of group 1.svg” now, and v3 begins again from v1.'),
  ).toBeVisible();
  await expect(page.getByRole('link', { name: 'quay of group 1.svg', exact: true })).toBeVisible();
  const print = page.getByRole('link', { name: 'Save it as PDF' });
  const saved = await page.request.get((await print.getAttribute('href')) ?? '');
  expect(saved.headers()['content-type']).toBe('application/pdf');
  expect(await newestContent(page, id)).toBe(quay('#777', 250));
});

test('who drew what: by person, a part’s story, and what is gone comes back', async ({ page }) => {
  const id = await makeDrawing(page, quay('#777', 250));
  await addVersion(page, id, quay('#777', 290, 'Pier one', '<circle id="bollard" cx="350" cy="250" r="9"/>'));
  await addVersion(page, id, quay('#777', 290));
  await page.reload();
  await ready(page);
  await page.getByRole('button', { name: 'Show who drew what' }).click();
  await expect(page.getByRole('list', { name: 'People' })).toContainText('Tobias Renn');
  await page.locator('canvas').click();
  const gone = page.getByRole('list', { name: 'Gone' }).getByRole('listitem');
  await expect(gone).toHaveText([/circle bollard, taken out by Tobias Renn v3/]);
  await page.getByLabel('Search what is gone').fill('nothing like it');
  await expect(gone).toHaveCount(0);
  await page.getByLabel('Search what is gone').fill('boll');
  await gone.getByRole('button', { name: 'Carry over into v3' }).click();
  await page.getByRole('button', { name: 'Check in as v4' }).click();
  await expect(page.getByText('Checked in as v4. Nothing was removed.')).toBeVisible();
  expect(await newestContent(page, id)).toContain('id="bollard"');
});

test('a project is turned back to a moment: the table, what came since, and all of it brought forward', async ({
  page,
}) => {
  const id = await makeDrawing(page, quay('#777', 250));
  const moment = new Date(Date.now() + 1000).toISOString();
  await expect.poll(() => Date.now() > Date.parse(moment)).toBe(true);
  await addVersion(page, id, quay('#aa7744', 290));
  const { projectId } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectId: string };
  await page.goto(`/projects/${projectId}/as-of?at=${encodeURIComponent(moment)}`);
  const row = page.getByRole('table', { name: 'Files as they were' }).getByRole('row').filter({ hasText: 'pier.svg' });
  await expect(row).toContainText('v1');
  await expect(row.getByRole('link', { name: 'v1 → v2' })).toBeVisible();
  await page.getByRole('button', { name: 'Bring one file forward to then' }).click();
  await page.getByLabel('Why').fill('The survey was right');
  await page.getByRole('dialog').getByRole('button', { name: 'Bring forward' }).click();
  await expect(page.getByText(/one file is as it was then/)).toBeVisible();
  await expect(row).toContainText('as it is now');
  expect(await newestContent(page, id)).toBe(quay('#777', 250));
});

test('a line is joined as it stands, though its versions are still on their way to the page', async ({ page }) => {
  await signIn(page, 'tobias');
  await openFile(page, 'gangway-hinge.svg');
  await ready(page);
  let letGo = (): void => undefined;
  const held = new Promise<void>((done) => {
    letGo = done;
  });
  await page.route(/\/versions\?/, async (route) => {
    await held;
    await route.continue();
  });
  await page.keyboard.press('ArrowDown');
  await page.getByRole('button', { name: /^Join “Twelve bolts”/ }).click();
  letGo();
  await expect(page.locator('.ov-proposed')).toBeVisible();
  await page.getByRole('button', { name: 'Let it go' }).click();
  await expect(page.locator('.ov-proposed')).toHaveCount(0);
});
