import { deskStatus, guesses } from './status.ts';

test.each([
  ['same as newest', { here: 'a', base: 'a', newest: 'a' }],
  ['same as newest', { here: 'a', base: 'z', newest: 'a' }],
  ['same as newest', { here: 'a', base: undefined, newest: 'a' }],
  ['changed here', { here: 'b', base: 'a', newest: 'a' }],
  ['newer on the server', { here: 'a', base: 'a', newest: 'b' }],
  ['changed on both', { here: 'c', base: 'a', newest: 'b' }],
  ['changed on both', { here: 'c', base: undefined, newest: 'b' }],
  ['not on this desk', { here: undefined, base: 'a', newest: 'a' }],
  ['not in Ovrel', { here: 'a', base: undefined, newest: undefined }],
] as const)('%s: %j', (status, stand) => expect(deskStatus(stand)).toBe(status));

describe('unknown files', () => {
  const missing = [
    { fileId: '1', path: 'plan.svg', hash: 'p' },
    { fileId: '2', path: 'signs/gate.svg', hash: 'g' },
    { fileId: '3', path: 'old/gate.svg', hash: 'x' },
  ];

  test('are known again by their content under another name', () =>
    expect(guesses([{ path: 'plan final.svg', hash: 'p' }], missing)).toEqual([
      { path: 'plan final.svg', fileId: '1', because: 'content' },
    ]));

  test('are known again by their name in another folder, changed or not, unless two have it', () => {
    expect(guesses([{ path: 'new/PLAN.svg', hash: 'changed' }], missing)).toEqual([
      { path: 'new/PLAN.svg', fileId: '1', because: 'name' },
    ]);
    expect(guesses([{ path: 'gate.svg', hash: 'changed' }], missing)).toEqual([]);
    // The content settles which of the two it is; the other name is free then.
    expect(
      guesses(
        [
          { path: 'b.svg', hash: 'g' },
          { path: 'c/gate.svg', hash: 'n' },
        ],
        missing,
      ),
    ).toEqual([
      { path: 'b.svg', fileId: '2', because: 'content' },
      { path: 'c/gate.svg', fileId: '3', because: 'name' },
    ]);
  });

  test('that resemble nothing stay unknown', () =>
    expect(guesses([{ path: 'ferry.svg', hash: 'f' }], missing)).toEqual([]));
});
