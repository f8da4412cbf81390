import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drawing, expect, makeDrawing, post, signIn, test } from './support.ts';

const ovrel = join(import.meta.dirname, '../node_modules/.bin/ovrel');

interface Run {
  readonly code: number;
  readonly out: string;
  readonly said: string;
}

const shelter = (x: number): string => drawing(`<rect id="shelter" x="${x}" y="10" width="50" height="30"/>`);

/** Runs “ovrel desk” in a folder. */
const deskIn =
  (folder: string, token: string) =>
  (argv: string[], env: Record<string, string> = { OVREL_TOKEN: token }): Promise<Run> =>
    new Promise((done) => {
      const { OVREL_TOKEN: _, ...rest } = process.env;
      execFile(ovrel, ['desk', ...argv], { cwd: folder, env: { ...rest, ...env } }, (error, out, said) =>
        done({ code: error ? Number(error.code ?? 1) : 0, out: out.trim(), said: said.trim() }),
      );
    });

test('the command line works on a folder: get, see, check out, check in, go back, never overwriting unasked', async ({
  page,
  baseURL,
}) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, shelter(10), 'shelter.svg');
  const { projectId, newest } = (await (await page.request.get(`/api/v1/files/${id}`)).json()) as {
    projectId: string;
    newest: { sha256: string };
  };
  await post(page, `/projects/${projectId}/folders`, { name: 'Signs', parentId: null });
  const { token } = await post<{ token: string }>(page, '/tokens', { name: 'laptop', scope: 'desk', days: 1 });
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-desk-'));
  const file = join(folder, 'shelter.svg');
  const run = deskIn(folder, token);
  const statusOf = async (path: string): Promise<string> =>
    (JSON.parse((await run(['status', '--json'])).out) as { path: string; status: string }[]).find(
      (r) => r.path === path,
    )?.status ?? 'nowhere';
  try {
    expect(await run(['status'], {})).toMatchObject({
      code: 2,
      said: expect.stringContaining('OVREL_TOKEN is not set'),
    });
    expect(await run(['status'])).toMatchObject({ code: 2, said: expect.stringContaining('not a desk yet') });
    expect(await run(['connect', baseURL ?? '', 'No such project'])).toMatchObject({
      code: 2,
      said: expect.stringContaining('There are: '),
    });
    expect((await run(['connect', baseURL ?? '', projectId])).out).toContain('is a desk of');
    expect(await statusOf('shelter.svg')).toBe('not on this desk');
    expect((await run(['get'])).out).toBe('1 file brought.');
    expect(readFileSync(file, 'utf8')).toBe(shelter(10));
    expect((await run(['status'])).code).toBe(0);

    // Changed here; somebody else cannot get in between while it is checked out.
    expect((await run(['checkout', 'shelter.svg', '--where', 'the laptop'])).out).toBe('Checked out: shelter.svg.');
    await page.reload();
    await expect(page.getByRole('region', { name: 'Check-out' })).toContainText(
      'You have it checked out on the laptop since',
    );
    writeFileSync(file, shelter(80));
    expect(await statusOf('shelter.svg')).toBe('changed here');
    expect((await run(['get', 'shelter.svg'])).said).toContain('Changed here, so left as it is: shelter.svg.');
    writeFileSync(join(folder, 'notes.txt'), 'piles first');
    mkdirSync(join(folder, 'Signs'));
    writeFileSync(join(folder, 'Signs/gate.svg'), drawing(''));
    expect((await run(['checkin', '.', '--note', 'Shelter moved'])).said).toContain(
      'Not in Ovrel yet: notes.txt, Signs/gate.svg.',
    );
    expect((await run(['checkin', '.', '--note', 'Shelter moved', '--new'])).out).toContain('was checked in: 3 files.');
    expect((await run(['status'])).code).toBe(0);
    const versions = (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as {
      number: number;
      note: string;
      id: string;
    }[];
    expect(versions.map((v) => [v.number, v.note])).toEqual([
      [1, 'first'],
      [2, 'Shelter moved'],
    ]);
    expect(
      ((await (await page.request.get(`/api/v1/projects/${projectId}/desk`)).json()) as { path: string }[])
        .map((f) => f.path)
        .sort(),
    ).toEqual(['Signs/gate.svg', 'notes.txt', 'shelter.svg']);

    // Newer on the server, then changed on both sides.
    await page.request.post(`/api/v1/files/${id}/versions`, {
      multipart: {
        note: 'by hand',
        file: { name: 'shelter.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(shelter(120)) },
      },
    });
    expect(await statusOf('shelter.svg')).toBe('newer on the server');
    writeFileSync(file, shelter(33));
    expect(await statusOf('shelter.svg')).toBe('changed on both');
    expect((await run(['checkin', 'shelter.svg', '--note', 'mine'])).said).toContain(
      'Newer on the server: shelter.svg.',
    );
    expect((await run(['get', 'shelter.svg', '--replace'])).out).toBe('1 file brought.');
    expect(readFileSync(file, 'utf8')).toBe(shelter(120));

    // An older version, continued from.
    expect((await run(['get', 'shelter.svg', '--version', '1'])).out).toBe('1 file brought.');
    expect(readFileSync(file, 'utf8')).toBe(shelter(10));
    expect((await run(['get', 'shelter.svg', '--version', '99'])).said).toBe('There is no v99 of this file.');

    expect((await run(['get'])).code).toBe(0);
    expect((await run(['goon', 'shelter.svg', '--version', 'v1'])).out).toBe(
      'shelter.svg is checked out and has the content of v1. What you check in will be v4, with v1 as its source.',
    );
    expect((await run(['checkin', 'shelter.svg', '--note', 'as in the beginning'])).out).toContain('1 file.');
    const last = (
      (await (await page.request.get(`/api/v1/files/${id}/versions`)).json()) as {
        number: number;
        source: number | null;
      }[]
    ).at(-1);
    expect(last).toMatchObject({ number: 4, source: 1 });

    // A rename here is seen for what it is.
    expect((await run(['get'])).code).toBe(0);
    renameSync(file, join(folder, 'shelter new.svg'));
    expect((await run(['status'])).out).toContain('shelter new.svg  perhaps shelter.svg, moved or renamed');
    renameSync(join(folder, 'shelter new.svg'), file);

    await run(['checkout', 'shelter.svg']);
    expect((await run(['release', 'shelter.svg'])).out).toBe('1 given back. What you changed here is still here.');
    expect(await run(['checkout', 'missing.svg'])).toMatchObject({
      code: 2,
      said: 'There is no missing.svg, neither here nor in the project.',
    });
    expect(existsSync(join(folder, 'shelter.svg.ovrel-part'))).toBe(false);
    expect(newest.sha256).toHaveLength(64);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('lines, joins and erasing from the command line', async ({ page, baseURL }) => {
  await signIn(page, 'tobias');
  const id = await makeDrawing(page, shelter(10), 'shelter.svg');
  const answer = await page.request.get(`/api/v1/files/${id}`);
  const { projectId, newest } = (await answer.json()) as { projectId: string; newest: { id: string } };
  const { token } = await post<{ token: string }>(page, '/tokens', { name: 'laptop', scope: 'desk', days: 1 });
  const folder = mkdtempSync(join(tmpdir(), 'ovrel-desk-'));
  const run = deskIn(folder, token);
  try {
    await run(['connect', baseURL ?? '', projectId]);
    expect(await run(['branch', 'shelter.svg'])).toMatchObject({ code: 2, said: expect.stringContaining('--name') });
    expect((await run(['branch', 'shelter.svg', '--name', 'Glass roof'])).out).toContain(
      '“Glass roof” starts from shelter.svg',
    );
    const { lines } = (await (await page.request.get(`/api/v1/files/${id}/rail`)).json()) as {
      lines: { id: string }[];
    };
    const upload = async (x: number, fields: Record<string, string>): Promise<void> => {
      const file = { name: 'shelter.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(shelter(x)) };
      const sent = await page.request.post(`/api/v1/files/${id}/versions`, {
        multipart: { note: '', ...fields, file },
      });
      expect(sent.ok(), await sent.text()).toBe(true);
    };
    await upload(60, { line: lines[1]?.id ?? '' });
    expect((await run(['join', 'shelter.svg', '--from', 'Tin roof'])).said).toContain('“Glass roof”');
    await upload(90, { base: newest.id });
    expect(await run(['join', 'shelter.svg', '--from', 'glass roof'])).toMatchObject({
      code: 1,
      out: expect.stringMatching(/clash \(both-changed\): rectangle shelter/),
    });
    const joined = await run(['join', 'shelter.svg', '--from', 'glass roof', '--prefer', 'theirs']);
    expect(joined).toMatchObject({ code: 0, out: '“Glass roof” was joined into shelter.svg, as v3.' });
    expect((await run(['branch', 'shelter.svg', '--name', 'tried.svg', '--file'])).out).toContain(
      'tried.svg was made from',
    );
    expect((await run(['erase', 'shelter.svg', '--version', '2', '--note', 'no'])).said).toContain('--yes');
    expect(await run(['erase', 'shelter.svg', '--version', '2', '--note', 'no', '--yes'])).toMatchObject({
      code: 2,
      said: expect.stringContaining('“tried.svg” was made from v3'),
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
