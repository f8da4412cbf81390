/** One act of a person is one cause. */
import { DxfWriter } from '../../../formats/dxf/write.ts';
import { compared, sentences } from '../../../testing.ts';

const svg = (content: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 400" width="900" height="400">${content}</svg>`;
const found = async (a: string, b: string, name = 'railing.svg'): Promise<string[]> =>
  sentences(await compared(a, b, name));

/** A railing of some balusters, and two posts that stay. */
const railing = (first: number, pitch: number, count = 9): string =>
  `<rect x="20" y="80" width="20" height="240"/><rect x="860" y="80" width="20" height="240"/>${Array.from(
    { length: count },
    (_, k) => `<rect id="b${k}" x="${first + k * pitch}" y="100" width="6" height="200" fill="#555"/>`,
  ).join('')}`;

test.each([
  ['from the first on, which stays', railing(60, 24), railing(60, 30), 8, '24 → 30'],
  ['about the middle one, which stays', railing(204, 24), railing(180, 30), 8, '24 → 30'],
  ['and moved, but for the last', railing(60, 40), railing(100, 35), 8, '40 → 35'],
])('evenly set parts set anew %s', async (_, a, b, count, pitch) => {
  expect(await found(svg(a), svg(b))).toEqual([
    `${count} rectangles set anew, evenly: ${pitch} px from one to the next`,
  ]);
});

test('a grid of bolts set anew', async () => {
  const bolts = (across: number): string => {
    const drawing = new DxfWriter({ units: 4 }).line([0, 0], [900, 0]).line([0, 500], [900, 500]);
    for (let row = 0; row < 3; row++) for (let k = 0; k < 5; k++) drawing.circle([50 + k * across, 100 + row * 80], 6);
    return drawing.finish();
  };
  expect(await found(bolts(60), bolts(75), 'deck.dxf')).toEqual([
    '12 circles set anew, evenly: 60 → 75 mm from one to the next',
  ]);
});

test('parts that went each its own way were not set anew', async () => {
  const spread = (places: readonly number[]): string =>
    svg(places.map((x, k) => `<rect id="b${k}" x="${x}" y="100" width="6" height="200"/>`).join(''));
  const said = await found(spread([60, 100, 140, 180, 220]), spread([60, 117, 149, 203, 260]));
  expect(said.join()).not.toContain('set anew');
});

const sheets = (numbers: readonly number[]): string =>
  svg(numbers.map((n, k) => `<text id="t${k}" x="40" y="${40 + 30 * k}" font-size="14">Sheet ${n}</text>`).join(''));

test('numbers that went up because one was put in before them', async () => {
  expect(await found(sheets([1, 2, 3, 4, 5, 6, 7]), sheets([1, 2, 3, 5, 6, 7, 8]))).toEqual([
    '4 texts renumbered: “Sheet 5” to “Sheet 8”, each 1 more than before',
  ]);
});

test('two numbers that went up are two edits', async () => {
  const said = await found(sheets([1, 2, 3, 4]), sheets([1, 2, 4, 5]));
  expect(said.join()).not.toContain('renumbered');
});

test('parts of several layers put on one', async () => {
  const plan = (layers: readonly string[]): string => {
    const drawing = new DxfWriter({ units: 4 });
    for (const layer of new Set([...layers, 'deck'])) drawing.layer(layer);
    layers.forEach((layer, k) => drawing.line([0, k * 50], [300 + k * 7, k * 50], { layer }));
    return drawing.finish();
  };
  const before = ['walls', 'walls', 'bolts', 'bolts', 'marks', 'rails'];
  const [first, ...others] = await found(plan(before), plan(before.map(() => 'deck')), 'plan.dxf');
  expect(first).toBe('6 lines of 4 layers put on layer “deck”');
  expect(others.join()).not.toContain('put');
});

test('a small component that was swapped is an edit, however little of it shows on the whole sheet', async () => {
  const plan = (hole: number): string => {
    const drawing = new DxfWriter({ units: 4 }).block('cleat', [0, 0], (b) => b.circle([0, 0], 9).circle([0, 0], hole));
    for (let k = 0; k < 24; k++) drawing.placement('cleat', [k * 900, (k % 5) * 1400]);
    return drawing.line([0, 0], [24_000, 0]).finish();
  };
  expect(await found(plan(4), plan(4.5), 'deck.dxf')).toEqual([
    expect.stringMatching(/^Block “cleat” changed: 24 placements/),
  ]);
});

test('a small symbol that changed is an edit, too', async () => {
  const sign = (edge: number): string =>
    svg(
      `<symbol id="bolt" overflow="visible"><rect x="-4" y="-4" width="8" height="8" fill="#446"/><rect x="-2" y="-2" width="${edge}" height="4" fill="#557"/></symbol>${Array.from({ length: 10 }, (_, k) => `<use href="#bolt" x="${50 + 80 * k}" y="200"/>`).join('')}`,
    );
  expect(await found(sign(4), sign(4.6))).toEqual([expect.stringMatching(/^Symbol “bolt” changed: 10 placements/)]);
});
