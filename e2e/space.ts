/** What the tests of models share: files of them, and what is seen on their canvas. */
import type { Locator, Page } from '@playwright/test';
import { expect, post } from './support.ts';

let counter = 0;

/** A file with these versions, in a project of its own; gives its id. */
export async function modelFile(page: Page, name: string, ...versions: readonly Uint8Array[]): Promise<string> {
  const project = await post<{ id: string }>(page, '/projects', { name: `Models ${Date.now()} ${++counter}` });
  let id = '';
  for (const bytes of versions) {
    const file = { name, mimeType: 'application/octet-stream', buffer: Buffer.from(bytes) };
    const path = id ? `/files/${id}/versions` : `/projects/${project.id}/files`;
    const answer = await page.request.post(`/api/v1${path}`, { multipart: { note: '', file } });
    expect(answer.status()).toBe(201);
    if (!id) id = ((await answer.json()) as { file: { id: string } }).file.id;
  }
  return id;
}

export const canvas = (page: Page): Locator => page.locator('.ov-viewer canvas');
export const isDrawn = (page: Page): Promise<void> => expect(canvas(page)).toHaveAttribute('data-drawn', 'true');
export const picture = (page: Page): Promise<string> =>
  canvas(page).evaluate((element) => (element as HTMLCanvasElement).toDataURL());

/** How many pixels of the canvas are of a colour, `slack` of each channel aside. */
export const pixelsLike = (page: Page, [r, g, b]: readonly [number, number, number], slack = 40): Promise<number> =>
  canvas(page).evaluate(
    (element, { wanted, most }) => {
      const copy = document.createElement('canvas');
      const { width, height } = element as HTMLCanvasElement;
      [copy.width, copy.height] = [width, height];
      const context = copy.getContext('2d')!;
      context.drawImage(element as HTMLCanvasElement, 0, 0);
      const { data } = context.getImageData(0, 0, width, height);
      let found = 0;
      for (let k = 0; k < data.length; k += 4) {
        const off = wanted.map((value, c) => Math.abs(value - data[k + c]!));
        if (Math.max(...off) < most) found++;
      }
      return found;
    },
    { wanted: [r, g, b] as const, most: slack },
  );

/** Where the canvas shows anything but its ground, in CSS pixels. */
export const extentOf = (
  canvasElement: Locator,
): Promise<{ left: number; top: number; right: number; bottom: number }> =>
  canvasElement.evaluate((element) => {
    const shown = element as HTMLCanvasElement;
    const copy = document.createElement('canvas');
    [copy.width, copy.height] = [shown.width, shown.height];
    const context = copy.getContext('2d')!;
    context.drawImage(shown, 0, 0);
    const { data } = context.getImageData(0, 0, shown.width, shown.height);
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let k = 0; k < data.length; k += 4) {
      if (data[k]! + data[k + 1]! + data[k + 2]! > 720) continue;
      const [x, y] = [(k / 4) % shown.width, Math.floor(k / 4 / shown.width)];
      [left, right] = [Math.min(left, x), Math.max(right, x)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
    }
    const scale = shown.clientWidth / shown.width;
    return { left: left * scale, top: top * scale, right: right * scale, bottom: bottom * scale };
  });
