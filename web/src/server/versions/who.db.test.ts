import { DxfWriter } from '@ovrel/core';
import type { Person, Version } from '../../contract/api.ts';
import { makeProject } from '../projects/service.ts';
import { incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from './checkin.ts';
import { compareVersions } from './comparisons.ts';
import { listVersions } from './service.ts';
import { whoChanged } from './who.ts';

withTestDatabase();

let marit: Person;
let ines: Person;
let jory: Person;
beforeAll(async () => {
  [marit, ines, jory] = [
    await makeTestPerson('lead', 'Marit'),
    await makeTestPerson('editor', 'Ines'),
    await makeTestPerson('editor', 'Jory'),
  ];
});

/** Piles in a row, each of a size of its own; moved ones stand higher. */
function piles(handle: number, count: number, moved: Readonly<Record<number, number>> = {}): string {
  const d = new DxfWriter({ firstHandle: handle });
  for (let n = 0; n < count; n++) d.circle([n * 500, moved[n] ?? 0], 50 + n * 3, { layer: 'piles' });
  return d.finish();
}

async function history(...contents: [Person, string][]): Promise<Version[]> {
  const [first, ...later] = contents as [[Person, string], ...[Person, string][]];
  const { file } = await makeFile(
    first[0],
    (await makeProject(marit, `Who ${Math.random()}`)).id,
    null,
    undefined,
    incoming('piles.dxf', first[1]),
    { note: '' },
  );
  for (const [by, content] of later) await checkIn(by, file.id, incoming('piles.dxf', content), { note: '' });
  return listVersions(marit, file.id);
}

const idOf = (v: Version | undefined): string => v?.id ?? '';

/** Change sentence → names of those who touched it. */
async function said(a: string, b: string): Promise<Record<string, string[]>> {
  const [{ comparison }, who] = [await compareVersions(marit, a, b), await whoChanged(marit, a, b)];
  return Object.fromEntries(
    comparison.changes.map((c) => [
      `${c.kind} ${Math.round((c.boxB ?? c.boxA ?? [0])[0] / 500)}`,
      (who.touched[c.id] ?? []).map((n) => who.versions[n]?.by.name ?? '?'),
    ]),
  );
}

test('each change between versions that are several steps apart has those who made it', async () => {
  const [v1, v2, , v4] = await history(
    [marit, piles(0x100, 8)],
    [ines, piles(0x900, 8, { 2: 300 })],
    [jory, piles(0x400, 9, { 2: 300, 5: 120 })],
    [ines, piles(0x500, 9, { 2: 700, 5: 120 })],
  );
  expect(await said(idOf(v1), idOf(v4))).toEqual({
    'moved 2': ['Ines', 'Ines'],
    'moved 5': ['Jory'],
    'added 8': ['Jory'],
  });
  expect(await said(idOf(v1), idOf(v2))).toEqual({ 'moved 2': ['Ines'] });
  // Looked at the other way round it is the same people.
  expect(await said(idOf(v4), idOf(v1))).toEqual({
    'moved 2': ['Ines', 'Ines'],
    'moved 5': ['Jory'],
    'removed 8': ['Jory'],
  });
  expect((await whoChanged(marit, idOf(v1), idOf(v4))).versions.map((v) => v.number)).toEqual([2, 3, 4]);
});

test('versions of two files have no such people, and the sentence says so', async () => {
  const [[one], [other]] = [await history([marit, piles(0x100, 3)]), await history([ines, piles(0x100, 4)])];
  expect(await whoChanged(marit, idOf(one), idOf(other))).toEqual({
    versions: [],
    touched: {},
    sentence: 'These are versions of two files, so Ovrel does not say who made each difference.',
  });
});

test('too many versions in between are refused in a sentence', async () => {
  const all = await history(
    ...Array.from({ length: 63 }, (_, n): [Person, string] => [n % 2 ? ines : jory, piles(0x100, 2, { 1: n })]),
  );
  expect((await whoChanged(marit, idOf(all[0]), idOf(all.at(-1)))).sentence).toMatch(/nearer to one another/);
  expect((await whoChanged(marit, idOf(all[10]), idOf(all.at(-1)))).sentence).toBeNull();
});
