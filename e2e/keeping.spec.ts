/** Keeping rules through the real interface: said, tried on the past, seen on the rail, kept from, and swept. */
import type { Page } from '@playwright/test';
import { countAtOnce, projectOf, save, versionsOf } from './saves.ts';
import { beyond, drawing, expect, makeDrawing, post, signIn, sql, stop, test, visit } from './support.ts';

const plan = (x: number): string => drawing(`<rect id="deck" x="${x}" y="60" width="160" height="60"/>`);

/** Versions that were made older by hand, which the ledger's check would notice: they get their times back. */
const aged = new Map<string, string>();

async function age(version: string, days: number): Promise<void> {
  const { rows } = await sql('select made_at::text as at from version where id = $1', [version]);
  aged.set(version, rows[0]?.['at'] ?? '');
  await sql(`update version set made_at = now() - $2 * interval '1 day' where id = $1`, [version, days]);
}

test.afterEach(async () => {
  for (const [version, at] of aged) await sql('update version set made_at = $2 where id = $1', [version, at]);
  aged.clear();
});

/** A drawing with a check-in and four saves, made so many days ago; gives its id and that of its project. */
async function oldSaves(page: Page): Promise<{ file: string; project: string }> {
  const file = await makeDrawing(page, plan(10));
  const project = await projectOf(page, file);
  await countAtOnce(page, project);
  let base = (await versionsOf(page, file))[0]?.id ?? '';
  for (const [x, days] of [
    [20, 30],
    [30, 20],
    [40, 3],
    [50, 0],
  ] as const) {
    base = await save(page, file, plan(x), base);
    await age(base, days);
  }
  return { file, project };
}

test('a rule is said as a sentence, tried on the past, and holds once it is said; what goes is listed and can be kept', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const { file, project } = await oldSaves(page);
  const [, old] = await versionsOf(page, file);
  await post(page, `/versions/${old?.id ?? ''}/bring-forward`, { note: 'it was better then' });
  await page.goto(`/projects/${project}`);
  await page.getByRole('link', { name: 'Keeping rules' }).click();
  await expect(page.getByText('Nothing is said here or above, so all versions are kept for ever.')).toBeVisible();
  const autosaves = page.getByRole('group', { name: 'Autosaves' });
  await autosaves.getByLabel('Autosaves, step 1: how long').selectOption('until');
  await autosaves.getByLabel('Autosaves, step 1: days').fill('5');
  await expect(autosaves).toContainText('days old,then none');
  await page.getByRole('button', { name: 'Try it on the past' }).click();
  const trial = page.getByRole('region', { name: 'Tried on the past' });
  await expect(trial).toContainText('2 versions of 6 would have gone until now');
  await expect(trial.getByRole('table', { name: 'What would have been missed' })).toContainText(
    /pier\.svg v2.*Tobias Renn brought it forward/,
  );
  await expect(trial.locator('canvas')).toHaveAttribute('data-ready', 'true');
  // A rule that would have missed none is there to be taken.
  await trial.getByRole('button', { name: 'Take this rule' }).click();
  await page.getByRole('button', { name: 'Try it on the past' }).click();
  await expect(trial).toContainText('Each would still have been there.');
  // The first rule holds all the same: what somebody went back to stays.
  await page.getByRole('button', { name: 'As it was' }).click();
  await autosaves.getByLabel('Autosaves, step 1: how long').selectOption('until');
  await autosaves.getByLabel('Autosaves, step 1: days').fill('5');
  await page.getByRole('button', { name: 'Let this hold' }).click();
  await expect(page.getByText('This holds from now on.')).toBeVisible();
  await expect(page.getByText('Said here by Tobias Renn.')).toBeVisible();
  const going = page.getByRole('table', { name: 'What goes of Tobias Renn' });
  await expect(going.getByRole('row')).toHaveCount(1 + 3);
  await expect(going.getByRole('row', { name: /pier\.svg v3/ })).toContainText('with the next sweep');
  await going.getByRole('button', { name: 'Keep pier.svg v4' }).click();
  await expect(page.getByText('pier.svg v4 has a title now, and stays.')).toBeVisible();
  await expect(going.getByRole('row', { name: /pier\.svg v4/ })).toHaveCount(0);
  // The list stands on the first page, too, and fits on a narrow screen.
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/');
  await expect(page.getByRole('table', { name: 'Versions of yours that go' })).toContainText('pier.svg v3');
  expect(await beyond(page)).toBeLessThanOrEqual(0);
});

test('on the rail and beside a version it is said when it goes; a sweep asked for takes it, and the ledger tells', async ({
  page,
}) => {
  await signIn(page, 'tobias');
  const { file, project } = await oldSaves(page);
  const rule = {
    'check-in': [{ one: 'version', days: null }],
    autosave: [{ one: 'version', days: 5 }],
    backup: [{ one: 'version', days: null }],
  };
  expect((await page.request.put(`/api/v1/projects/${project}/keeping`, { data: { rule } })).ok()).toBe(true);
  await page.goto(`/files/${file}`);
  await expect(stop(page, 4)).toHaveAccessibleName(/goes: \d/);
  await expect(stop(page, 1)).not.toHaveAccessibleName(/goes/);
  await visit(page, 4);
  const keeping = page.getByRole('region', { name: 'Keeping' });
  await expect(keeping).toContainText('all until 5 days old, then none');
  await keeping.getByRole('button', { name: 'Keep it' }).click();
  await expect(keeping).toContainText('It stays, since it has a title.');
  await expect(stop(page, 4)).toHaveAccessibleName(/keeper/);
  await page.goto(`/projects/${project}/keeping`);
  const sweep = page.getByRole('region', { name: 'Sweep' });
  await expect(sweep).toContainText('A sweep now would remove 2 versions');
  await sweep.getByRole('button', { name: 'Sweep now' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Remove 2 versions' }).click();
  await expect(sweep).toContainText(/The last one that somebody asked for, .* removed 2 versions/);
  await expect(sweep).toContainText('Nothing is due now.');
  expect((await versionsOf(page, file)).map(({ number }) => number)).toEqual([1, 4, 5]);
  await page.goto(`/files/${file}`);
  await expect(page.getByText('3 versions')).toBeVisible();
  await page.goto('/ledger');
  await expect(page.getByRole('row', { name: /swept/ }).first()).toContainText('pier.svg, 2 versions: v2, v3');
});

test('who may not manage a project reads its rules and tries others, but changes nothing and keeps nothing back', async ({
  page,
}) => {
  await signIn(page, 'jory');
  await page.getByRole('link', { name: 'Quillmere ferry landing' }).click();
  await page.getByRole('link', { name: 'Keeping rules' }).click();
  await expect(page.getByText('Said here by Tobias Renn.')).toBeVisible();
  await expect(page.getByLabel('Autosaves, step 1: days')).toBeDisabled();
  await expect(page.getByRole('button', { name: 'Let this hold' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Sweep now' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Try it on the past' }).click();
  await expect(page.getByRole('region', { name: 'Tried on the past' })).toContainText('went back to an older version');
});
