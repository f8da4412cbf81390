import { roles, type Person, type Role } from '../../contract/api.ts';
import { acts, may, require, type GeneralAct } from './permissions.ts';

const matrix: Readonly<Record<GeneralAct, readonly Role[]>> = {
  read: ['administrator', 'lead', 'editor', 'reader'],
  'make projects': ['administrator', 'lead'],
  'tend the store': ['administrator', 'lead'],
  'manage people': ['administrator'],
  'watch folders': ['administrator'],
};
const person = (role: Role): Person => ({ id: 'x', name: 'x', email: 'x', role });

for (const act of acts) {
  for (const role of roles) {
    const allowed = matrix[act].includes(role);
    test(`${role} ${allowed ? 'may' : 'may not'} ${act}`, () => {
      expect(may(person(role), act)).toBe(allowed);
      if (allowed) expect(() => require(person(role), act)).not.toThrow();
      else expect(() => require(person(role), act)).toThrow(/^As an? \w+ you can't .+\. Ask an? .+\.$/);
    });
  }
}

test('whoever may not is told whom to ask', () => {
  expect(() => require(person('guest'), 'read')).toThrow(
    "As a guest you can't look at Ovrel as a whole. Ask a reader or an editor or a lead or an administrator.",
  );
  expect(() => require(person('editor'), 'manage people')).toThrow(
    "As an editor you can't manage people. Ask an administrator.",
  );
});
