/** Who may do what. Services ask here; nothing else decides. */
import type { Person, Role } from '../../contract/api.ts';
import { Problem } from '../problem.ts';

export const acts = ['read', 'check in', 'check out', 'take over', 'bring forward', 'delete', 'organise', 'make projects', 'tend the store', 'manage people'] as const;
export type Act = (typeof acts)[number];

const allowed: Readonly<Record<Act, readonly Role[]>> = {
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

export const may = (person: Pick<Person, 'role'>, act: Act): boolean => allowed[act].includes(person.role);

const said: Readonly<Record<Act, string>> = {
  read: 'read this', 'check in': 'check in versions', 'check out': 'check out files', 'take over': 'take over what others have checked out', 'bring forward': 'bring versions forward', delete: 'delete files or bring them back',
  organise: 'make, rename or move files and folders', 'make projects': 'make or rename projects', 'tend the store': 'start or cancel work on the store', 'manage people': 'manage people',
};

const article = (role: Role): string => `${/^[ae]/.test(role) ? 'an' : 'a'} ${role}`;

/** Throws a Problem that says why not and whom to ask. */
export function require(person: Person, act: Act): void {
  if (may(person, act)) return;
  throw new Problem(403, 'not-allowed', `As ${article(person.role)} you can't ${said[act]}. Ask ${[...allowed[act]].reverse().map(article).join(' or ')}.`);
}
