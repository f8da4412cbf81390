import { PDFDocument, StandardFonts } from 'pdf-lib';
import { causesOf, expect, openFile, post, ready, shareOf, signIn, test } from './support.ts';
import type { Page } from '@playwright/test';

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

const compareWith = async (page: Page, name: string): Promise<void> => {
  await page.keyboard.press('o');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel(/name$/).fill(name);
  await dialog.getByRole('button', { name }).first().click();
  await dialog.getByLabel('Version').selectOption({ index: 0 });
  await dialog.getByRole('button', { name: 'Compare', exact: true }).click();
};

test('a locked document asks for its password, says when it is wrong, and is then shown and compared', async ({
  page,
}) => {
  await openFile(page, 'piling-rates.pdf').catch(() => undefined);
  const form = page.getByRole('form', { name: 'Open the locked document' });
  await expect(form).toBeVisible();
  await form.getByLabel('Password of the document').fill('thornholm');
  await form.getByRole('button', { name: 'Open it' }).click();
  await expect(form.getByText('This password does not open the document.')).toBeVisible();
  await form.getByLabel('Password of the document').fill('Thornholm');
  await form.getByRole('button', { name: 'Open it' }).click();
  await ready(page);
  await expect(page.getByText('PDF document')).toBeVisible();
  expect(await shareOf(page.locator('.ov-canvas > canvas'), [255, 255, 255])).toBeGreaterThan(0.1);
  await page.getByRole('button', { name: /^Compare with v1/ }).click();
  await form.getByLabel('Password of the document').fill('Thornholm');
  await form.getByRole('button', { name: 'Open it' }).click();
  await ready(page);
  await expect(
    causesOf(page).filter({ hasText: 'Steel pile, 406 mm: 310 a metre” now “Steel pile, 406 mm: 295 a metre' }),
  ).toHaveCount(1);
  // Nothing of it is kept: the page loaded anew asks again.
  await page.reload();
  await expect(form).toBeVisible();
});

test('title blocks are listed, and a sheet that changed without a new revision is named', async ({ page }) => {
  await openFile(page, 'landing-set.pdf');
  await ready(page);
  await page.getByText('Title blocks of 9 sheets').click();
  await expect(page.getByRole('row', { name: 'QFL-103 C01 2026-11-04 1 : 50' })).toBeVisible();
  await page.goto(`${new URL(page.url()).pathname}?a=2&b=3`);
  await ready(page);
  await expect(
    page.getByText(
      /A sheet changed without a new revision: QFL-104 \(Page 5\) says revision P02, and the version before said P02 too/,
    ),
  ).toBeVisible();
  await page.getByText(/^Title blocks: \d of 9 sheets differ/).click();
  const list = page.getByRole('list', { name: 'Title blocks' });
  await expect(list.getByRole('listitem').filter({ hasText: 'QFL-101' })).toContainText('Revision: P02 → C01');
  await expect(list.getByRole('listitem').filter({ hasText: 'QFL-104' })).toContainText(
    'Changed, and still revision P02',
  );
  await openFile(page, 'landing-plan.svg');
  await expect(page.getByRole('heading', { name: 'Title block', exact: true })).toBeVisible();
  await expect(page.getByText('QFL-A-101')).toBeVisible();
});

test('the pages of a set are listed with what changed, and a click goes there', async ({ page }) => {
  await openFile(page, 'landing-set.pdf');
  await page.goto(`${new URL(page.url()).pathname}?a=1&b=2`);
  await ready(page);
  await page.getByText(/of 10 pages changed$/).click();
  const pages = page.getByRole('list', { name: 'Pages' }).getByRole('button');
  await expect(pages).toHaveCount(10);
  await expect(pages.filter({ hasText: 'Page 5' })).toHaveText(/Page 5\s*\d+\s*\+B/);
  await pages.filter({ hasText: 'Page 3' }).click();
  await expect(page.getByLabel('Page', { exact: true })).toHaveValue('Page 3');
});

test('a large set says which pages changed before it is known what changed', async ({ page }) => {
  const book = async (revised: boolean): Promise<Buffer> => {
    const document = await PDFDocument.create();
    const font = await document.embedFont(StandardFonts.Helvetica);
    for (let k = 0; k < 60; k++) {
      const sheet = document.addPage([842, 595]);
      for (let i = 0; i < 90; i++)
        sheet.drawLine({
          start: { x: 40 + ((i * 37 + k * 13) % 700), y: 60 + ((i * 53 + k * 7) % 450) },
          end: { x: 60 + ((i * 41 + k * 29) % 700), y: 70 + ((i * 31 + k * 3) % 450) },
        });
      for (let i = 0; i < 30; i++)
        sheet.drawText(`Sheet ${k + 1} note ${i + 1}: ${(i * k * 7919) % 997}`, {
          x: 40 + (i % 3) * 260,
          y: 80 + Math.floor(i / 3) * 45,
          size: 9,
          font,
        });
      if (revised && k === 41) sheet.drawText('Check the tide table', { x: 300, y: 30, size: 14, font });
    }
    return Buffer.from(await document.save({ useObjectStreams: false }));
  };
  const project = await post<{ id: string }>(page, '/projects', { name: `Large set ${Date.now()}` });
  const send = async (path: string, buffer: Buffer): Promise<{ file: { id: string } }> =>
    (
      await page.request.post(`/api/v1${path}`, {
        multipart: { note: '', file: { name: 'set.pdf', mimeType: 'application/pdf', buffer } },
      })
    ).json() as Promise<{ file: { id: string } }>;
  const { file } = await send(`/projects/${project.id}/files`, await book(false));
  await send(`/files/${file.id}/versions`, await book(true));
  // Programs can follow the list, too: what is known while the pages are read, a line at a time.
  const [one, two] = (await (await page.request.get(`/api/v1/files/${file.id}/versions`)).json()) as { id: string }[];
  const answer = await page.request.get(`/api/v1/comparisons/pages?a=${one!.id}&b=${two!.id}`, {
    headers: { accept: 'application/x-ndjson' },
  });
  expect(answer.headers()['content-type']).toContain('application/x-ndjson');
  const told = (await answer.text())
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line) as { read?: number; all?: number; pages: { state: string }[] });
  expect(told.length).toBeGreaterThan(1);
  expect(told[0]!.read).toBeLessThan(told[0]!.all!);
  // As soon as it is known which pages there are, those that nobody has read yet are named so.
  expect(told.find((line) => line.pages.length > 0)!.pages.map((p) => p.state)).toContain('unread');
  expect(told.at(-1)!.pages.filter((p) => p.state !== 'same')).toHaveLength(1);
  // The comparison is held back; the list of pages is not.
  let release: () => void = () => undefined;
  const held = new Promise<void>((done) => {
    release = done;
  });
  await page.route(/\/api\/v1\/comparisons\?/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`/files/${file.id}?a=1&b=2`);
  await expect(page.getByText('1 of 60 pages changed')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Pages' }).getByRole('button', { name: 'Page 42' })).toHaveText(
    /Page 42\s*~/,
  );
  release();
  await expect(causesOf(page)).toHaveText([/^Text “Check the tide table” added/]);
  // Of sixty sheets the one that changed is shown.
  await expect(page.getByLabel('Page', { exact: true })).toHaveValue('Page 42');
});

test('seen closely a sheet is drawn anew, as sharp as the screen', async ({ page }) => {
  await openFile(page, 'landing-set.pdf');
  await ready(page);
  const fine = page.waitForResponse((answer) => /\/view\?page=0&box=/.test(answer.url()) && answer.ok());
  for (let k = 0; k < 12; k++) await page.keyboard.press('+');
  const answer = await fine;
  const [x0, , x1] = new URL(answer.url()).searchParams.get('box')!.split(',').map(Number);
  const side = Number(new URL(answer.url()).searchParams.get('side'));
  // Far more pixels a point than the whole page has.
  expect(side / (x1! - x0!)).toBeGreaterThan(5);
  const png = await answer.body();
  expect(png.readUInt32BE(16)).toBe(side);
});

test('a print is compared with the drawing that it was plotted from', async ({ page }) => {
  await openFile(page, 'landing-plan.svg');
  await ready(page);
  await compareWith(page, 'landing-plan-print.pdf');
  await expect(
    page.getByText(
      /Compared as drawn, by pixels and by words: the PDF document is laid over the SVG drawing, scaled to 12\d/,
    ),
  ).toBeVisible();
  await ready(page);
  await expect(causesOf(page).filter({ hasText: 'Text “Kiosk, timber frame” now “Kiosk, steel frame”' })).toHaveCount(
    1,
  );
  // Both are on the canvas: what only one of them has dark is tinted.
  await page.keyboard.press('2');
  await expect(page.getByRole('region', { name: 'Viewer' }).getByText('A v1', { exact: true })).toBeVisible();
});
