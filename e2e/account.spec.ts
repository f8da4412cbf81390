import type { Page } from '@playwright/test';
import { Secret, TOTP } from 'otpauth';
import { expect, post, signIn, test } from './support.ts';

const given = 'given by the office';
const own = 'tide tables of the quay';

/** Somebody new with a password of their own, signed in on `page`. */
async function newcomer(page: Page, name: string): Promise<string> {
  await signIn(page, 'marit');
  const email = `${name.toLowerCase().replaceAll(' ', '.')}-${Date.now()}@quillmere.example`;
  await post(page, '/people', { name, email, password: given, role: 'editor' });
  await page.getByRole('button', { name: 'Sign out' }).click();
  await enter(page, email, given);
  await expect(page.getByText('Your password was set by somebody else.')).toBeVisible();
  await page.getByLabel('Password as it is').fill(given);
  await page.getByLabel('New password').fill(own);
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('Your password was changed.')).toBeVisible();
  return email;
}

async function enter(page: Page, email: string, password: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('E-mail address').fill(email);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
}

test('a first password opens nothing but the page where it is changed', async ({ page }) => {
  await signIn(page, 'marit');
  const email = `hanne-${Date.now()}@quillmere.example`;
  await post(page, '/people', { name: 'Hanne Voss', email, password: given, role: 'editor' });
  await page.getByRole('button', { name: 'Sign out' }).click();
  await enter(page, email, given);
  await expect(page.getByRole('heading', { name: 'Account' })).toBeVisible();
  await page.goto('/');
  await expect(page).toHaveURL(/\/account$/);
  expect((await page.request.get('/api/v1/projects')).status()).toBe(403);

  await page.getByLabel('Password as it is').fill(given);
  await page.getByLabel('New password').fill('password123');
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('one of the first that somebody would try')).toBeVisible();
  await page.getByLabel('Password as it is').fill(given);
  await page.getByLabel('New password').fill(own);
  await page.getByRole('button', { name: 'Change the password' }).click();
  await expect(page.getByText('Your password was changed.')).toBeVisible();
  await page.getByRole('link', { name: 'Ovrel: all projects' }).click();
  await expect(page.getByRole('heading', { name: 'Projects' })).toBeVisible();
});

test('a session elsewhere is seen and ended from the account', async ({ page, browser, baseURL }) => {
  const email = await newcomer(page, 'Piet Maas');
  const elsewhere = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  await enter(elsewhere, email, own);
  await expect(elsewhere.getByRole('heading', { name: 'Projects' })).toBeVisible();

  await page.goto('/account');
  const sessions = page.getByRole('table', { name: 'Sessions' });
  await expect(sessions.getByRole('row')).toHaveCount(3);
  await expect(sessions.getByText('this session')).toHaveCount(1);
  await sessions.getByRole('button', { name: /^End the session/ }).click();
  await expect(page.getByText('The session has ended.')).toBeVisible();
  await expect(sessions.getByRole('row')).toHaveCount(2);
  await elsewhere.reload();
  await expect(elsewhere.getByRole('heading', { name: 'Sign in to Ovrel' })).toBeVisible();
  await elsewhere.context().close();
});

test('with an authenticator app set up, signing in takes its code, or a recovery code once', async ({ page }) => {
  const email = await newcomer(page, 'Solvei Brandt');
  await page.getByLabel('Your password').fill(own);
  await page.getByRole('button', { name: 'Set it up' }).click();
  await expect(page.getByRole('img', { name: 'QR code for your authenticator app' })).toBeVisible();
  const secret = (await page.getByTestId('secret').textContent()) ?? '';
  const code = (ago = 0): string =>
    new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() - ago });
  await page.getByLabel('The code that it shows').fill(code(30_000));
  await page.getByRole('button', { name: 'Confirm' }).click();
  const recovery = page.getByRole('list', { name: 'Recovery codes' }).getByRole('listitem');
  await expect(recovery).toHaveCount(10);
  const [first = ''] = await recovery.allTextContents();
  await expect(page.getByText('10 recovery codes are left.')).toBeVisible();

  const out = async (): Promise<void> => {
    await page.getByRole('button', { name: 'Sign out' }).click();
    await expect(page.getByRole('heading', { name: 'Sign in to Ovrel' })).toBeVisible();
    await enter(page, email, own);
  };
  await out();
  await page.getByLabel('Code', { exact: true }).fill('000000');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('This code does not open')).toBeVisible();
  await page.getByLabel('Code', { exact: true }).fill(code());
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Projects' })).toBeVisible();

  await out();
  await page.getByLabel('Code', { exact: true }).fill(first);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Projects' })).toBeVisible();
  await out();
  await page.getByLabel('Code', { exact: true }).fill(first);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('This code does not open')).toBeVisible();
});

test('an administrator changes a role, puts somebody out and lets them in again', async ({
  page,
  browser,
  baseURL,
}) => {
  const other = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  const name = `Ode Falk ${Date.now()}`;
  const email = await newcomer(other, name);
  await signIn(page, 'marit');
  await page.getByRole('link', { name: 'People' }).click();
  const row = page.getByRole('row', { name });
  const choose = async (act: string): Promise<void> => {
    await page.getByRole('button', { name: `Acts for ${name}` }).click();
    await page.getByRole('button', { name: act }).click();
  };
  await choose('Name and role');
  await page.getByRole('dialog').getByLabel('Role').selectOption('reader');
  await page.getByRole('dialog').getByRole('button', { name: 'Change' }).click();
  await expect(row.getByRole('cell', { name: 'reader' })).toBeVisible();
  await other.reload();
  await expect(other.getByRole('link', { name: `Account of ${name}, reader` })).toBeVisible();

  await choose('Deactivate');
  await expect(row.getByText('deactivated', { exact: true })).toBeVisible();
  await other.reload();
  await expect(other.getByRole('heading', { name: 'Sign in to Ovrel' })).toBeVisible();
  await enter(other, email, own);
  await expect(other.getByText('Your account was deactivated.')).toBeVisible();
  await choose('Activate');
  await expect(row.getByText('deactivated', { exact: true })).toHaveCount(0);
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(other.getByRole('heading', { name: 'Projects' })).toBeVisible();

  await choose('Give a new password');
  await page.getByRole('dialog').getByLabel('Password').fill('one for the next time');
  await page.getByRole('dialog').getByRole('button', { name: 'Give it' }).click();
  await expect(row.getByText('has to change the first password')).toBeVisible();
  await choose('Delete');
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText(`${name} was deleted.`)).toBeVisible();
  await expect(row).toHaveCount(0);
  await other.context().close();
});
