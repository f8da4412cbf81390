import { ReadError } from '../../../model/problem.ts';
import { Digests } from './digest.ts';
import { scanStep, type StepFile } from './scan.ts';
import { callsOf, Enumerated, Ref, Typed } from './values.ts';
import { wordsOfStep } from './words.ts';

const bytes = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const scan = (...records: string[]): StepFile =>
  scanStep(
    bytes(
      `ISO-10303-21;HEADER;FILE_NAME('a; b.ifc','2026-06-02T09:14:00',('Ines'),(''),'writer','program','');FILE_SCHEMA(('IFC4'));ENDSEC;DATA;\n${records.join('\n')}\nENDSEC;\nEND-ISO-10303-21;\n`,
    ),
  );

test('every sort of value is read', () => {
  const [call] = callsOf(`IFCX('it''s',$,*,#12,(1.,-2.5E-3,()),.T.,IFCLABEL('a,b'),"0F",3)`);
  expect(call).toEqual({
    type: 'IFCX',
    values: [
      "it's",
      null,
      null,
      new Ref(12),
      [1, -0.0025, []],
      new Enumerated('T'),
      new Typed('IFCLABEL', 'a,b'),
      '0F',
      3,
    ],
  });
});

test('a record of several types has a call for each', () => {
  expect(callsOf('( LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT(.MILLI.,.METRE.) )').map(({ type }) => type)).toEqual([
    'LENGTH_UNIT',
    'NAMED_UNIT',
    'SI_UNIT',
  ]);
});

test.each(["A('unfinished)", 'A(1,2', 'A(1 2)', 'A(#)', 'A(1.2.3)', `A(${'('.repeat(100)}${')'.repeat(100)})`, ''])(
  '%s cannot be read',
  (damaged) => {
    expect(() => callsOf(damaged)).toThrow(RangeError);
  },
);

test('words are decoded: doubled quotes, letters by number, pairs of them, and bytes of UTF-8', () => {
  expect(wordsOfStep(String.raw`Br\X2\00FC\X0\cke \X\E9 \S\d ''x'' C:\\a`)).toBe("Brücke é ä 'x' C:\\a");
  expect(wordsOfStep(String.raw`\X2\D83DDE00\X0\ \X4\0001F600\X0\ `)).toBe('😀 😀 ');
  expect(wordsOfStep('StÃ¤nder')).toBe('Ständer');
  expect(wordsOfStep('St\u00e4nder')).toBe('Ständer');
});

test('records are found whatever stands in their words and remarks, each with its bytes', () => {
  const file = scan("#1=A('x; #2=B(1);');/* #3=C(); */", '#10 = B ( #1 ) ;', '#4=(D(1)E(2));');
  expect([...file.types]).toEqual(['A', 'B', '']);
  expect(file.count).toBe(3);
  expect(file.values(10)).toEqual([new Ref(1)]);
  expect(file.calls(4).map(({ type }) => type)).toEqual(['D', 'E']);
  expect(file.values(99)).toEqual([]);
  expect(file.isWhole).toBe(true);
  expect(file.header).toMatchObject({
    name: 'a; b.ifc',
    schema: 'IFC4',
    program: 'program',
    authors: ['Ines'],
    written: '2026-06-02T09:14:00',
  });
});

test('a file that was cut off has its whole records, and is not whole', () => {
  const all = new TextEncoder().encode(`ISO-10303-21;HEADER;ENDSEC;DATA;#1=A(1);#2=B('cut`);
  const file = scanStep(all);
  expect(file.count).toBe(1);
  expect(file.isWhole).toBe(false);
  expect(new TextDecoder().decode(all.subarray(...file.span(1)))).toBe('#1=A(1);');
});

test('what has no records is refused with a sentence', () => {
  expect(() => scanStep(bytes('ISO-10303-21;HEADER;ENDSEC;'))).toThrow(ReadError);
  expect(() => scanStep(bytes('ISO-10303-21;DATA;ENDSEC;END-ISO-10303-21;'))).toThrow('no records');
});

test('a digest tells content, not numbers, and circles end', () => {
  const one = new Digests(scan('#1=A(#2,1.5);', "#2=B('x',#3);", '#3=C(#1);'));
  const renumbered = new Digests(scan("#21=B('x',#31);", '#31=C(#11);', '#11=A(#21,1.5);'));
  const other = new Digests(scan('#1=A(#2,1.5);', "#2=B('y',#3);", '#3=C(#1);'));
  expect(one.of(1)).toBe(renumbered.of(11));
  expect(one.of(1)).not.toBe(other.of(1));
});
