import { checkName, cleanFileName } from './names.ts';

describe('names that people type', () => {
  test.each([
    ['  Pier ', 'Pier'],
    ['Gru\u0308n', 'Grün'],
    ['a.b (2).svg', 'a.b (2).svg'],
    ['…', '…'],
  ])('%j is %j', (given, name) => expect(checkName(given, 'file')).toBe(name));

  test.each([
    ['', /A folder needs a name/],
    ['   ', /needs a name/],
    ['a/b', /can't contain \/ or \\/],
    ['a\\b', /can't contain/],
    ['a\u0000b', /cannot be seen/],
    ['a\u202eb', /turn the direction of writing/],
    ['.', /“\.” can't be the name/],
    ['..', /“\.\.” can't be the name/],
    ['x'.repeat(201), /has 201 characters; a folder's name can have at most 200/],
  ])('%j is refused with a sentence', (given, sentence) => expect(() => checkName(given, 'folder')).toThrow(sentence));
});

describe('names of files that are sent', () => {
  test('are kept where they can be', () =>
    expect(cleanFileName('plan (final).svg')).toEqual({ name: 'plan (final).svg', hint: undefined }));

  test.each([
    ['C:\\drawings\\plan.svg', 'plan.svg'],
    ['../../etc/passwd', 'passwd'],
    ['a\u0007b\u202e.svg', 'ab.svg'],
    ['', 'unnamed'],
    ['..', 'unnamed'],
    [`${'x'.repeat(300)}.svg`, `${'x'.repeat(196)}.svg`],
    ['x'.repeat(300), 'x'.repeat(200)],
  ])('%j becomes usable, and that is said', (given, name) => {
    const cleaned = cleanFileName(given);
    expect(cleaned.name).toBe(name);
    expect(cleaned.hint).toContain(`“${name}”`);
  });
});
