import { defaultLimits } from '../../model/limits.ts';
import { parseXml, type XmlDocument, type XmlElement } from './parse.ts';
import { Entities } from './entities.ts';
import { decodeXml } from './decode.ts';

const MAIN = 'urn:main';
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const parse = (text: string): XmlDocument => parseXml(bytes(text), defaultLimits, MAIN);
const child = (e: XmlElement, i: number): XmlElement => e.children[i] as XmlElement;

describe('elements', () => {
  test('nest, keep their attributes, and know their parents', () => {
    const { root, elements } = parse(`<a x="1" y='two'><b/><c z="3">text</c></a>`);
    expect(elements).toBe(3);
    expect({ ...root.attributes }).toEqual({ x: '1', y: 'two' });
    expect(child(root, 0).name).toBe('b');
    expect(child(root, 1).children).toEqual(['text']);
    expect(child(root, 1).parent).toBe(root);
  });

  test('know the bytes where they begin, where their tag ends, and where they end', () => {
    const text = '<a><b k="ü">x</b></a>';
    const b = child(parse(text).root, 0);
    const cut = (from: number, to: number): string => new TextDecoder().decode(bytes(text).slice(from, to));
    expect(cut(b.start, b.end)).toBe('<b k="ü">x</b>');
    expect(cut(b.start, b.openEnd)).toBe('<b k="ü">');
  });

  test('lose a prefix that is bound to the main namespace, and keep others', () => {
    const { root } = parse('<m:a xmlns:m="urn:main" xmlns:o="urn:other"><m:b/><o:c/></m:a>');
    expect(root.name).toBe('a');
    expect(child(root, 0).name).toBe('b');
    expect(child(root, 1).name).toBe('o:c');
  });

  test('may carry the names of built-in properties as attributes', () => {
    expect(parse('<a constructor="1" __proto__="2" toString="3"/>').root.attributes['constructor']).toBe('1');
  });

  test('spread over lines, with white space where XML allows it', () => {
    const { root } = parse(
      '<?xml version="1.0"?>\n<!-- a <comment> -->\n<a\n  x = "1"\n  y\t=\n"2"\n>\n</a >\n<!-- after -->\n',
    );
    expect({ ...root.attributes }).toEqual({ x: '1', y: '2' });
  });
});

describe('text', () => {
  test('keeps CDATA as it is and drops comments and instructions', () => {
    expect(parse('<a>one<!-- two --><![CDATA[<three> & ]]><?four?>five</a>').root.children).toEqual([
      'one',
      '<three> & ',
      'five',
    ]);
  });

  test('knows character references, in both notations, and leaves nonsense as written', () => {
    expect(parse('<a>&#65;&#x42;&lt;&amp;&quot;&apos;&gt;</a>').root.children).toEqual(['AB<&"\'>']);
    expect(parse('<a>&#0;&#xD800;&unknown; &</a>').root.children).toEqual(['&#0;&#xD800;&unknown; &']);
  });

  test('of white space alone does not count', () => {
    expect(parse('<a>  \n <b/>\t</a>').root.children).toHaveLength(1);
  });
});

describe('encodings', () => {
  test.each([
    ['UTF-8 with a mark', Buffer.from('\ufeff<a>é</a>', 'utf8')],
    ['UTF-16, little end first', Buffer.from('\ufeff<a>é</a>', 'utf16le')],
    ['UTF-16, big end first', Buffer.from('\ufeff<a>é</a>', 'utf16le').swap16()],
    ['UTF-16 without a mark', Buffer.from('<a>é</a>', 'utf16le')],
    ['Latin 1 as declared', Buffer.from('<?xml version="1.0" encoding="iso-8859-1"?><a>é</a>', 'latin1')],
  ])('%s', (_, content) =>
    expect(parseXml(Uint8Array.from(content), defaultLimits, MAIN).root.children).toEqual(['é']),
  );

  test('an unknown one is named in a sentence', () => {
    expect(() => parse('<?xml version="1.0" encoding="klingon-8"?><a/>')).toThrow(
      /“klingon-8”, which Ovrel does not know/,
    );
  });

  test('a byte is one character of the scan, whatever it means', () => {
    const all = Uint8Array.from({ length: 256 }, (_, i) => i);
    expect(decodeXml(Uint8Array.from([0x3c, 0x61, ...all])).scan).toHaveLength(258);
  });
});

describe('entities', () => {
  test('are expanded one level, the first declaration winning', () => {
    const entities = new Entities();
    entities.declare('<!ENTITY a "one"> <!ENTITY a "two"> <!ENTITY b \'x &amp; y\'>', 0);
    expect(entities.expand('&a; &b; &c;')).toBe('one x & y &c;');
  });

  test('that name themselves or one another are refused with the name', () => {
    expect(() => new Entities().declare('<!ENTITY a "&a;">', 0)).toThrow(/“a” by way of another entity \(“a”\)/);
    expect(() => new Entities().declare('<!ENTITY a "x"><!ENTITY b "&a;">', 0)).toThrow(/entity “b”/);
  });

  test('from outside are left out, and told', () => {
    const { root, notes } = parse('<!DOCTYPE a [<!ENTITY o SYSTEM "http://example.org/x">]><a>[&o;]</a>');
    expect(root.children).toEqual(['[]']);
    expect(notes.join()).toMatch(/outside itself \(o\); it was not fetched/);
  });

  test('parameter entities are not expanded', () => {
    expect(parse('<!DOCTYPE a [<!ENTITY % p "x">]><a>%p;</a>').root.children).toEqual(['%p;']);
  });
});

describe('what is not well formed is refused with its place', () => {
  test.each([
    ['<a><b></a></b>', /<\/a> at byte 6 does not close <b>, which begins at byte 3/],
    ['<a/></b>', /<\/b> at byte 4 closes nothing/],
    ['<a/><b/>', /A second root element, <b>, begins at byte 4/],
    ['<a>< b/></a>', /“<” at byte 3 does not begin an element/],
    ['<a x>', /attribute without a value \(“x”\)/],
    ['<a x=1>', /no quotes/],
    ['<a x="1', /stops in the middle of <a>/],
    ['<a><!-- ', /stops inside a comment that begins at byte 3/],
    ['<a><![CDATA[ ', /stops inside a CDATA section/],
    ['<a></a', /stops inside a closing tag|before <a>/],
    ['<!DOCTYPE a [', /stops inside the document type/],
    ['   ', /no XML element/],
  ])('%s', (text, sentence) => expect(() => parse(text)).toThrow(sentence));
});
