import { inOrderOfBackups, numberedBackup } from './numbered.ts';

test('a numbered backup says what it is of', () => {
  expect(numberedBackup('deck/landing.0007.dxf')).toEqual({ of: 'deck/landing.dxf', number: 7 });
  expect(numberedBackup('sheet.2026.svg')).toEqual({ of: 'sheet.svg', number: 2026 });
});

test.each(['landing.dxf', 'landing.07.dxf', 'landing.0007', '.0007.dxf', 'v1.2.dxf', 'deck.0001/landing.dxf'])(
  'any other name says nothing: %s',
  (name) => {
    expect(numberedBackup(name)).toBeUndefined();
  },
);

test('backups come before their file, by their numbers and not by their letters', () => {
  expect(inOrderOfBackups(['b.dxf', 'a.dxf', 'a.0010.dxf', 'a.0009.dxf', 'b.001.dxf'])).toEqual([
    ...['a.0009.dxf', 'a.0010.dxf', 'a.dxf'],
    ...['b.001.dxf', 'b.dxf'],
  ]);
});
