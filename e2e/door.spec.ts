import { demoPeople } from '../demo/people.ts';
import { expect, post, signIn, test } from './support.ts';

test('nobody gets in without signing in, and signing out ends it', async ({ page }) => {
  await page.goto('/');
  await expect(page).toHaveURL(/\/sign-in$/);
  expect((await page.request.get('/api/v1/projects')).status()).toBe(401);
  await signIn(page, 'ines');
  await expect(page.getByRole('link', { name: 'Quillmere ferry landing' })).toBeVisible();
  const cookie = (await page.context().cookies()).find((c) => c.name === 'ovrel_session')!;
  expect(cookie).toMatchObject({ httpOnly: true, secure: true, sameSite: 'Lax' });
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/\/sign-in$/);
  const again = await page.request.get('/api/v1/projects', { headers: { cookie: `ovrel_session=${cookie.value}` } });
  expect(again.status()).toBe(401);
});

test('a wrong password is told in a sentence, and attempts run out', async ({ page }) => {
  await page.goto('/sign-in');
  await page.getByLabel('E-mail address').fill('stranger@quillmere.example');
  await page.getByLabel('Password').fill('not the password');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'do not belong together' })).toBeVisible();
  // From the page itself: what asks outside it may have another address.
  await page.evaluate(async () => {
    const body = JSON.stringify({ email: 'stranger@quillmere.example', password: 'x' });
    for (let i = 0; i < 9; i++) await fetch('/api/v1/session', { method: 'POST', body });
  });
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Too many attempts' })).toBeVisible();
});

test('the demo has people of five roles; a reader sees, but has nothing to change things with', async ({ page }) => {
  expect(new Set(demoPeople.map((p) => p.role)).size).toBe(5);
  await signIn(page, 'jory');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('link', { name: 'Drawings', exact: true }).click();
  await expect(page.getByRole('link', { name: 'landing-plan.svg' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Add files' })).toHaveCount(0);
  await page.getByRole('link', { name: 'landing-plan.svg' }).click();
  await expect(page.getByRole('link', { name: /^Download v5/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Check in a new version' })).toHaveCount(0);
});

test('an administrator adds a person, who can then sign in', async ({ page }) => {
  await signIn(page, 'marit');
  await page.getByRole('link', { name: 'People' }).click();
  await page.getByLabel('Name').fill('Sunniva Hale');
  const email = `sunniva-${Date.now()}@quillmere.example`;
  await page.getByLabel('E-mail address').fill(email);
  await page.getByLabel('First password').fill('short');
  await page.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('cell', { name: email })).toHaveCount(0);
  await page.getByLabel('First password').fill('long enough now');
  await page.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('cell', { name: email })).toBeVisible();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in to Ovrel' })).toBeVisible();
  await page.getByLabel('E-mail address').fill(email);
  await page.getByLabel('Password').fill('long enough now');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('link', { name: 'Account of Sunniva Hale, editor' })).toBeVisible();
});

test('requests that claim to come from another site are refused', async ({ page }) => {
  await signIn(page, 'tobias');
  const answer = await page.request.post('/api/v1/projects', {
    data: { name: 'Trojan' },
    headers: { origin: 'https://elsewhere.example' },
  });
  expect(answer.status()).toBe(403);
  expect(await answer.json()).toMatchObject({ type: '/problems/foreign-origin', status: 403 });
});

test('who tries many passwords for somebody else shuts only their own door', async ({ page, browser, baseURL }) => {
  await signIn(page, 'marit');
  const email = `ebba-${Date.now()}@quillmere.example`;
  const password = 'a long enough password';
  await post(page, '/people', { name: 'Ebba Lund', email, password, role: 'reader' });
  const enter = async (): Promise<void> => {
    await page.getByRole('button', { name: 'Sign out' }).click();
    await page.getByLabel('E-mail address').fill(email);
    await page.getByLabel('Password').fill(password);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('link', { name: /^Account of Ebba Lund/ })).toBeVisible();
  };
  await enter();
  const stranger = await browser.newContext(baseURL ? { baseURL } : {});
  const attempt = async (): Promise<number> =>
    (await stranger.request.post('/api/v1/session', { data: { email, password: 'a guess' } })).status();
  for (let i = 0; i < 10; i++) expect(await attempt()).toBe(401);
  expect(await attempt()).toBe(429);
  await enter();
  await stranger.close();
});

test('pages run no script but their own: each answer has a nonce of its own, and one that is slipped in stays dead', async ({
  browser,
  baseURL,
}) => {
  const page = await (await browser.newContext(baseURL ? { baseURL } : {})).newPage();
  const said: string[] = [];
  page.on('console', (message) => said.push(message.text()));
  const policies: string[] = [];
  for (let i = 0; i < 2; i++) {
    const answer = await page.goto('/sign-in');
    policies.push(answer?.headers()['content-security-policy'] ?? '');
  }
  const nonces = policies.map((policy) => /script-src 'self' 'nonce-([\w+/=]{24})'/.exec(policy)?.[1]);
  expect(nonces[0]).toBeDefined();
  expect(nonces[0]).not.toBe(nonces[1]);
  for (const policy of policies)
    expect(policy.split(';').find((part) => part.includes('script-src'))).not.toMatch(/unsafe/);
  expect(said.filter((text) => text.includes('Content Security Policy'))).toEqual([]);

  const ran = await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'document.title = "slipped in"';
    document.body.append(script);
    const image = document.createElement('div');
    image.innerHTML = '<img src="/nowhere" onerror="document.title = \'slipped in\'">';
    document.body.append(image);
    return document.title;
  });
  expect(ran).not.toBe('slipped in');
  await expect.poll(() => said.filter((text) => text.includes('Content Security Policy')).length).toBeGreaterThan(1);
  expect(await page.title()).not.toBe('slipped in');
  await page.context().close();
});
