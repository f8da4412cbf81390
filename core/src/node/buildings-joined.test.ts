/** Elements of building models carried over, taken back and joined: what was chosen comes, and nothing else changes. */
import './index.ts';
import { strFromU8, strToU8 } from 'fflate';
import { shelter } from '../../../demo/models/shelter.ts';
import { carryOver, compareFiles, joinFiles, open, takeBackChanges, type Content } from '../index.ts';
import type { Comparison } from '../contract/comparison.ts';

const edited = (bytes: Uint8Array, ...edits: readonly (readonly [string | RegExp, string])[]): Uint8Array =>
  strToU8(edits.reduce((text, [from, to]) => text.replaceAll(from, to), strFromU8(bytes)));

const ifc = (bytes: Uint8Array): Promise<Content> => open(bytes, 'shelter.ifc');
const small = (stage: Parameters<typeof shelter>[0]): Uint8Array => shelter(stage, { benches: 4 });

async function compared(a: Uint8Array, b: Uint8Array): Promise<Comparison> {
  return (await compareFiles(await ifc(a), await ifc(b))).comparison;
}
const sentencesOf = async (a: Uint8Array, b: Uint8Array): Promise<string[]> =>
  (await compared(a, b)).causes.map(({ sentence }) => sentence);

/** The newest without those changes from A to B that are wanted. */
async function takenBack(
  a: Uint8Array,
  b: Uint8Array,
  newest: Uint8Array,
  isWanted: (change: Comparison['changes'][number]) => boolean,
): Promise<Uint8Array> {
  const [contentA, contentB] = [await ifc(a), await ifc(b)];
  const all = await compareFiles(contentA, contentB);
  const changes = all.comparison.changes.flatMap((change, k) => (isWanted(change) ? [k] : []));
  expect(changes).not.toEqual([]);
  const made = await takeBackChanges(contentA, contentB, await ifc(newest), { compared: all, changes });
  expect(made.inseparable).toEqual([]);
  expect(made.clashes).toEqual([]);
  return made.bytes;
}

const indexOf = (content: Content, name: string): number =>
  content.design?.parts.findIndex((part) => part.name === name) ?? -1;

/** Records that nothing refers to and that are no relation, and numbers that stand for nothing. */
function looseEnds(bytes: Uint8Array): string[] {
  const text = strFromU8(bytes);
  const records = new Map(
    [...text.matchAll(/^#(\d+)=(\w*)(.*);$/gm)].map(([, id, type, rest]) => [id, { type, rest }]),
  );
  const used = new Set(
    [...records.values()].flatMap(({ rest = '' }) => [...rest.matchAll(/#(\d+)/g)].map(([, id]) => id)),
  );
  const missing = [...used].filter((id) => !records.has(id)).map((id) => `#${id} is missing`);
  const unused = [...records].filter(
    ([id, { type = '' }]) => !used.has(id) && !/^IFC(?:REL|STYLEDITEM|PROJECT)/.test(type),
  );
  return [...missing, ...unused.map(([id, { type }]) => `#${id} ${type} is not used`)];
}

test('one property of one element is taken back; every other record stays byte for byte', async () => {
  const [before, after] = [small(2), small(3)];
  const made = await takenBack(before, after, after, ({ part }) => part.name === 'Store door 3');
  const [only, ...others] = await sentencesOf(after, made);
  expect(others).toEqual([]);
  expect(only).toMatch(/Store door 3.*FireRating EI 60 → EI 30/);
  const [was, is] = [after, made].map((bytes) => new Set(strFromU8(bytes).split('\n')));
  expect([...was!].filter((line) => !is!.has(line)).length).toBeLessThan(8);
  expect(looseEnds(made)).toEqual(looseEnds(after));
});

test('a raised storey is taken back with all that stands on it, below what was changed later', async () => {
  const made = await takenBack(small(1), small(2), small(3), () => true);
  expect(await sentencesOf(made, small(3))).toEqual([expect.stringMatching(/^Storey “Upper deck” raised by 150 mm/)]);
  expect(await sentencesOf(small(1), made)).toEqual([expect.stringMatching(/FireRating/)]);
});

test('an exchanged type is taken back: all benches are as they were, and the new type is gone', async () => {
  const made = await takenBack(small(0), small(1), small(1), () => true);
  expect(await sentencesOf(small(0), made)).toEqual([]);
  expect(strFromU8(made)).not.toContain('Bench with back');
  expect(looseEnds(made)).toEqual(looseEnds(small(0)));
});

test('an element that was deleted is carried over from an older version, with its type, place and properties', async () => {
  const whole = small(3);
  const without = await takenOut(whole, 'Store door 2', 'Bench 1');
  expect(await sentencesOf(whole, without)).toEqual(expect.arrayContaining([expect.stringMatching(/Store door 2/)]));
  expect(looseEnds(without)).toEqual(looseEnds(whole));
  const from = await ifc(whole);
  const back = await carryOver(from, await ifc(without), { parts: [indexOf(from, 'Store door 2')] });
  const left = await sentencesOf(whole, back.bytes);
  expect(left).toHaveLength(1);
  expect(left[0]).toMatch(/Bench 1/);
  expect(looseEnds(back.bytes)).toEqual(looseEnds(whole));
});

/** By taking back that they were put in. */
async function takenOut(whole: Uint8Array, ...names: readonly string[]): Promise<Uint8Array> {
  const ids = names.map(
    (name) => new RegExp(`^#(\\d+)=IFC\\w+\\('[^']*',#\\d+,'${name}',.*$`, 'm').exec(strFromU8(whole))?.[1],
  );
  const text = ids.reduce<string>(
    (left, id) =>
      left
        .replace(new RegExp(`^#${id}=.*\\n`, 'm'), '')
        .replaceAll(new RegExp(`^#\\d+=IFCREL\\w+\\([^(]*\\(#${id}\\).*\\n`, 'gm'), '')
        .replaceAll(new RegExp(`#${id},(?=[^']*\\))|,#${id}(?=[,)])`, 'g'), ''),
    strFromU8(whole),
  );
  return takenBack(strToU8(text), whole, whole, ({ part }) => names.includes(part.name));
}

test('what two people changed of one model comes together; what both changed is asked', async () => {
  const base = small(2);
  const ours = small(3);
  const theirs = edited(base, [/'Roof'/g, "'Roof, sealed'"]);
  const joined = await joinFiles(await ifc(base), await ifc(ours), await ifc(theirs));
  expect(joined.clashes).toEqual([]);
  expect(await sentencesOf(theirs, joined.bytes)).toEqual(await sentencesOf(base, ours));
  expect(await sentencesOf(ours, joined.bytes)).toEqual(await sentencesOf(base, theirs));
  const rival = edited(base, [/'Roof'/g, "'Canopy'"]);
  const both = await joinFiles(await ifc(base), await ifc(theirs), await ifc(rival));
  expect(both.clashes.map(({ kind }) => kind)).toEqual(['both-changed']);
});

test('a version whose identities are all new gives its elements to one that has the old ones', async () => {
  const [old, anew] = [small(2), small(4)];
  const from = await ifc(anew);
  const made = await carryOver(from, await ifc(old), { parts: [indexOf(from, 'Store door 1')] });
  const said = await sentencesOf(old, made.bytes);
  expect(said).toHaveLength(1);
  expect(said[0]).toMatch(/Store door 1.*FireRating EI 30 → EI 60/);
});
