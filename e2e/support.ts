/** What the tests share: signing in, files to send, and the addresses of the demo. */
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import pg from 'pg';
import { demoPassword } from '../demo/people.ts';

/** Goes on once a page does what it is asked to: keys and clicks of before are lost. */
const awake = (page: Page): Promise<void> => page.locator('html[data-awake]').waitFor({ state: 'attached' });

const waiting = new WeakSet<Page>();

/** Every page that is gone to is waited for until it is awake. */
function waitAlways(page: Page): void {
  if (waiting.has(page)) return;
  waiting.add(page);
  const goTo = page.goto.bind(page);
  page.goto = async (...given) => {
    const answer = await goTo(...given);
    const isPage = answer?.headers()['content-type']?.startsWith('text/html') ?? false;
    if (isPage && !new URL(page.url()).pathname.startsWith('/api/')) await awake(page);
    return answer;
  };
  const again = page.reload.bind(page);
  page.reload = async (...given) => {
    const answer = await again(...given);
    await awake(page);
    return answer;
  };
}

export const test = base.extend<{ trouble: string[] }>({
  page: async ({ page }, use) => {
    waitAlways(page);
    await use(page);
  },
  // No page may throw or complain while a test runs.
  trouble: [
    async ({ page }, use) => {
      const trouble: string[] = [];
      page.on('pageerror', (error) => trouble.push(error.message));
      page.on('console', (message) => {
        if (message.type() === 'error' && !/Failed to load resource/.test(message.text())) trouble.push(message.text());
      });
      await use(trouble);
      expect(trouble).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export async function signIn(page: Page, who: string): Promise<void> {
  waitAlways(page);
  await page.goto('/sign-in');
  await page.getByLabel('E-mail address').fill(`${who}@quillmere.example`);
  await page.getByLabel('Password').fill(demoPassword);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Projects' })).toBeVisible();
}

/** Opens a demo file by finding its name. */
export async function openFile(page: Page, name: string): Promise<void> {
  await page.getByRole('combobox', { name: 'Find a file' }).fill(name);
  await page.getByRole('option').filter({ hasText: name }).first().click();
  await expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
  await expect(page.locator('.ov-canvas, .ov-text, .ov-tables, .ov-bytes').first()).toBeVisible();
}

/** What a comparison says was done, heaviest first. */
export const causesOf = (page: Page): Locator => page.getByRole('list', { name: 'Causes' }).locator('> li > button');

let counter = 0;

/** A project of the test's own, with one drawing; gives the address of the drawing. */
export async function makeDrawing(page: Page, content: string, name = 'pier.svg'): Promise<string> {
  const project = await post<{ id: string }>(page, '/projects', { name: `Test ${Date.now()} ${++counter}` });
  const answer = await page.request.post(`/api/v1/projects/${project.id}/files`, {
    multipart: { note: 'first', file: { name, mimeType: 'image/svg+xml', buffer: Buffer.from(content) } },
  });
  expect(answer.status()).toBe(201);
  const { file } = (await answer.json()) as { file: { id: string } };
  await page.goto(`/files/${file.id}`);
  await expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
  return file.id;
}

export async function post<T>(page: Page, path: string, data: unknown): Promise<T> {
  const answer = await page.request.post(`/api/v1${path}`, { data });
  expect(answer.ok(), await answer.text()).toBe(true);
  return (await answer.json()) as T;
}

export const addVersion = async (page: Page, fileId: string, content: string, name = 'pier.svg'): Promise<void> => {
  const answer = await page.request.post(`/api/v1/files/${fileId}/versions`, {
    multipart: { note: '', file: { name, mimeType: 'image/svg+xml', buffer: Buffer.from(content) } },
  });
  expect(answer.status()).toBe(201);
};

export const drawing = (inner: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300" width="400mm" height="300mm">${inner}</svg>`;

export const ready = (page: Page): Promise<void> =>
  expect(page.locator('canvas')).toHaveAttribute('data-ready', 'true');

/** Share of the canvas's pixels whose colour is near the given one. */
export async function shareOf(canvas: Locator, [r, g, b]: readonly [number, number, number]): Promise<number> {
  return canvas.evaluate(
    (el, [R, G, B]) => {
      const c = el as HTMLCanvasElement;
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      let hits = 0;
      for (let i = 0; i < data.length; i += 4)
        if (
          Math.abs(data[i]! - R!) + Math.abs(data[i + 1]! - G!) + Math.abs(data[i + 2]! - B!) < 36 &&
          data[i + 3]! > 200
        )
          hits++;
      return hits / (data.length / 4);
    },
    [r, g, b],
  );
}

export const marker = (page: Page, name: 'A' | 'B'): Locator => page.getByRole('slider', { name: `Marker ${name}` });
export const stop = (page: Page, number: number): Locator =>
  page.getByRole('button', { name: new RegExp(`^v${number}, `) });

/** Goes to a version by clicking its glyph on the rail. */
export const visit = (page: Page, number: number): Promise<void> => stop(page, number).locator('.hit').click();

/** Drags a marker of the rail to a version, with the mouse. */
export async function dragMarker(page: Page, name: 'A' | 'B', number: number): Promise<void> {
  const from = (await marker(page, name).locator('rect').boundingBox())!;
  const to = (await stop(page, number).locator('.hit').boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, from.y, { steps: 4 });
  await page.mouse.move(to.x + to.width / 2, from.y + 10, { steps: 4 });
  await page.mouse.up();
}

/** Waits until the markers stand at these versions. */
export async function expectShown(page: Page, a: number, b = a): Promise<void> {
  await expect(marker(page, 'A')).toHaveAttribute('aria-valuetext', `v${a}`);
  await expect(marker(page, 'B')).toHaveAttribute('aria-valuetext', `v${b}`);
}

/** For what only time, or damage, can bring about. */
export const sql = async (text: string, values: unknown[] = []): Promise<pg.QueryResult<Record<string, string>>> => {
  const client = new pg.Client({ connectionString: process.env['OVREL_E2E_DATABASE'] });
  await client.connect();
  try {
    return await client.query(text, values);
  } finally {
    await client.end();
  }
};

/** How many pixels a page is wider than its window. */
export const beyond = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
