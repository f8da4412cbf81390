/** Who may do what in a project: the rights, the roles that bundle them, and what goes in and out. */
import { z } from 'zod';
import type { Role } from './api.ts';

const id = z.uuid();
const byline = z.object({ id, name: z.string() });

export const rights = [
  'see',
  'see old versions',
  'check out',
  'bring forward',
  'take over',
  'change state',
  'erase',
  'manage',
] as const;
export type Right = (typeof rights)[number];

/** Roles in a project, from none to all of the rights. */
export const projectRoles = {
  nothing: [],
  'newest only': ['see'],
  reader: ['see', 'see old versions'],
  checker: ['see', 'see old versions', 'change state'],
  editor: ['see', 'see old versions', 'check out', 'bring forward'],
  lead: rights,
} satisfies Record<string, readonly Right[]>;
export type ProjectRole = keyof typeof projectRoles;

/** What somebody may do in a project that says nothing of them. An administrator may do everything everywhere. */
export const byDefault: Readonly<Record<Role, readonly Right[]>> = {
  administrator: rights,
  lead: projectRoles.lead,
  editor: projectRoles.editor,
  reader: projectRoles.reader,
  guest: projectRoles.nothing,
};

export const same = (a: readonly Right[], b: readonly Right[]): boolean =>
  a.length === b.length && a.every((r) => b.includes(r));

/** The role that has just these rights. */
export const projectRoleOf = (held: readonly Right[]): ProjectRole | undefined =>
  (Object.keys(projectRoles) as ProjectRole[]).find((name) => same(projectRoles[name], held));

/** Whoever may do anything may see; who may bring older versions forward may see them. */
export function completed(chosen: readonly Right[]): Right[] {
  const all = new Set(chosen);
  if (all.has('bring forward') || all.has('erase')) all.add('see old versions');
  if (all.size) all.add('see');
  return rights.filter((r) => all.has(r));
}

export const hereSchema = z.object({
  rights: z.array(z.enum(rights)),
  as: z.string().describe('What the rights come from, in words'),
  ask: z.array(byline).describe('Who can give more'),
});
export const accessSchema = z.object({
  mine: hereSchema,
  mayManage: z.boolean(),
  people: z.array(
    byline.extend({
      id: id.nullable(),
      role: z.string().describe('The role in Ovrel; empty for everybody else'),
      said: z.array(z.enum(rights)).nullable().describe('What this place says; null: nothing'),
      rights: z.array(z.enum(rights)).describe('What holds here'),
      from: z
        .string()
        .describe('Where that is said: the name of a folder or of the project; empty where the role in Ovrel decides'),
    }),
  ),
  places: z.array(
    z.object({
      folderId: id.nullable(),
      path: z.string(),
      said: z.number().int().describe('Of how many this place says something'),
    }),
  ),
});
export const accessQuerySchema = z.object({ folder: id.optional() });
export const setAccessSchema = z.object({
  folderId: id.nullable().default(null).describe('null: the project itself'),
  personId: id.nullable().describe('null: everybody of whom nothing is said there'),
  rights: z.array(z.enum(rights)).nullable().describe('null: this place says nothing any more'),
});

export type Here = z.infer<typeof hereSchema>;
export type AccessList = z.infer<typeof accessSchema>;
