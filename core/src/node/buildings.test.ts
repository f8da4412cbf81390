/** Building models and STEP models compared as people do it: files in, sentences out. */
import './index.ts';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { hinge } from '../../../demo/models/hinge.ts';
import { shelter } from '../../../demo/models/shelter.ts';
import {
  compareFiles,
  flatDesign,
  flatViewsOf,
  joinFiles,
  open,
  writtenFlat,
  type Content,
  type Solid,
} from '../index.ts';
import { block, stlOf } from '../mesh/testing.ts';
import type { Comparison } from '../contract/comparison.ts';
import { readIfc } from '../formats/ifc/read.ts';
import { readStep } from '../formats/step/read.ts';
import { defaultLimits } from '../model/limits.ts';

/** Text in place of other text, all over. */
const edited = (bytes: Uint8Array, ...edits: readonly (readonly [string | RegExp, string])[]): Uint8Array =>
  strToU8(edits.reduce((text, [from, to]) => text.replaceAll(from, to), strFromU8(bytes)));

const ifc = (bytes: Uint8Array): Promise<Content> => open(bytes, 'shelter.ifc');
const step = (bytes: Uint8Array): Promise<Content> => open(bytes, 'hinge.step');

async function compared(a: Promise<Content>, b: Promise<Content>): Promise<Comparison> {
  return (await compareFiles(await a, await b)).comparison;
}
const sentences = ({ causes }: Comparison): string[] => causes.map(({ sentence }) => sentence);

test('a model whose shapes the engine would look for without an end is told by its elements', async () => {
  const [was, broken] = ["IFCSHAPEREPRESENTATION(#10,'Body'", "IFCSHAPEREPRESENTATION\xe0#10,'Body'"];
  const text = strFromU8(shelter(3)).replace(was, broken);
  const endless = await ifc(strToU8(text, true));
  expect(endless.kinds[0]).toBe('solid');
  expect(endless.design?.notes.join(' ')).toContain('could not be worked out. Its elements are listed without them.');
  const renamed = await ifc(strToU8(text.replace("'Roof'", "'Canopy'"), true));
  expect((await compareFiles(endless, renamed)).comparison.changes.map(({ part }) => part.name)).toEqual(['Canopy']);
});

describe('elements of a type that are drawn elsewhere than they are placed', () => {
  const text = strFromU8(shelter(4));
  const origins = /IFCCARTESIANPOINT\(\(0\.,0\.,0\.\)\);(?=\n#\d+=IFCCARTESIANTRANSFORMATIONOPERATOR3D)/g;
  const shifted = (every: number): Uint8Array => {
    let found = 0;
    return strToU8(text.replace(origins, (at) => (found++ % every === 0 ? at.replace('(0.', '(300.') : at)));
  };

  test.each([100, 20, 2])('are moved: one of %i of them', async (every) => {
    const count = Math.ceil([...text.matchAll(origins)].length / every);
    const { causes, changes } = await compared(ifc(strToU8(text)), ifc(shifted(every)));
    expect(changes).toHaveLength(count);
    expect(causes.map(({ sentence }) => sentence)).toEqual([expect.stringMatching(/moved .*by \(300, 0, 0\) mm$/)]);
  });

  test('have not moved where what they are placed by makes up for it', async () => {
    const made = text.replace(
      /(IFCCARTESIANPOINT\(\()0\.(,0\.,0\.\)\);\n#\d+=IFCCARTESIANTRANSFORMATIONOPERATOR3D[^\n]*\n[^\n]*\n[^\n]*\n#\d+=IFCCARTESIANPOINT\(\()(-?\d+)\./g,
      (_, before: string, between: string, x: string) => `${before}300.${between}${Number(x) - 300}.`,
    );
    expect(made).not.toBe(text);
    expect(sentences(await compared(ifc(strToU8(text)), ifc(strToU8(made))))).toEqual([]);
  });
});

describe('a packed building model', () => {
  const packed = (name: string, bytes: Uint8Array): Uint8Array =>
    zipSync({ 'readme.txt': strToU8('of the landing'), [name]: bytes });

  test('is the model within: nothing changed beside the one that is not packed, and what changed is told', async () => {
    const opened = open(packed('Shelter.IFC', shelter(0)), 'shelter.ifczip');
    expect(sentences(await compared(opened, ifc(shelter(0))))).toEqual([]);
    expect(sentences(await compared(opened, ifc(shelter(1))))).toEqual([
      expect.stringMatching(/^Type “Bench” replaced by “Bench with back”: 24 placements/),
    ]);
  });

  test.each([
    ['without a model', packed('plan.dxf', shelter(0)), 'There is no model in this package.'],
    ['that is cut off', packed('a.ifc', shelter(0)).subarray(0, 900), 'The package cannot be opened'],
  ])('one %s is kept and says why', async (_, bytes, sentence) => {
    const { kinds, problem } = await open(bytes, 'shelter.ifczip');
    expect(kinds[0]).toBe('bytes');
    expect(problem?.sentence).toContain(sentence);
  });

  test('one that holds very much is refused before it is unpacked', async () => {
    const bytes = packed('a.ifc', new Uint8Array(3_000_000).fill(32));
    const { problem } = await open(bytes, 'shelter.ifczip', { ...defaultLimits, bytes: 1_000_000 });
    expect(problem?.code).toBe('too-large');
  });
});

describe('a building model', () => {
  test('has its elements with class, type, storey, discipline, properties and place', async () => {
    const { parts, pages, definitions, origin, notes } = await readIfc(shelter(0), defaultLimits);
    expect(notes).toEqual([]);
    expect(origin).toEqual({ formatVersion: 'IFC4', program: 'Slipway Modeller 2.1', units: 'mm' });
    expect(pages.map(({ name }) => name)).toEqual(['No storey', 'Pontoon deck', 'Upper deck']);
    expect(parts).toHaveLength(118);
    const door = parts.find(({ name }) => name === 'Store door 3');
    expect(door).toMatchObject({
      kind: 'door',
      category: 'architecture',
      page: 1,
      parents: ['Landing site', 'Shelter'],
      props: { type: 'Store door 900', FireRating: 'EI 30', IsExternal: false, colour: '#b88c5c' },
      box: [4550, 6070, 5450, 6130],
    });
    expect(door!.space!.rise.map(Math.round)).toEqual([0, 2050]);
    expect(definitions[door!.definition!]).toMatchObject({ kind: 'type', name: 'Store door 900' });
    const disciplines = Map.groupBy(parts, ({ category }) => category);
    expect(disciplines.get('electrical')).toHaveLength(16);
    expect(disciplines.get('piping and drainage')).toHaveLength(4);
    expect(disciplines.get('furniture')).toHaveLength(24);
  });

  test.each([
    [0, ['Type “Bench” replaced by “Bench with back”: 24 placements']],
    [1, ['Storey “Upper deck” raised by 150 mm with 52 elements']],
    [2, ['18 parts: FireRating EI 30 → EI 60']],
    [3, ['Exported anew by Harbour Exchange 2.1: all 118 identities are new, nothing else']],
  ] as const)('what was done after version %s of the shelter is one cause', async (k, said) => {
    const found = await compared(ifc(shelter(k)), ifc(shelter((k + 1) as 1)));
    expect(found.level).toBe('solid');
    expect(sentences(found)).toEqual(said);
  });

  test('one type of four hundred placements that was exchanged is one cause', async () => {
    const before = shelter(0, { benches: 400 });
    const after = shelter(1, { benches: 400 });
    const found = await compared(ifc(before), ifc(after));
    expect(sentences(found)).toEqual(['Type “Bench” replaced by “Bench with back”: 400 placements']);
    expect(found.counts).toMatchObject({ added: 0, removed: 0, changed: 400 });
  });

  test('an element that went to another storey, another name, another class and another material are told', async () => {
    const from = shelter(0);
    const renamed = await compared(ifc(from), ifc(edited(from, ["'Wall panel 4'", "'Wall panel 4b'"])));
    expect(sentences(renamed)).toEqual(['Wall “Wall panel 4b”: name Wall panel 4 → Wall panel 4b']);
    const other = await compared(ifc(from), ifc(edited(from, [/=IFCROOF\(/g, '=IFCCOVERING('])));
    expect(sentences(other)).toEqual(['Covering “Roof” was classified as roof before']);
  });

  test('a type with another name and the same shape is told all the same', async () => {
    const from = shelter(0);
    const found = await compared(ifc(from), ifc(edited(from, ["'Store door 900'", "'Store door 901'"])));
    expect(sentences(found)).toEqual(['6 doors: type Store door 900 → Store door 901']);
  });

  test('in metres it is the same model in another unit', async () => {
    const from = shelter(0);
    const found = await compared(ifc(from), ifc(edited(from, ['.LENGTHUNIT.,.MILLI.', '.LENGTHUNIT.,$'])));
    expect(found.unit).toBe('m');
    expect(found.summary).not.toBe('No change');
  });

  test('cut off it has what stands before, with a note; what is missing is said, never “No change”', async () => {
    const found = await compared(ifc(shelter(4)), ifc(shelter(5)));
    expect(found.b.notes.join(' ')).toContain('does not end where it should');
    expect(found.counts.removed).toBeGreaterThan(40);
  });

  test('without shapes its elements are compared all the same, and another shape is seen', async () => {
    // Profiles that the engine does not know.
    const blind = (bytes: Uint8Array): Uint8Array =>
      edited(bytes, [/=IFCRECTANGLEPROFILEDEF\(/g, '=IFCUNKNOWNPROFILE(']);
    const { parts } = await readIfc(blind(shelter(0)), defaultLimits);
    expect(parts.filter(({ space }) => space)).toHaveLength(0);
    const same = await compared(ifc(blind(shelter(0))), ifc(blind(shelter(0))));
    expect(same.summary).toBe('No change');
    const taller = edited(blind(shelter(0)), [/,2700\.\)/g, ',2650.)']);
    const found = await compared(ifc(blind(shelter(0))), ifc(taller));
    expect(found.counts.changed).toBe(28);
    expect(sentences(found)).toEqual(['28 parts reshaped']);
  });

  test('a file without any element is compared by its lines', async () => {
    const empty = edited(shelter(0), [/^#\d+=IFC(?!PROJECT|SI|UNIT|OWNER|PERSON|ORG|APP).*$/gm, '']);
    const found = await compared(ifc(empty), ifc(shelter(0)));
    expect(found.level).toBe('text');
  });
});

describe('a model beside a drawing', () => {
  const posts = [0, 1, 2, 3].map((k) => block([1000 * k, 400, 0], [120, 120, 2600]));
  const deck = stlOf(block([-500, 0, -200], [4500, 2500, 200]), ...posts);

  test('its plan is found, laid over the drawing, and the same; what the drawing lacks is shown', async () => {
    const model = await open(deck, 'deck.stl');
    const solid = model.design as Solid;
    const drawn = flatDesign(solid, [flatViewsOf(solid)[0]!]);
    const dxf = writtenFlat(drawn, 'dxf');
    for (const pair of [
      [model, await open(dxf, 'plan.dxf')],
      [await open(dxf, 'plan.dxf'), model],
    ] as const) {
      const { comparison } = await compareFiles(...pair);
      expect(comparison.notes.join(' ')).toContain('Plan of the');
      expect(comparison.summary).toBe('No change');
    }
    const lines = strFromU8(dxf).split(/(?=^0\nLINE\n)/m);
    const less = strToU8([...lines.slice(0, 5), ...lines.slice(9)].join(''));
    const { comparison } = await compareFiles(await open(less, 'plan.dxf'), model);
    expect(comparison.counts.added + comparison.counts.changed).toBeGreaterThan(0);
  });
});

describe('a STEP model', () => {
  test('has its products in their assembly, placements of one shape as such, and its unit', async () => {
    const { parts, definitions, origin } = await readStep(hinge(0), defaultLimits);
    expect(origin).toEqual({ formatVersion: 'AUTOMOTIVE_DESIGN', program: 'Slipway Solids 4', units: 'mm' });
    expect(parts).toHaveLength(16);
    expect(definitions.map(({ name }) => name).sort()).toEqual(['Bolt M16', 'Knuckle 60', 'Leaf 300 x 240', 'Washer']);
    const bolts = parts.filter(({ name }) => name === 'Bolt M16');
    expect(bolts).toHaveLength(4);
    expect(bolts[0]).toMatchObject({ parents: ['Gangway hinge', 'Fixed leaf'] });
    expect(bolts[0]!.space!.placing.slice(12, 15).map(Math.round)).toEqual([-90, -70, -42]);
    expect(bolts[0]!.space!.rise.map(Math.round)).toEqual([-42, 18]);
  });

  test.each([
    [0, [/^Material added: 40 × 40 × 40 mm, .* on “Pin”$/]],
    [1, [/^2 products added$/, /^2 products added$/, /^3 products turned together by 18° about x$/]],
    [2, [/^Product “Bolt M16” replaced by “Bolt M20”: 6 placements$/]],
  ] as const)('what was done after version %s of the hinge', async (k, said) => {
    const found = sentences(await compared(step(hinge(k)), step(hinge((k + 1) as 1))));
    expect(found).toEqual(said.map((words) => expect.stringMatching(words) as string));
  });

  test('cut off its products are listed; what cannot be seen is never “No change”', async () => {
    const cut = (bytes: Uint8Array): Uint8Array => edited(bytes, [/^END-ISO.*$/gm, ''], [/ADVANCED_FACE/g, 'NO_FACE']);
    const { parts, notes } = await readStep(cut(hinge(0)), defaultLimits);
    expect(parts).toHaveLength(16);
    expect(notes.join(' ')).toMatch(/does not end where it should.*listed without them/s);
    const found = await compared(step(cut(hinge(0))), step(cut(hinge(1))));
    expect(sentences(found)).toEqual(['Product “Pin” reshaped: as it was → another shape']);
  });
});

describe('two lines of a building model', () => {
  const rated = (bytes: Uint8Array): Uint8Array => edited(bytes, ["'EI 30'", "'EI 60'"]);
  const named = (bytes: Uint8Array): Uint8Array => edited(bytes, ["'Downpipe 2'", "'Downpipe B'"]);

  test('are joined by their records, which stand on lines, and nothing else of the file is touched', async () => {
    const base = shelter(0);
    const [ours, theirs] = [rated(base), named(base)];
    const joined = await joinFiles(await ifc(base), await ifc(ours), await ifc(theirs));
    expect(joined.clashes).toEqual([]);
    expect(strFromU8(joined.bytes)).toBe(strFromU8(named(rated(base))));
  });
});
