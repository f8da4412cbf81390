/** Drawings that place much within much end soon, and what is sound is told apart as before. */
import { defaultLimits } from '../../model/limits.ts';
import { readSvg } from './read.ts';
import { DefinitionTable } from './definitions.ts';
import { parseXml, type XmlElement } from '../xml/parse.ts';

const bytes = (inner: string): Uint8Array =>
  new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${inner}</svg>`);

/** Definitions of a drawing by their ids, and a table of them. */
function tableOf(inner: string): { table: DefinitionTable; of: (id: string) => string } {
  const root = parseXml(bytes(inner), defaultLimits, 'http://www.w3.org/2000/svg').root;
  const byId = new Map<string, XmlElement>();
  const survey = (element: XmlElement): void => {
    const { id } = element.attributes;
    if (id !== undefined) byId.set(id, element);
    for (const child of element.children) if (typeof child !== 'string') survey(child);
  };
  survey(root);
  const table = new DefinitionTable(byId);
  return { table, of: (id) => table.fingerprint(byId.get(id) as XmlElement) };
}

const chain = (length: number, end: string, prefix = 'd'): string =>
  Array.from({ length }, (_, i) => {
    const next = i + 1 < length ? `<use href="#${prefix}${i + 1}"/>`.repeat(10) : end;
    return `<g id="${prefix}${i}">${next}</g>`;
  }).join('');

test('a fingerprint follows references as deep as they go, whatever they are called', () => {
  const { of } = tableOf(
    chain(40, '<path d="M0 0h1"/>') +
      chain(40, '<path d="M0 0h1"/>', 'other') +
      chain(40, '<path d="M0 0h2"/>', 'third'),
  );
  expect(of('d0')).toBe(of('other0'));
  expect(of('d0')).not.toBe(of('third0'));
  expect(of('d0')).not.toBe(of('d1'));
});

test('references that lead back to themselves end, also where each has ten ways round', () => {
  const { of } = tableOf(
    `${chain(12, '<use href="#d0"/>'.repeat(10))}${chain(12, '<use href="#e0"/>'.repeat(10), 'e')}${chain(12, '<rect/>', 'f')}`,
  );
  expect(of('d0')).toBe(of('e0'));
  expect(of('d0')).not.toBe(of('f0'));
});

test('what leads into a circle is the same wherever one begins', () => {
  const circle = '<g id="a"><use href="#b"/></g><g id="b"><rect/><use href="#a"/></g><g id="in"><use href="#a"/></g>';
  const [one, other] = [tableOf(circle), tableOf(circle)];
  const first = ['a', 'b', 'in'].map(one.of);
  expect(['in', 'b', 'a'].map(other.of).toReversed()).toEqual(first);
  expect(new Set(first).size).toBe(3);
});

test('a small drawing that multiplies what it places is read as text, with a sentence', () => {
  expect(() =>
    readSvg(bytes(`<defs>${chain(12, '<path d="M0 0h1"/>')}</defs><use href="#d0"/>`), defaultLimits),
  ).toThrow(/places definitions more than 50,\d+ times/);
});

test('what a drawing of its size may well place is placed', () => {
  const bolts = `<g id="bolts">${'<use href="#bolt" x="1"/>'.repeat(10)}</g>`;
  const uses = Array.from({ length: 4000 }, (_, i) => `<use href="#bolts" x="${i}"/>`).join('');
  const design = readSvg(bytes(`<defs><circle id="bolt" r="1"/>${bolts}</defs>${uses}`), defaultLimits);
  expect(design.parts).toHaveLength(4000);
});

test('an element with thousands of attributes is damage', () => {
  const attributes = Array.from({ length: 5000 }, (_, i) => `a${i}="1"`).join(' ');
  expect(() => readSvg(bytes(`<rect ${attributes}/>`), defaultLimits)).toThrow(/more than 4,096 attributes/);
});
