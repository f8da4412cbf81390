import { expect, test } from './support.ts';

test('an empty installation asks for its first administrator, and then shows what to do first', async ({ page }) => {
  const address = process.env['OVREL_E2E_EMPTY_URL'];
  expect(address, 'OVREL_E2E_EMPTY_URL names the second, empty instance, which npm test starts').toBeTruthy();
  await page.goto(address!);
  await expect(page.getByRole('heading', { name: 'Ovrel is new here' })).toBeVisible();
  await page.getByLabel('Your name').fill('Marit Oakes');
  await page.getByLabel('E-mail address').fill('marit@landing.example');
  await page.getByLabel('Password').fill('a password of my own');
  await page.getByRole('button', { name: 'Make administrator and sign in' }).click();
  await expect(page.getByText('There is no project yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Make the first project' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Landing');
  await page.getByRole('button', { name: 'Make project' }).click();
  await expect(page.getByRole('link', { name: 'Landing' })).toBeVisible();
  await page.goto(`${address}/first`);
  await expect(page).toHaveURL(/\/sign-in$/);
  const second = await page.request.post(`${address}/api/v1/first-administrator`, {
    data: { name: 'Eve', email: 'eve@landing.example', password: 'another password' },
  });
  expect(second.status()).toBe(409);
});
