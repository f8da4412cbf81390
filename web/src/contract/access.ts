/** Who may do what in a project: the rights, the roles that bundle them, and what goes in and out. */
import { z } from 'zod';
import type { Role } from './api.ts';
import { rightCards } from './rights/index.ts';
import { projectRoleNames, type ProjectRole } from './rights/right.ts';

export type { ProjectRole };

const id = z.uuid();
const byline = z.object({ id, name: z.string() });

export type Right = (typeof rightCards)[number]['id'];

export const rights = rightCards.map((card) => card.id) as [Right, ...Right[]];

/** What a right lets people do, in words that follow “you can't”. */
export const doings = Object.fromEntries(rightCards.map(({ id: name, doing }) => [name, doing])) as Readonly<
  Record<Right, string>
>;

/** What each right is, in a sentence for those who give it. */
export const meanings = Object.fromEntries(rightCards.map(({ id: name, means }) => [name, means])) as Readonly<
  Record<Right, string>
>;

const held = (role: ProjectRole): readonly Right[] =>
  rightCards.filter((card) => card.roles.includes(role)).map((card) => card.id);

/** Roles with the rights that they have. */
export const projectRoles = Object.fromEntries(projectRoleNames.map((name) => [name, held(name)])) as Readonly<
  Record<ProjectRole, readonly Right[]>
>;

/** What a place says of somebody: a role, whose rights are looked up when they are asked for, or rights one by one. */
export const rightsOf = (role: ProjectRole | null, chosen: readonly Right[] | null): readonly Right[] =>
  role === null ? (chosen ?? []) : projectRoles[role];

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
export const projectRoleOf = (chosen: readonly Right[]): ProjectRole | undefined =>
  projectRoleNames.find((name) => same(projectRoles[name], chosen));

/** The chosen rights with all that go with them. */
export function completed(chosen: readonly Right[]): Right[] {
  const all = new Set<string>(chosen);
  // A Set goes on over what is added to it meanwhile.
  for (const name of all)
    for (const needed of rightCards.find((card) => card.id === name)?.needs ?? []) all.add(needed);
  return rights.filter((name) => all.has(name));
}

const hereSchema = z.object({
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
