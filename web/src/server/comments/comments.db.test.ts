import { DxfWriter } from '@ovrel/core';
import type { Person } from '../../contract/api.ts';
import { setAccess } from '../people/granting.ts';
import { makeProject } from '../projects/service.ts';
import { countRows, incoming, makeTestPerson, withTestDatabase } from '../testing/database.ts';
import { checkIn, makeFile } from '../versions/checkin.ts';
import { mentionedIn } from './mentions.ts';
import { addComment, listComments, listMentions, reply, resolve } from './service.ts';

withTestDatabase();

let lead: Person;
let ines: Person;
let guest: Person;
beforeAll(async () => {
  [lead, ines, guest] = [
    await makeTestPerson('lead', 'Marit Solberg'),
    await makeTestPerson('editor', 'Ines Kaya'),
    await makeTestPerson('guest', 'Wenna Strand'),
  ];
});

/** Ten outlines; the one at 3000 stands `dx` further on, or is gone; handles begin at `handle`. */
function plan(handle: number, dx = 0, without = false): string {
  const d = new DxfWriter({ firstHandle: handle });
  for (let n = 0; n < 10; n++)
    if (!(without && n === 3))
      d.polyline(
        [
          [n * 1000 + (n === 3 ? dx : 0), 0],
          [n * 1000 + 400 + n * 20 + (n === 3 ? dx : 0), 0],
          [n * 1000 + 200 + (n === 3 ? dx : 0), 500],
        ],
        true,
        { layer: 'walls' },
      );
  return d.text([0, 2000], 100, 'Deck').finish();
}

async function drawing(): Promise<{ file: string; first: string }> {
  const project = await makeProject(lead, `Comments ${Math.random()}`);
  const made = await makeFile(lead, project.id, null, undefined, incoming('deck.dxf', plan(0x100)), { note: '' });
  return { file: made.file.id, first: made.file.newest.id };
}

test('a comment on a place belongs to the part there, and goes where the part goes', async () => {
  const { file, first } = await drawing();
  const made = await addComment(ines, file, {
    version: first,
    body: 'Is this wall to stay?',
    at: { page: 'Model', x: 3200, y: -3, reach: 10 },
  });
  expect(made).toMatchObject({
    about: { kind: 'polyline', category: 'walls' },
    place: { page: 'Model', x: 3200, y: -3 },
    lost: false,
    madeOn: { number: 1 },
  });
  // Renumbered by another program, and moved.
  const second = (await checkIn(lead, file, incoming('deck.dxf', plan(0x9000, 150)), { note: '' })).version;
  const [there] = await listComments(lead, file, second.id);
  expect(there).toMatchObject({ id: made.id, lost: false, madeOn: { number: 1 } });
  expect(there?.place?.x).toBeCloseTo(3350, 3);
  expect(there?.place?.box?.map(Math.round)).toEqual([3150, -500, 3610, 0]);
  const third = (await checkIn(lead, file, incoming('deck.dxf', plan(0x9000, 150, true)), { note: '' })).version;
  expect((await listComments(lead, file, third.id))[0]).toMatchObject({ lost: true, place: { x: 3200, y: -3 } });
  // Found once for each content, then known.
  const rows = await countRows('comment_place');
  await listComments(lead, file, third.id);
  expect(await countRows('comment_place')).toBe(rows);
});

test('a comment on a part by its number stands at the middle of it; one on the version stands nowhere', async () => {
  const { file, first } = await drawing();
  const onPart = await addComment(ines, file, { version: first, body: 'This one', at: { part: 3 } });
  const whole = await addComment(ines, file, { version: first, body: 'All of it' });
  expect(onPart.place).toMatchObject({ x: 3230, y: -250 });
  expect(whole.place).toBeNull();
  await expect(addComment(ines, file, { version: first, body: 'None', at: { part: 4000 } })).rejects.toThrow(
    /no such part/,
  );
});

test('answers, resolving, and opening again', async () => {
  const { file, first } = await drawing();
  const { id } = await addComment(ines, file, { version: first, body: 'Why?' });
  await reply(lead, id, 'Because of the tide');
  await resolve(lead, id, true);
  await resolve(lead, id, true);
  expect((await listComments(ines, file, first))[0]).toMatchObject({
    replies: [{ body: 'Because of the tide', by: { name: 'Marit Solberg' } }],
    resolved: { by: { name: 'Marit Solberg' } },
  });
  await resolve(ines, id, false);
  expect((await listComments(ines, file, first))[0]?.resolved).toBeNull();
});

test('whoever is mentioned finds it, until it is resolved; closed files mention nobody', async () => {
  const { file, first } = await drawing();
  const { id } = await addComment(lead, file, { version: first, body: '@Ines and @wenna strand: please look' });
  expect(await listMentions(ines)).toEqual([expect.objectContaining({ id, fileName: 'deck.dxf', version: 1 })]);
  expect(await listMentions(guest)).toEqual([]);
  await resolve(lead, id, true);
  expect(await listMentions(ines)).toEqual([]);
});

test('who may see the newest version only reads only what was said of that; who may see nothing is refused', async () => {
  const { file, first } = await drawing();
  await addComment(lead, file, { version: first, body: 'On the first' });
  const second = (await checkIn(lead, file, incoming('deck.dxf', plan(0x100, 90)), { note: '' })).version;
  await addComment(lead, file, { version: second.id, body: 'On the second' });
  await expect(listComments(guest, file, second.id)).rejects.toMatchObject({ status: 403 });
  const projectId = (await import('../db/pool.ts').then(({ db, one }) =>
    one<{ project_id: string }>(db(), 'select project_id from file where id = $1', [file]),
  ))!.project_id;
  await setAccess(lead, { projectId, folderId: null }, guest.id, ['see']);
  expect((await listComments(guest, file, second.id)).map((c) => c.body)).toEqual(['On the second']);
  await expect(addComment(guest, file, { version: first, body: 'x' })).rejects.toMatchObject({ status: 403 });
});

test.each([
  ['@Ines look', ['Ines Kaya']],
  ['see ines@quillmere.example', []],
  ['@inessa', []],
  ['@Marit Solberg, @Ines Kaya', ['Marit Solberg', 'Ines Kaya']],
  ['@Jory', ['Jory Penn']],
  ['@Sam', []],
])('“%s” mentions %j', (body, names) => {
  expect(
    mentionedIn(body, [
      { name: 'Marit Solberg' },
      { name: 'Ines Kaya' },
      { name: 'Jory Penn' },
      { name: 'Sam Ode' },
      { name: 'Sam Uren' },
    ]).map((p) => p.name),
  ).toEqual(names);
});
