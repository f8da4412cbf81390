/** The first page: what happened since one was last here, what waits for one, and projects with a face. */
import { addVersion, drawing, expect, makeDrawing, post, signIn, test } from './support.ts';

const plan = (x: number): string => drawing(`<rect id="deck" x="${x}" y="60" width="160" height="60"/>`);

test('what a colleague did to a file that one follows is told with a picture, and leads there', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, plan(10), `pier ${Date.now()}.svg`);
  const heading = await page.getByRole('heading', { level: 1 }).innerText();
  const other = await browser.newPage();
  await signIn(other, 'marit');
  await other.goto(`/files/${id}`);
  await other.getByRole('button', { name: 'Follow this file' }).click();
  await expect(other.getByText('What others do to it is told on Home.')).toBeVisible();
  await addVersion(page, id, plan(60));
  const version =
    ((await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as { id: string }[]).at(-1)?.id ?? '';
  await page.request.patch(`/api/v1/versions/${version}`, {
    data: { title: 'Agreed with the harbour', description: 'Deck moved east by 50' },
  });
  await other.getByRole('link', { name: 'Home' }).click();
  const news = other.getByRole('region', { name: 'What happened' }).getByRole('listitem');
  const titled = news.filter({ hasText: `${heading} v2, “Agreed with the harbour”` });
  await expect(titled).toContainText('Deck moved east by 50');
  const made = news.filter({ has: other.getByRole('link', { name: `${heading} v2`, exact: true }) });
  await expect(made).toContainText('Tobias Renn checked in');
  await expect(made.locator('img')).toHaveJSProperty('complete', true);
  await made.getByRole('link').click();
  await expect(other.getByRole('heading', { name: heading, exact: true })).toBeVisible();
  await expect(other.getByText('Agreed with the harbour').first()).toBeVisible();
  await expect(other.getByText('Deck moved east by 50')).toBeVisible();
  // Followed no more, it is no news.
  await other.getByRole('button', { name: 'You follow this file' }).click();
  await expect(other.getByText('You do not follow this file any more.')).toBeVisible();
  await other.getByRole('link', { name: 'Home' }).click();
  await expect(other.getByRole('region', { name: 'Projects' })).toBeVisible();
  await expect(news.filter({ hasText: heading })).toHaveCount(0);
  await other.close();
});

test('who asks for what one holds stands on the first page, and the tile says who holds files', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, plan(10), `quay ${Date.now()}.svg`);
  const name = await page.getByRole('heading', { level: 1 }).innerText();
  await post(page, '/checkouts', { files: [id], desk: 'drawing office' });
  const other = await browser.newPage();
  await signIn(other, 'ines');
  await post(other, `/files/${id}/ask`, { reason: 'The railing goes to print' });
  const { projectName } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as { projectName: string };
  await page.goto('/');
  const asked = page.getByRole('region', { name: 'Asked of you' }).getByRole('listitem').filter({ hasText: name });
  await expect(asked).toContainText('Ines');
  await expect(asked).toContainText('The railing goes to print');
  await expect(page.getByRole('region', { name: 'Checked out by you' })).toContainText(name);
  await other.goto('/');
  const tile = other.getByRole('article').filter({ has: other.getByRole('link', { name: projectName, exact: true }) });
  await expect(tile).toContainText('Tobias Renn holds files.');
  await expect(tile.getByRole('img', { name: '1 version in the last 26 weeks, 1 this week' })).toBeVisible();
  await other.close();
  await page.request.delete('/api/v1/checkouts', { data: { files: [id] } });
});
