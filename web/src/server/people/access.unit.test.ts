import { byDefault, completed, projectRoleOf, projectRoles, rights, type Right } from '../../contract/access.ts';
import type { Role } from '../../contract/api.ts';
import { deciding, rightsFrom, Scope, type Said } from './access.ts';

const ann = 'ann';
const ben = 'ben';
const said = (folder_id: string | null, person_id: string | null, held: readonly Right[]): Said => ({
  folder_id,
  person_id,
  rights: held,
});
const path = ['inner', 'outer', null];
const held = (
  list: readonly Said[],
  at: readonly (string | null)[] = path,
  role: Role = 'reader',
  id = ann,
): readonly Right[] => rightsFrom(list, { id, role }, at);

test('where nothing is said, the role in Ovrel decides', () => {
  for (const [role, expected] of Object.entries(byDefault)) expect(held([], path, role as Role)).toEqual(expected);
  expect(held([], path, 'guest')).toEqual([]);
});

test('the nearest place decides: a folder before the one above it, and that before the project', () => {
  const list = [
    said(null, ann, projectRoles.lead),
    said('outer', ann, projectRoles.editor),
    said('inner', ann, projectRoles.nothing),
  ];
  expect(held(list)).toEqual([]);
  expect(held(list, ['outer', null])).toEqual(projectRoles.editor);
  expect(held(list, ['elsewhere', null])).toEqual(projectRoles.lead);
});

test('at one place, what is said of a person counts more than what is said of everybody else', () => {
  const list = [
    said('inner', null, projectRoles.nothing),
    said('inner', ann, projectRoles.editor),
    said(null, ben, projectRoles.lead),
  ];
  expect(held(list)).toEqual(projectRoles.editor);
  expect(held(list, path, 'lead', ben)).toEqual([]);
  expect(deciding(list, ben, path)?.person_id).toBeNull();
  expect(held(list, [null], 'reader', ben)).toEqual(projectRoles.lead);
});

test('an administrator may do everything, whatever is said', () => {
  expect(held([said(null, ann, []), said(null, null, [])], path, 'administrator')).toEqual(rights);
});

test('rights bring along what they need', () => {
  expect(completed([])).toEqual([]);
  expect(completed(['check out'])).toEqual(['see', 'check out']);
  expect(completed(['bring forward'])).toEqual(['see', 'see old versions', 'bring forward']);
  for (const [name, list] of Object.entries(projectRoles)) {
    expect(completed(list)).toEqual(list);
    expect(projectRoleOf(list)).toBe(name);
  }
  expect(projectRoleOf(['see', 'check out'])).toBeUndefined();
});

describe('where a right holds', () => {
  const scope = new Scope(
    false,
    new Map<string, boolean | Set<string | null>>([
      ['open', true],
      ['shut', false],
      ['mixed', new Set(['f1', null])],
    ]),
  );

  test('is known of every place', () => {
    expect([
      scope.has('open', 'any'),
      scope.has('shut', null),
      scope.has('mixed', 'f1'),
      scope.has('mixed', null),
      scope.has('mixed', 'f2'),
      scope.has('unsaid', null),
    ]).toEqual([true, false, true, true, false, false]);
    expect([scope.any('open'), scope.any('shut'), scope.any('mixed'), scope.any('unsaid')]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    expect(scope.partly('mixed') && !scope.partly('open')).toBe(true);
  });

  test('becomes a condition with values after those that are there', () => {
    const values: unknown[] = ['before'];
    const text = scope.condition('f.project_id', 'f.folder_id', values);
    expect(values).toEqual(['before', ['open'], ['shut'], ['mixed'], ['f1', 'mixed']]);
    expect(text).toMatch(/\$2::uuid\[\].*\$3::uuid\[\][^]*\$4::uuid\[\].*\$5::uuid\[\].* else false end/);
  });

  test('costs nothing where everything is open', () => {
    const values: unknown[] = [];
    expect(new Scope(true, new Map([['p', true]])).condition('p', 'f', values)).toBe('true');
    expect(values).toEqual([]);
    expect(new Scope(true, new Map([['p', false]])).everywhere).toBe(false);
  });
});
