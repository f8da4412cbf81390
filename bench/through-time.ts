/**
 * Versions through time: how soon the next picture is there when it was fetched ahead, of 200 versions of a drawing of
 * 10,000 parts; and whether a rail with 10,000 autosaves in 400 sittings keeps up with the screen.
 */
import { chromium, type Browser, type Page } from '@playwright/test';
import pg from 'pg';
import { signIn } from '../e2e/support.ts';
import { line, median, ms } from './measure.ts';
import type { Target } from './target.ts';

const VERSIONS = 200;
const PARTS = 10_000;
const SAVES = 10_000;
const SITTINGS = 400;
/** Between two keys, in milliseconds: as fast as one looks at a picture. */
const LOOK = 500;
/** Pictures that are kept once they were fetched, and a few less. */
const FETCHED = 60;

const drawing = (version: number): Blob => {
  const rows = Array.from({ length: PARTS }, (_, k) => {
    const shift = k % VERSIONS < version ? 3 : 0;
    return `<rect id="p${k}" x="${(k % 100) * 10 + shift}" y="${Math.floor(k / 100) * 10}" width="6" height="6" fill="#36454f"/>`;
  });
  return new Blob([`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000">\n${rows.join('\n')}\n</svg>\n`]);
};

interface Made {
  readonly id: string;
  readonly newest: { readonly id: string };
}

async function newFile(target: Target, projectId: string, name: string): Promise<Made> {
  const form = new FormData();
  form.set('note', '');
  form.set('file', drawing(0), name);
  return ((await target.send(`/projects/${projectId}/files`, form)) as { file: Made }).file;
}

export async function benchThroughTime(target: Target, databaseUrl: string): Promise<void> {
  const project = (await target.json('/projects', 'POST', { name: `Through time ${Date.now()}` })) as { id: string };
  await target.json(`/projects/${project.id}`, 'PATCH', { savesCount: true });
  const stepped = await newFile(target, project.id, 'deck.svg');
  let base = stepped.newest.id;
  for (let version = 1; version < VERSIONS; version++) {
    const form = new FormData();
    form.set('note', `Row ${version} moved`);
    form.set('base', base);
    form.set('file', drawing(version), 'deck.svg');
    base = ((await target.send(`/files/${stepped.id}/versions`, form)) as { version: { id: string } }).version.id;
  }
  const saved = await newFile(target, project.id, 'saves.svg');
  await manySaves(databaseUrl, saved.id);
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  try {
    await steps(browser, target, stepped.id);
    await frames(browser, target, saved.id);
  } finally {
    await browser.close();
  }
}

/** Autosaves of one content, 25 a sitting, a minute apart; sittings are two hours apart. */
async function manySaves(databaseUrl: string, fileId: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const each = SAVES / SITTINGS;
  await client
    .query(
      `
      insert into version (file_id, line_id, number, content_id, kind, note, upload_name, made_by, made_at)
      select v.file_id, v.line_id, n + 1, v.content_id, 'autosave', '', v.upload_name, v.made_by,
        v.made_at - interval '3000 hours' + (n / $2) * interval '2 hours' + (n % $2) * interval '1 minute'
      from version v, generate_series(1, $3::int) n where v.file_id = $1`,
      [fileId, each, SAVES],
    )
    .finally(() => client.end());
}

async function opened(browser: Browser, target: Target, fileId: string): Promise<Page> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: target.address });
  await signIn(page, 'tobias');
  await page.goto(`/files/${fileId}`);
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor();
  return page;
}

async function steps(browser: Browser, target: Target, fileId: string): Promise<void> {
  const page = await opened(browser, target, fileId);
  await page.keyboard.press('v');
  const canvas = page.locator('.ov-film canvas');
  await canvas.and(page.locator(`[data-shows="v${VERSIONS}"]`)).waitFor({ timeout: 120_000 });
  const first: number[] = [];
  for (let number = VERSIONS - 1; number > 0; number--) {
    await page.waitForTimeout(LOOK);
    first.push(await stepTo(page, 'ArrowLeft', `v${number}`));
  }
  const again: number[] = [];
  for (let number = 2; number <= FETCHED; number++) again.push(await stepTo(page, 'ArrowRight', `v${number}`));
  const what = `a step through versions of ${PARTS.toLocaleString('en')} parts`;
  line(`${what}, fetched ahead, p95`, ms(p95(again)), `goal < 100 ms; median ${ms(median(again))}`);
  line(
    `${what}, never drawn before, ${LOOK} ms apart, p95`,
    ms(p95(first)),
    `median ${ms(median(first))}, slowest ${ms(Math.max(...first))}`,
  );
  await page.close();
}

const p95 = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[Math.floor(values.length * 0.95)] ?? NaN;

/** From the key to the frame in which the picture is drawn. */
const stepTo = (page: Page, key: string, shows: string): Promise<number> =>
  page.evaluate(
    ([pressed, wanted]) =>
      new Promise<number>((done) => {
        const begun = performance.now();
        const look = (): void => {
          const shown = document.querySelector<HTMLElement>('.ov-film canvas');
          if (shown?.dataset['shows'] === wanted) done(performance.now() - begun);
          else requestAnimationFrame(look);
        };
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key: pressed, bubbles: true }));
        look();
      }),
    [key, shows] as const,
  );

async function frames(browser: Browser, target: Target, fileId: string): Promise<void> {
  const page = await opened(browser, target, fileId);
  const times = await page.evaluate(
    () =>
      new Promise<number[]>((done) => {
        const rail = document.querySelector('.ov-rail-scroll') as HTMLElement;
        rail.scrollLeft = rail.scrollWidth;
        const found: number[] = [];
        let last = performance.now();
        const next = (now: number): void => {
          found.push(now - last);
          last = now;
          rail.scrollLeft -= 120;
          if (found.length < 150) requestAnimationFrame(next);
          else done(found.slice(10));
        };
        requestAnimationFrame(next);
      }),
  );
  line(
    `rail of ${SAVES.toLocaleString('en')} autosaves in ${SITTINGS} sittings: a frame while scrolling, median`,
    ms(median(times)),
    `goal 17 ms; p95 ${ms(p95(times))}, 120 pixels a frame`,
  );
  await page.close();
}
