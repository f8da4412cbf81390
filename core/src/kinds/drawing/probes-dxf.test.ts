/** One visible property of a DXF entity is changed at a time: “No change” is the worst that could be said. */
import { compareFiles, open } from '../../index.ts';

/** Group codes and values, a line each. */
const groups = (...pairs: readonly (readonly [code: number, value: string | number])[]): string =>
  pairs.map(([code, value]) => `${String(code).padStart(3)}\n${value}`).join('\n');

const section = (name: string, content: string): string =>
  [groups([0, 'SECTION'], [2, name]), content, groups([0, 'ENDSEC'])].filter((part) => part !== '').join('\n');

const layer = (name: string, ...more: readonly (readonly [number, string | number])[]): string =>
  groups([0, 'LAYER'], [2, name], [70, 0], [62, 7], [6, 'CONTINUOUS'], ...more);
const tables = (...layers: readonly string[]): string =>
  section(
    'TABLES',
    [groups([0, 'TABLE'], [2, 'LAYER'], [70, layers.length]), ...layers, groups([0, 'ENDTAB'])].join('\n'),
  );

/** What stays, so that the whole is not another drawing. */
const stays = [
  groups([0, 'CIRCLE'], [5, 'A1'], [8, 'DECK'], [10, 900], [20, 900], [40, 12]),
  groups([0, 'LINE'], [5, 'A2'], [8, 'DECK'], [10, 700], [20, 0], [11, 700], [21, 80]),
  groups([0, 'LINE'], [5, 'A3'], [8, 'DECK'], [10, 800], [20, 0], [11, 860], [21, 40]),
].join('\n');

const header = section('HEADER', groups([9, '$ACADVER'], [1, 'AC1027'], [9, '$INSUNITS'], [70, 4]));
const block = section(
  'BLOCKS',
  [
    groups([0, 'BLOCK'], [8, '0'], [2, 'BOLT'], [70, 0], [10, 0], [20, 0]),
    groups([0, 'CIRCLE'], [5, 'B1'], [8, '0'], [10, 0], [20, 0], [40, 5]),
    groups([0, 'ENDBLK']),
  ].join('\n'),
);

const drawing = (entity: string, layers: readonly string[] = [layer('0'), layer('DECK')]): Uint8Array =>
  new TextEncoder().encode(
    [header, tables(...layers), block, section('ENTITIES', `${stays}\n${entity}`), groups([0, 'EOF']), ''].join('\n'),
  );

type Pair = readonly [code: number, value: string | number];

/** An entity, and each of its groups that is changed: code and the other value. */
interface Probe {
  readonly entity: string;
  readonly pairs: readonly Pair[];
  readonly changes: Readonly<Record<string, Pair>>;
}

const probes: readonly Probe[] = [
  {
    entity: 'LINE',
    pairs: [
      [10, 10],
      [20, 10],
      [11, 200],
      [21, 60],
    ],
    changes: {
      'where it ends': [11, 210],
      'its colour': [62, 1],
      'its layer': [8, '0'],
      'its line type': [6, 'DASHED'],
      'its pen': [370, 50],
      'the scale of its line type': [48, 2],
      'that it is hidden': [60, 1],
      'its true colour': [420, 0x12ab34],
      'how far one sees through it': [440, 0x0200007f],
    },
  },
  {
    entity: 'CIRCLE',
    pairs: [
      [10, 100],
      [20, 100],
      [40, 25],
    ],
    changes: { 'its centre': [10, 104], 'its radius': [40, 26] },
  },
  {
    entity: 'ARC',
    pairs: [
      [10, 100],
      [20, 100],
      [40, 25],
      [50, 0],
      [51, 90],
    ],
    changes: { 'where it begins': [50, 10], 'where it ends': [51, 120] },
  },
  {
    entity: 'ELLIPSE',
    pairs: [
      [10, 100],
      [20, 100],
      [11, 40],
      [21, 0],
      [40, 0.5],
      [41, 0],
      [42, 6.283185307],
    ],
    changes: { 'its ratio': [40, 0.6], 'its long axis': [21, 5] },
  },
  {
    entity: 'TEXT',
    pairs: [
      [10, 100],
      [20, 100],
      [40, 10],
      [1, 'Gangway'],
      [7, 'STANDARD'],
    ],
    changes: {
      'its words': [1, 'Gangways'],
      'its height': [40, 12],
      'its turn': [50, 15],
      'its width': [41, 1.4],
      'its slant': [51, 12],
    },
  },
  {
    entity: 'MTEXT',
    pairs: [
      [10, 100],
      [20, 100],
      [40, 10],
      [41, 80],
      [71, 1],
      [1, 'Gangway lowered'],
    ],
    changes: { 'its words': [1, 'Gangway raised'], 'its height': [40, 12], 'how it is attached': [71, 5] },
  },
  {
    entity: 'LWPOLYLINE',
    pairs: [
      [90, 3],
      [70, 0],
      [43, 0],
      [10, 0],
      [20, 0],
      [10, 50],
      [20, 0],
      [10, 50],
      [20, 40],
    ],
    changes: { 'that it is closed': [70, 1], 'its width': [43, 4] },
  },
  {
    entity: 'INSERT',
    pairs: [
      [2, 'BOLT'],
      [10, 100],
      [20, 100],
      [41, 1],
      [42, 1],
      [50, 0],
    ],
    changes: { 'its place': [10, 120], 'its scale': [41, 2], 'its turn': [50, 45] },
  },
  {
    entity: 'POINT',
    pairs: [
      [10, 100],
      [20, 100],
    ],
    changes: { 'its place': [20, 108] },
  },
];

/** The entity with one group in place of its own, or added to it. */
function entityOf({ entity, pairs }: Probe, change?: Pair): string {
  const all: readonly Pair[] = [[5, 'C1'], [8, 'DECK'], ...pairs];
  const has = change !== undefined && all.some(([code]) => code === change[0]);
  const changed = all.map((pair) => (change !== undefined && pair[0] === change[0] ? change : pair));
  return groups([0, entity], ...changed, ...(change === undefined || has ? [] : [change]));
}

const summaryOf = async (before: Uint8Array, after: Uint8Array): Promise<string> =>
  (await compareFiles(await open(before, 'a.dxf'), await open(after, 'b.dxf'))).comparison.summary;

const cases = probes.flatMap((probe) =>
  Object.entries(probe.changes).map(([name, change]) => [`${probe.entity}: ${name}`, probe, change] as const),
);

test.each(cases)('%s', async (_, probe, change) => {
  const before = drawing(entityOf(probe));
  expect(await summaryOf(before, drawing(entityOf(probe)))).toBe('No change');
  expect(await summaryOf(before, drawing(entityOf(probe, change)))).not.toBe('No change');
});

test.each([
  ['its colour', layer('DECK').replace(/ 62\n7/, ' 62\n3')],
  ['that it is off', layer('DECK').replace(/ 62\n7/, ' 62\n-7')],
  ['that it is frozen', layer('DECK').replace(/ 70\n0/, ' 70\n1')],
  ['its line type', layer('DECK').replace('CONTINUOUS', 'DASHED')],
  ['its pen', layer('DECK', [370, 70])],
])('a layer: %s', async (_, changed) => {
  const entity = entityOf(probes[0]!);
  expect(await summaryOf(drawing(entity), drawing(entity, [layer('0'), changed]))).not.toBe('No change');
});
