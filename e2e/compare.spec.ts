import {
  addVersion,
  causesOf,
  dragMarker,
  drawing,
  expect,
  expectShown,
  makeDrawing,
  marker,
  openFile,
  ready,
  shareOf,
  signIn,
  stop,
  test,
  visit,
} from './support.ts';

const AMBER = [180, 83, 9] as const;
const TEAL = [15, 118, 110] as const;
const VIOLET = [109, 40, 217] as const;
const BLUE = [29, 78, 216] as const;

const before =
  drawing(`<g data-name="Deck"><rect id="deck" x="40" y="60" width="160" height="60" fill="#777"/><rect id="hut" x="250" y="60" width="60" height="60" fill="#777"/></g>
  <g data-name="Signs"><text id="name" x="40" y="200" font-size="24">Pier one</text><rect id="post" x="300" y="200" width="20" height="40" fill="#222"/></g>`);
const after =
  drawing(`<g data-name="Deck"><rect id="deck" x="40" y="60" width="160" height="60" fill="#aa7744"/><rect id="ramp" x="150" y="230" width="80" height="30" fill="#777"/></g>
  <g data-name="Signs"><text id="name" x="40" y="200" font-size="24">Pier two</text><rect id="post" x="340" y="200" width="20" height="40" fill="#222"/></g>`);

test.beforeEach(async ({ page }) => signIn(page, 'tobias'));

test('dragging the markers apart compares; the list says what changed of each part', async ({ page }) => {
  const id = await makeDrawing(page, before);
  await addVersion(page, id, after);
  await page.reload();
  await dragMarker(page, 'A', 1);
  await expect(page.getByRole('heading', { name: 'What changed' })).toBeVisible();
  await expectShown(page, 1, 2);
  const changes = page.getByRole('list', { name: 'Changes' }).getByRole('button');
  await expect(changes).toHaveCount(5);
  await expect(changes.filter({ hasText: 'rectangle deck' })).toContainText('fill: #777777 → #aa7744');
  await expect(changes.filter({ hasText: 'Pier two' })).toContainText('text: Pier one → Pier two');
  await expect(changes.filter({ hasText: 'post' })).toContainText('by (40, 0)');
  await expect(changes.filter({ hasText: 'hut' }).getByLabel('only in A')).toBeVisible();
  await expect(changes.filter({ hasText: 'ramp' }).getByLabel('only in B')).toBeVisible();
  const chips = page.getByRole('group', { name: 'Kinds of change' });
  await expect(chips.getByRole('button')).toHaveText([/only in B 1/, /only in A 1/, /changed 2/, /moved 1/]);
  await chips.getByRole('button', { name: /changed/ }).click();
  await expect(changes).toHaveCount(3);
  await page.getByLabel('Layer').selectOption('Signs (2)');
  await expect(changes).toHaveCount(1);
  await page.getByLabel('Layer').selectOption('*');
  await page.getByRole('button', { name: 'Swap A and B' }).click();
  await expect(changes.filter({ hasText: 'hut' }).getByLabel('only in B')).toBeVisible();
  await page.getByRole('button', { name: 'Leave comparison' }).click();
  await expect(page.getByRole('region', { name: 'About this version' })).toBeVisible();
});

test('a drawing that another program saved anew has one cause, which says that it is drawn the same', async ({
  page,
}) => {
  const id = await makeDrawing(page, before);
  const anew = drawing(`<path d="M40 60h160v60H40zM250 60h60v60h-60z" fill="#777"/>
    <text x="40" y="200" font-size="24">Pier one</text><path d="M300 200h20v40h-20z" fill="#222"/>`);
  await addVersion(page, id, anew);
  await page.reload();
  await dragMarker(page, 'A', 1);
  await expect(causesOf(page)).toHaveText([/Written otherwise, drawn the same: \d+ parts; no groups any more/]);
  await addVersion(page, id, anew.replace('#222', '#d22'));
  await page.goto(`/files/${id}?a=1&b=3`);
  await expect(causesOf(page)).toHaveText([/#222222 → #dd2222/, /Written otherwise, drawn the same/]);
});

test('every way to look draws what it promises', async ({ page }) => {
  const id = await makeDrawing(page, before);
  await addVersion(page, id, after);
  await page.goto(`/files/${id}?a=1&b=2`);
  await ready(page);
  const canvas = page.locator('canvas');
  for (const colour of [AMBER, TEAL, VIOLET, BLUE])
    await expect
      .poll(() => shareOf(canvas, colour), { message: `overlay has ${colour.join()}` })
      .toBeGreaterThan(0.0004);
  expect(await shareOf(canvas, [0x22, 0x22, 0x22])).toBeLessThan(0.001);
  await page.keyboard.press('2');
  await expect(page.locator('.ov-tag.is-a')).toBeVisible();
  await expect.poll(() => shareOf(canvas, [0x22, 0x22, 0x22])).toBeGreaterThan(0.001);
  await page.keyboard.press('3');
  const deckColours = async (): Promise<[number, number]> => [
    await shareOf(canvas, [0x77, 0x77, 0x77]),
    await shareOf(canvas, [0xaa, 0x77, 0x44]),
  ];
  await page.getByRole('slider', { name: 'Curtain between A and B' }).focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await deckColours())[1]).toBeGreaterThan(0.02);
  for (let i = 0; i < 40; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await deckColours())[1]).toBeLessThan(0.001);
  expect((await deckColours())[0]).toBeGreaterThan(0.02);
  await page.keyboard.press('4');
  await expect(page.locator('.ov-tag')).toHaveText('A v1');
  await expect(page.locator('.ov-tag')).toHaveText('B v2');
  await page.keyboard.press('5');
  await expect.poll(() => shareOf(canvas, VIOLET)).toBeGreaterThan(0.0004);
  await expect(page).toHaveURL(/look=only/);
  await expect(page.getByLabel('Legend')).toContainText('only in A, dashed');
});

test('choosing a change flies to it, by list, keys and a click on the drawing', async ({ page }) => {
  const id = await makeDrawing(page, before);
  await addVersion(page, id, after);
  await page.goto(`/files/${id}?a=1&b=2&look=only`);
  await ready(page);
  const canvas = page.locator('canvas');
  const chosen = page.locator('.ov-changes [aria-current="true"]');
  const whole = await shareOf(canvas, TEAL);
  await page.getByRole('list', { name: 'Changes' }).getByRole('button').filter({ hasText: 'ramp' }).click();
  await expect.poll(() => shareOf(canvas, TEAL)).toBeGreaterThan(whole * 1.5);
  await page.keyboard.press('n');
  await expect(chosen).not.toContainText('ramp');
  await page.keyboard.press('p');
  await expect(chosen).toContainText('ramp');
  await page.keyboard.press('0');
  await page.waitForTimeout(700);
  // The hut, only in A, stands at 250..310 × 60..120 of a page of 400 × 300.
  const box = (await canvas.boundingBox())!;
  const scale = Math.min((box.width - 56) / 400, (box.height - 56) / 300);
  await canvas.click({ position: { x: box.width / 2 + (280 - 200) * scale, y: box.height / 2 + (90 - 150) * scale } });
  await expect(chosen).toContainText('hut');
});

test('wheel, drag and keys move the view', async ({ page }) => {
  await makeDrawing(page, before);
  await ready(page);
  const canvas = page.locator('canvas');
  const grey = (): Promise<number> => shareOf(canvas, [0x77, 0x77, 0x77]);
  await expect.poll(grey).toBeGreaterThan(0.02);
  const whole = await grey();
  const box = (await canvas.boundingBox())!;
  const scale = Math.min((box.width - 56) / 400, (box.height - 56) / 300);
  await page.mouse.move(box.x + box.width / 2 - 80 * scale, box.y + box.height / 2 - 60 * scale);
  await page.mouse.wheel(0, -600);
  await expect.poll(grey).toBeGreaterThan(whole * 2);
  await page.keyboard.press('0');
  await expect.poll(grey).toBeCloseTo(whole, 2);
  await page.keyboard.press('-');
  await page.keyboard.press('-');
  await expect.poll(grey).toBeLessThan(whole * 0.6);
  const small = await grey();
  await page.mouse.move(box.x + 300, box.y + 200);
  await page.mouse.down();
  await page.mouse.move(box.x + 300, box.y + 2000, { steps: 5 });
  await page.mouse.up();
  await expect.poll(grey).toBeLessThan(small);
});

test('two fingers pull the drawing closer', async ({ page }) => {
  await makeDrawing(page, before);
  await ready(page);
  const canvas = page.locator('canvas');
  const grey = (): Promise<number> => shareOf(canvas, [0x77, 0x77, 0x77]);
  await expect.poll(grey).toBeGreaterThan(0.02);
  const whole = await grey();
  const box = (await canvas.boundingBox())!;
  const touch = await page.context().newCDPSession(page);
  await touch.send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 2 });
  const x = box.x + box.width / 2 - 80;
  const y = box.y + box.height / 2 - 60;
  const fingers = (apart: number) => [
    { x: x - apart, y, id: 1 },
    { x: x + apart, y, id: 2 },
  ];
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(20) });
  for (let apart = 25; apart <= 60; apart += 5)
    await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(apart) });
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await expect.poll(grey).toBeGreaterThan(whole * 2);
});

test('side by side, both halves move together', async ({ page }) => {
  const id = await makeDrawing(page, before);
  await addVersion(page, id, before.replace('Pier one', 'Pier two'));
  await page.goto(`/files/${id}?a=1&b=2&look=side`);
  await ready(page);
  const canvas = page.locator('canvas');
  /** Share of the deck's grey in the left and in the right half. */
  const halves = (): Promise<[number, number]> =>
    canvas.evaluate((el) => {
      const c = el as HTMLCanvasElement;
      const { width, height } = c;
      const { data } = c.getContext('2d')!.getImageData(0, 0, width, height);
      const sum: [number, number] = [0, 0];
      for (let i = 0; i < data.length; i += 4)
        if (Math.abs(data[i]! - 0x77) + Math.abs(data[i + 1]! - 0x77) + Math.abs(data[i + 2]! - 0x77) < 20)
          sum[(i / 4) % width < width / 2 ? 0 : 1]++;
      return [sum[0] / (width * height), sum[1] / (width * height)];
    });
  await expect.poll(async () => (await halves())[1]).toBeGreaterThan(0.01);
  const [left, right] = await halves();
  expect(Math.abs(left - right)).toBeLessThan(left * 0.1);
  const box = (await canvas.boundingBox())!;
  // Over the right half, on the deck.
  await page.mouse.move(box.x + box.width * 0.7, box.y + box.height * 0.42);
  await page.mouse.wheel(0, -500);
  await expect.poll(async () => (await halves())[0]).toBeGreaterThan(left * 1.5);
  const [zoomedLeft, zoomedRight] = await halves();
  expect(Math.abs(zoomedLeft - zoomedRight)).toBeLessThan(zoomedLeft * 0.1);
});

test('the markers work by keyboard alone', async ({ page }) => {
  await openFile(page, 'wayfinding-signs.svg');
  await marker(page, 'A').focus();
  await page.keyboard.press('ArrowLeft');
  await expectShown(page, 8, 9);
  await page.keyboard.press('ArrowLeft');
  await expect(marker(page, 'A')).toHaveAttribute('aria-valuetext', 'v7');
  await marker(page, 'B').focus();
  await page.keyboard.press('ArrowLeft');
  await expectShown(page, 7, 8);
  await expect(causesOf(page).filter({ hasText: 'moved' }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expectShown(page, 8);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('Compare with the version before');
});

test('the destructive edit of the demo is plain to see, and is brought forward from before', async ({ page }) => {
  await openFile(page, 'wayfinding-signs.svg');
  await visit(page, 6);
  await page.keyboard.press('c');
  await expect(causesOf(page).filter({ hasText: 'removed' }).first()).toBeVisible();
  await expect(page.getByRole('group', { name: 'Kinds of change' })).toContainText('only in A 54');
  await page.keyboard.press('Escape');
  await visit(page, 5);
  await page.getByRole('button', { name: 'Bring v5 forward' }).click();
  await expect(
    page.getByText('The content of v5 becomes v10, the newest version. v6 to v9 stay in the history'),
  ).toBeVisible();
  await page.getByLabel('Why').fill('the maker wants the old frame');
  await page.getByRole('button', { name: 'Bring v5 forward as v10' }).click();
  await expect(page.getByText('v5 was brought forward as v10. Nothing was removed.')).toBeVisible();
  await expect(page.getByText('Brought forward from v5: the maker wants the old frame')).toBeVisible();
  await expect(page.getByRole('img', { name: 'v10 goes on from v5' })).toBeVisible();
  for (const n of [6, 7, 8, 9, 10]) await expect(stop(page, n)).toBeVisible();
});

test('text is compared line by line, with words marked', async ({ page }) => {
  await openFile(page, 'method-statement.md');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('v2 Check-in')).toBeVisible();
  await page.keyboard.press('c');
  await expect(page.getByText('Compared line by line')).toBeVisible();
  await expect(page.locator('.ov-text mark').filter({ hasText: /^6$/ })).toBeVisible();
  await page.getByRole('button', { name: 'Changes only' }).click();
  await expect(page.locator('.ov-text')).not.toContainText('Method statement');
  await page.getByRole('button', { name: 'Side by side' }).click();
  await expect(page.locator('.ov-text')).toContainText('Method statement');
});

test('a file without a reader is compared by bytes, and says so', async ({ page }) => {
  const id = await makeDrawing(page, '\0soundings of last year', 'echo.bin');
  await addVersion(page, id, '\0soundings of this year', 'echo.bin');
  await page.goto(`/files/${id}`);
  await page.keyboard.press('c');
  await expect(page.getByText('Ovrel has no reader for this kind of file')).toBeVisible();
  await expect(page.getByText(/The first difference is at offset \d/)).toBeVisible();
});

test('a real drawing saved with other ids shows no change', async ({ page }) => {
  await openFile(page, 'lighthouse.svg');
  await page.keyboard.press('c');
  await expect(causesOf(page)).toHaveText(['Everything renumbered, nothing else']);
  await page.keyboard.press('Escape');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('c');
  await expect(causesOf(page).first()).toHaveText(/fill /);
});
