import { roles, type Person, type Role } from '../../contract/api.ts';
import { acts, may, require, type Act } from './permissions.ts';

const matrix: Readonly<Record<Act, readonly Role[]>> = {
  read: ['administrator', 'lead', 'editor', 'reader'],
  'check in': ['administrator', 'lead', 'editor'],
  'check out': ['administrator', 'lead', 'editor'],
  'take over': ['administrator', 'lead'],
  'bring forward': ['administrator', 'lead', 'editor'],
  delete: ['administrator', 'lead', 'editor'],
  organise: ['administrator', 'lead', 'editor'],
  'make projects': ['administrator', 'lead'],
  'tend the store': ['administrator', 'lead'],
  'manage people': ['administrator'],
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
  expect(() => require(person('reader'), 'check in')).toThrow("As a reader you can't check in versions. Ask an editor or a lead or an administrator.");
  expect(() => require(person('editor'), 'manage people')).toThrow("As an editor you can't manage people. Ask an administrator.");
});
