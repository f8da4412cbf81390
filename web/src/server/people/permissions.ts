/** Who may do what in Ovrel as a whole. What somebody may do in a project is told by access.ts. */
import type { Person, Role } from '../../contract/api.ts';
import { Problem } from '../problem.ts';

export const acts = ['read', 'make projects', 'tend the store', 'manage people', 'watch folders'] as const;
export type GeneralAct = (typeof acts)[number];

const allowed: Readonly<Record<GeneralAct, readonly Role[]>> = {
  read: ['administrator', 'lead', 'editor', 'reader'],
  'make projects': ['administrator', 'lead'],
  'tend the store': ['administrator', 'lead'],
  'manage people': ['administrator'],
  'watch folders': ['administrator'],
};

export const may = (person: Pick<Person, 'role'>, act: GeneralAct): boolean => allowed[act].includes(person.role);

const said: Readonly<Record<GeneralAct, string>> = {
  read: 'look at Ovrel as a whole',
  'make projects': 'make projects',
  'tend the store': 'start or cancel work on the store',
  'manage people': 'manage people',
  'watch folders': 'have folders of the server watched',
};

const article = (role: Role): string => `${/^[ae]/.test(role) ? 'an' : 'a'} ${role}`;

/** Throws a Problem that says why not and whom to ask. */
export function require(person: Person, act: GeneralAct): void {
  if (may(person, act)) return;
  throw new Problem(
    403,
    'not-allowed',
    `As ${article(person.role)} you can't ${said[act]}. Ask ${[...allowed[act]].reverse().map(article).join(' or ')}.`,
  );
}
