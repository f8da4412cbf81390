/** Large files travel in parts: what a broken connection costs, for somebody who checks one in. */
import { createHash, randomBytes } from 'node:crypto';
import { expect, makeDrawing, signIn, test } from './support.ts';

const sha256Of = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

test('a large file whose connection breaks goes on where it was, and lands to the byte', async ({ page }) => {
  await signIn(page, 'tobias');
  const name = 'echo sounding.bin';
  const id = await makeDrawing(page, '\0soundings of last year', name);
  const bytes = Buffer.concat([Buffer.from('\0'), randomBytes(20 * 1024 * 1024)]);
  const begun: string[] = [];
  await page.route('**/api/v1/uploads/*/parts', async (route) => {
    const at = /name="at"\r\n\r\n(\d+)/.exec(route.request().postDataBuffer()?.toString('latin1') ?? '')?.[1] ?? '';
    begun.push(at);
    // The second part is lost on its way.
    if (begun.length === 2) return route.abort('connectionreset');
    return route.continue();
  });
  await page.getByRole('button', { name: 'Check in a new version' }).click();
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: bytes });
  await page.getByRole('button', { name: 'Check in as v2' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Checked in as v2.' })).toBeVisible();
  const part = 8 * 1024 * 1024;
  expect(begun).toEqual(['0', String(part), String(part), String(2 * part)]);
  const versions = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as { sha256: string }[];
  expect(versions.map(({ sha256 }) => sha256)).toContain(sha256Of(bytes));
});
