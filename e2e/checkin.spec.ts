import { createHash } from 'node:crypto';
import { connect } from 'node:net';
import {
  addVersion,
  drawing,
  expect,
  expectShown,
  makeDrawing,
  openFile,
  signIn,
  stop,
  test,
  ready,
  visit,
} from './support.ts';

const first = drawing('<rect id="deck" x="10" y="10" width="100" height="40" fill="#8899aa"/>');
const second = drawing('<rect id="deck" x="10" y="10" width="160" height="40" fill="#8899aa"/>');
const file = (name: string, content: string | Buffer) => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: Buffer.from(content),
});

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

test('check in by choosing a file, with a note; what happened is said on the page', async ({ page }) => {
  await makeDrawing(page, first);
  await page.keyboard.press('i');
  await page.getByLabel('File', { exact: true }).setInputFiles(file('pier.svg', second));
  await page.getByLabel('Note: why?').fill('Longer deck, after the survey');
  await page.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Checked in as v2.' })).toBeVisible();
  await expect(page.getByText('Longer deck, after the survey')).toBeVisible();
  await expect(stop(page, 2)).toHaveAttribute('aria-current', 'true');
  // What changed is computed meanwhile, and appears without a reload.
  await expect(page.getByText('Rectangle “deck” stretched by (60, 0) mm')).toBeVisible();
});

test('check in by dropping a file of another name: accepted with a hint', async ({ page }) => {
  await makeDrawing(page, first);
  const data = await page.evaluateHandle((content) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([content], 'pier (final 2).svg', { type: 'image/svg+xml' }));
    return transfer;
  }, second);
  await ready(page);
  await page.locator('main.ov-file').dispatchEvent('dragover', { dataTransfer: data });
  await expect(page.getByText('Let go to check it in')).toBeVisible();
  await page.locator('main.ov-file').dispatchEvent('drop', { dataTransfer: data });
  await expect(page.getByText('It is called “pier (final 2).svg”')).toBeVisible();
  await page.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(
    page.getByRole('status').filter({ hasText: 'It was checked in as a version of “pier.svg”' }),
  ).toBeVisible();
});

test('the same content makes no version; another kind asks first', async ({ page }) => {
  await makeDrawing(page, first);
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  await page.getByLabel('File', { exact: true }).setInputFiles(file('pier.svg', first));
  await page.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(
    page.getByRole('status').filter({ hasText: 'the same as the newest version, v1, so no version was made' }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  await page.getByLabel('File', { exact: true }).setInputFiles(file('minutes.txt', 'Those present: …\n'));
  await page.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'of another kind' })).toBeVisible();
  await page.getByRole('button', { name: 'Check it in all the same' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Checked in as v2.' })).toBeVisible();
  await expect(page.getByText('Those present: …')).toBeVisible();
});

test('a version that landed meanwhile is told, and can be looked at or built upon', async ({ page }) => {
  const id = await makeDrawing(page, first);
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  await addVersion(page, id, second);
  await expect(stop(page, 2)).toBeVisible();
  await page.getByLabel('File', { exact: true }).setInputFiles(file('pier.svg', drawing('<circle r="5"/>')));
  await page.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'v2 was checked in while you were at work' })).toBeVisible();
  await page.getByRole('button', { name: 'Check in on top of v2' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Checked in as v3.' })).toBeVisible();
  await expect(stop(page, 3)).toBeVisible();
});

test('downloads are identical, with ETag, ranges and a name', async ({ page }) => {
  const bytes = Buffer.concat([Buffer.from([0, 255, 13, 10]), Buffer.alloc(700_000, 'quillmere')]);
  const id = await makeDrawing(page, bytes.toString('latin1'), 'Übersicht.dat');
  const [version] = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as {
    id: string;
    sha256: string;
    size: number;
  }[];
  const sent = Buffer.from(bytes.toString('latin1'));
  const url = `/api/v1/versions/${version!.id}/content`;
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /^Download v1/ }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Übersicht v1.dat');
  const whole = await page.request.get(url);
  expect(Buffer.compare(await whole.body(), sent)).toBe(0);
  expect(whole.headers()).toMatchObject({
    'content-length': String(sent.length),
    etag: `"${createHash('sha256').update(sent).digest('hex')}"`,
    'accept-ranges': 'bytes',
  });
  const part = await page.request.get(url, { headers: { range: 'bytes=100000-100099' } });
  expect(part.status()).toBe(206);
  expect(part.headers()['content-range']).toBe(`bytes 100000-100099/${sent.length}`);
  expect(Buffer.compare(await part.body(), sent.subarray(100_000, 100_100))).toBe(0);
  expect((await page.request.get(url, { headers: { 'if-none-match': whole.headers()['etag']! } })).status()).toBe(304);
  expect((await page.request.get(url, { headers: { range: 'bytes=99999999-' } })).status()).toBe(416);
});

test('an upload that is cut in the middle leaves nothing', async ({ page, baseURL }) => {
  const id = await makeDrawing(page, first);
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ');
  const { hostname, port } = new URL(baseURL!);
  const head = '--cut\r\ncontent-disposition: form-data; name="file"; filename="pier.svg"\r\n\r\n';
  await new Promise<void>((resolve) => {
    const socket = connect(Number(port), hostname, () => {
      socket.write(
        `POST /api/v1/files/${id}/versions HTTP/1.1\r\nhost: ${hostname}:${port}\r\ncookie: ${cookie}\r\ncontent-type: multipart/form-data; boundary=cut\r\ncontent-length: 5000000\r\n\r\n${head}`,
      );
      socket.write(Buffer.alloc(400_000, second));
      setTimeout(() => {
        socket.destroy();
        resolve();
      }, 300);
    });
  });
  await page.waitForTimeout(500);
  expect(((await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as unknown[]).length).toBe(1);
  // A form that ends before its last boundary is not complete either.
  const short = await page.request.post(`/api/v1/files/${id}/versions`, {
    headers: { 'content-type': 'multipart/form-data; boundary=cut' },
    data: Buffer.from(`${head}${second.slice(0, 60)}`),
  });
  expect(short.status()).toBe(400);
  expect(((await short.json()) as { detail: string }).detail).toContain('broke off');
  await addVersion(page, id, second);
});

test('hostile drawings are shown as pictures: nothing runs, nothing is fetched', async ({ page }) => {
  const asked: string[] = [];
  await page.route('**/*', (route) => {
    if (route.request().url().includes('spy')) asked.push(route.request().url());
    return route.continue();
  });
  const id = await makeDrawing(
    page,
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 100 100" onload="parent.hacked=1">
    <script>window.hacked = 1; parent.hacked = 1; fetch('/spy-script')</script><style>@import url(/spy-style); rect { fill: url(/spy-fill#a) }</style>
    <image href="/spy-image" width="9" height="9"/><use xlink:href="/spy-use#x"/><foreignObject width="50" height="50"><body xmlns="http://www.w3.org/1999/xhtml"><img src="/spy-img" onerror="parent.hacked=1"/><iframe src="/spy-frame"/></body></foreignObject>
    <rect id="r" width="50" height="50" onclick="hacked=1"/></svg>`,
  );
  await expect(page.locator('canvas')).toHaveAttribute('data-ready', 'true');
  await expect(page.getByText(/carries 1 script\. Ovrel keeps them in the file and never runs them/)).toBeVisible();
  await page.locator('canvas').click({ position: { x: 300, y: 200 } });
  const [version] = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as { id: string }[];
  const view = await page.request.get(`/api/v1/versions/${version!.id}/view`);
  expect(view.headers()).toMatchObject({
    'content-security-policy': expect.stringContaining("default-src 'none'") as unknown as string,
    'x-content-type-options': 'nosniff',
  });
  expect(await page.evaluate(() => (window as { hacked?: number }).hacked)).toBeUndefined();
  // Opened by itself, the policy keeps it from doing anything either.
  const alone = await page.context().newPage();
  await alone.route('**/*', (route) => {
    if (route.request().url().includes('spy')) asked.push(route.request().url());
    return route.continue();
  });
  await alone.goto(`/api/v1/versions/${version!.id}/view`);
  await alone.waitForTimeout(400);
  expect(await alone.evaluate(() => (window as { hacked?: number }).hacked)).toBeUndefined();
  expect(asked).toEqual([]);
});

const bad: [string, string | Buffer, RegExp][] = [
  ['words that say they are a drawing', 'only words', /The name says SVG drawing, but its content is plain text/],
  [
    'a picture that says it is a drawing',
    Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'),
    /its content is a PNG picture/,
  ],
  ['a truncated drawing', second.slice(0, 130), /stops in the middle of <rect>/],
  ['an empty file', '', /The file is empty/],
  [
    'an entity bomb',
    '<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>',
    /does not expand them/,
  ],
];
for (const [what, content, sentence] of bad) {
  test(`bad input is kept and told in a sentence: ${what}`, async ({ page }) => {
    const id = await makeDrawing(page, first);
    await page.getByRole('button', { name: 'Check in a new version' }).click();
    await page.getByLabel('File', { exact: true }).setInputFiles(file('pier.svg', content));
    await page.getByRole('button', { name: 'Check in as v2' }).click();
    const ask = page.getByRole('button', { name: 'Check it in all the same' });
    const done = page.getByRole('status').filter({ hasText: 'Checked in as v2.' });
    await expect(ask.or(done)).toBeVisible();
    if (await ask.isVisible()) await ask.click();
    await expect(done).toBeVisible();
    await expect(page.getByRole('note').filter({ hasText: sentence })).toBeVisible();
    const versions = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as { id: string }[];
    expect(
      Buffer.compare(
        await (await page.request.get(`/api/v1/versions/${versions[1]!.id}/content`)).body(),
        Buffer.from(content),
      ),
    ).toBe(0);
    await page.keyboard.press('c');
    await expect(page.getByRole('heading', { name: 'What changed' })).toBeVisible();
    await expect(page.getByText(/Compared (line by line|byte by byte)/).first()).toBeVisible();
  });
}

test('the demo steps through versions by click, keys and address, and says which is not the newest', async ({
  page,
}) => {
  await openFile(page, 'wayfinding-signs.svg');
  await expect(page.getByText('the newest version')).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expectShown(page, 8);
  await expect(page).toHaveURL(/\?v=[0-9a-f-]{36}$/);
  await expect(page.getByText('This is not the newest version.')).toBeVisible();
  await visit(page, 6);
  await expect(page.getByRole('region', { name: 'About this version' }).getByText('Tidied up layers')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('region', { name: 'About this version' }).getByText('Tidied up layers')).toBeVisible();
  await stop(page, 3).locator('.hit').hover();
  await expect(page.getByRole('tooltip')).toContainText('Darker ground');
  await expect(page.getByRole('tooltip')).toContainText('Tobias Renn');
  await page.getByRole('button', { name: 'Go to v9, the newest' }).click();
  await expect(page.getByText('Frame and lettering for engraving')).toBeVisible();
});

test('a check-in whose answer is lost on its way is sent again by itself, and makes one version', async ({ page }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, drawing('<rect width="9" height="9"/>'), 'lost.svg');
  await page.goto(`/files/${id}`);
  let sent = 0;
  await page.route(`**/api/v1/files/${id}/versions`, async (route) => {
    if (route.request().method() !== 'POST') return route.fallback();
    sent += 1;
    if (sent > 1) return route.continue();
    // It lands, and nobody hears of it.
    expect((await route.fetch()).status()).toBe(201);
    return route.abort('connectionreset');
  });
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  const dialog = page.getByRole('dialog');
  const buffer = Buffer.from(drawing('<rect width="19" height="9"/>'));
  await dialog.getByLabel('File').setInputFiles({ name: 'lost.svg', mimeType: 'image/svg+xml', buffer });
  await dialog.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByText('Checked in as v2.')).toBeVisible();
  expect(sent).toBe(2);
  const versions = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as unknown[];
  expect(versions).toHaveLength(2);
});
