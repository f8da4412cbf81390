/** What holds of every format, also of those that come later. */
import { kindIds } from '../model/card.ts';
import { cardOf, cards, detect, HEAD_BYTES, promisedBy } from './registry.ts';

const letters = new TextEncoder();
const filled = (text: string): Uint8Array =>
  letters.encode(text.repeat(Math.ceil(HEAD_BYTES / text.length))).subarray(0, HEAD_BYTES);

test('every format has an id of its own, and endings that nobody else takes first', () => {
  expect(new Set(cards.map((card) => card.id)).size).toBe(cards.length);
  for (const card of cards) {
    expect(cardOf(card.id)).toBe(card);
    for (const extension of card.extensions) expect(promisedBy(`a.${extension}`)?.extensions).toContain(extension);
  }
});

test.each(cards.map((card) => [card.id, card] as const))('%s can do what its card says', async (_, card) => {
  const format = await card.load();
  expect(format.card).toBe(card);
  expect(card.kinds.at(-1)).toBe('bytes');
  const ranks = card.kinds.map((kind) => kindIds.indexOf(kind));
  expect(ranks).toEqual([...ranks].sort((p, q) => p - q));
  for (const kind of card.kinds) if (kind !== 'bytes') expect(format.read[kind]).toBeInstanceOf(Function);
  if (card.layers) expect(typeof format.layers).toBe('function');
  if (card.lockable) expect(typeof format.unlock).toBe('function');
});

// A pattern that tries every way to cut such a beginning in pieces does not end within a lifetime.
test.each([
  ['blank lines', filled(' \n')],
  ['comments of a material file', filled('# \n')],
  ['blanks and comments by turns', filled(' \n#')],
  ['comments of a page', filled('<!-- -->')],
  ['comments of a drawing exchange file', filled('999\n\n')],
  ['opening brackets', filled('<')],
  ['braces', filled('{"a":')],
  ['zeros', new Uint8Array(HEAD_BYTES)],
])('%s without end are recognised, or not, at once', (_, head) => {
  expect(detect(head, 'a.xyz')?.kinds[0]).not.toBe('picture');
});
