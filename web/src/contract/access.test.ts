import { byDefault, completed, meanings, projectRoleOf, projectRoles, rights, rightsOf, same } from './access.ts';
import { rightCards } from './rights/index.ts';

test('each role has all that the one before it has', () => {
  const roles = ['nothing', 'newest only', 'reader', 'checker', 'editor', 'lead'] as const;
  expect(projectRoles.nothing).toEqual([]);
  expect(projectRoles.lead).toEqual(rights);
  for (const [less, more] of [
    ['nothing', 'newest only'],
    ['newest only', 'reader'],
    ['reader', 'checker'],
    ['reader', 'editor'],
    ['editor', 'lead'],
  ] as const)
    for (const right of projectRoles[less]) expect(projectRoles[more]).toContain(right);
  expect(roles.map(String).toSorted()).toEqual(Object.keys(projectRoles).toSorted());
});

test('a role is known by its rights, in whatever order; others are none', () => {
  for (const [role, held] of Object.entries(projectRoles)) expect(projectRoleOf([...held].reverse())).toBe(role);
  expect(projectRoleOf(['see', 'manage'])).toBeUndefined();
});

test('a right brings along what it needs, and what that needs', () => {
  expect(completed(['bring forward'])).toEqual(expect.arrayContaining(['see', 'see old versions', 'bring forward']));
  expect(completed([])).toEqual([]);
  expect(completed(rights)).toEqual(rights);
  for (const role of Object.values(projectRoles)) expect(same(completed(role), role)).toBe(true);
});

test('what a place says is a role, looked up when it is asked for, or rights one by one', () => {
  expect(rightsOf('reader', null)).toBe(projectRoles.reader);
  expect(rightsOf(null, ['see'])).toEqual(['see']);
  expect(rightsOf(null, null)).toEqual([]);
});

test('people in Ovrel have the rights of their like in a project; guests none', () => {
  expect(byDefault.guest).toEqual([]);
  expect(byDefault.reader).toEqual(projectRoles.reader);
  expect(byDefault.administrator).toEqual(rights);
});

test('each right says what it is and what somebody without it cannot do', () => {
  for (const { id, doing } of rightCards) {
    expect(meanings[id]).toMatch(/^[A-Z].*\.$/);
    expect(`you can't ${doing}`).toMatch(/^you can't [a-z]/);
  }
});

test('rights need only rights that there are', () => {
  const known = new Set<string>(rights);
  for (const card of rightCards) for (const needed of card.needs) expect(known).toContain(needed);
});
