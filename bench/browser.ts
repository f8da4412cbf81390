/**
 * What a person waits for in the browser: the first overlay after a marker is dropped, and the weight of the file
 * page.
 */
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { dragMarker, openFile, signIn } from '../e2e/support.ts';
import { line, median, ms } from './measure.ts';
import type { Target } from './target.ts';

export async function benchBrowser(target: Target): Promise<void> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: target.address });
    const scripts = new Map<string, number>();
    await signIn(page, 'tobias');
    await openFile(page, 'wayfinding-signs.svg');
    const address = page.url();
    // The scripts that the page itself names; the viewer's are asked for later.
    const fresh = await browser.newPage({ baseURL: target.address });
    await fresh.context().addCookies((await page.context().cookies()).map((c) => c));
    const html = await (await fresh.request.get(address)).text();
    for (const [, source] of html.matchAll(/<script[^>]+src="([^"]+)"/g)) {
      const body = await (await fresh.request.get(source as string)).body();
      scripts.set(source as string, gzipSync(body).length);
    }
    const weight = [...scripts.values()].reduce((a, b) => a + b, 0);
    line(
      'script of the file page before the viewer, gzipped',
      `${Math.round(weight / 1000)} kB`,
      `goal < 300 kB; ${scripts.size} files`,
    );
    const waits: number[] = [];
    for (const number of [8, 7, 6, 5, 4, 3]) {
      await page.goto(address);
      await page.waitForSelector('canvas[data-ready=true]');
      await page.evaluate(() => {
        const w = window as unknown as { dropped: number; drawn: number };
        w.drawn = 0;
        addEventListener(
          'pointerup',
          () => {
            w.dropped = performance.now();
            const look = (): void => {
              const canvas = document.querySelector('canvas[aria-label$="Overlay"][data-ready="true"]');
              if (canvas)
                requestAnimationFrame(() => {
                  w.drawn = performance.now();
                });
              else requestAnimationFrame(look);
            };
            look();
          },
          { once: true, capture: true },
        );
      });
      await dragMarker(page, 'A', number);
      await page.waitForFunction(() => (window as unknown as { drawn: number }).drawn > 0);
      waits.push(
        await page.evaluate(
          () =>
            (window as unknown as { dropped: number; drawn: number }).drawn -
            (window as unknown as { dropped: number }).dropped,
        ),
      );
    }
    line(
      'from marker drop to first overlay, wayfinding signs, median of six',
      ms(median(waits)),
      `slowest ${ms(Math.max(...waits))}; new comparisons among them`,
    );
  } finally {
    await browser.close();
  }
}
