/** Roles in a project, from none to all of the rights. */
export const projectRoleNames = ['nothing', 'newest only', 'reader', 'checker', 'editor', 'lead'] as const;
export type ProjectRole = (typeof projectRoleNames)[number];

/** One thing that somebody may do in a project. A new right is a file here and a line in `index.ts`. */
export interface RightCard<Id extends string = string> {
  readonly id: Id;
  /** In words that follow “you can't”. */
  readonly doing: string;
  /** What it is, for those who give it: a sentence. */
  readonly means: string;
  /** Roles that have it, those of people who have them already included. */
  readonly roles: readonly ProjectRole[];
  /** Rights that go with it: whoever has it has these, too. */
  readonly needs: readonly string[];
}

export const right = <const Id extends string>(card: RightCard<Id>): RightCard<Id> => card;
