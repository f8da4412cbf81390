import {
  carryOver,
  compareFiles,
  joinFiles,
  open,
  ReadError,
  takeBackChanges,
  type Choice,
  type Joined,
} from '@ovrel/core';
import type { Source, Task } from '../task.ts';

/** What is to be done to `ours`, the newest version. */
interface Input {
  readonly kind: 'take back' | 'carry over' | 'join';
  readonly ours: Source;
  /** A of the comparison; the version that is carried over from; the other side. */
  readonly theirs: Source;
  /** B of the comparison; what both sides come from. */
  readonly base?: Source;
  /** Ids of changes and causes. */
  readonly changes?: readonly string[];
  readonly parts?: readonly number[];
  readonly layers?: readonly string[];
  /** Places of pages. */
  readonly pages?: readonly number[];
  /** Rectangles, in pixels. */
  readonly boxes?: readonly (readonly [number, number, number, number])[];
  /** False for versions of one file. */
  readonly asNew?: boolean;
  readonly decisions: readonly (readonly [key: string, choice: Choice])[];
}

/** Bytes of the result, or why there is none. */
export type Proposed = (Joined & { readonly says: readonly string[] }) | { readonly refused: string };

export const propose: Task<Input, Proposed> = async (input) => {
  try {
    return await done(input);
  } catch (error) {
    if (error instanceof ReadError) return { refused: error.message };
    throw error;
  }
};

async function done(input: Input): Promise<Exclude<Proposed, { refused: string }>> {
  const [ours, theirs] = [await opened(input.ours), await opened(input.theirs)];
  const options = { decisions: new Map(input.decisions) };
  if (input.kind === 'carry over') {
    const { parts, layers, pages, boxes, asNew } = input;
    const wanted = {
      ...(parts ? { parts } : {}),
      ...(layers ? { layers } : {}),
      ...(pages ? { pages } : {}),
      ...(boxes ? { boxes } : {}),
      ...(asNew === undefined ? {} : { asNew }),
    };
    return { ...(await carryOver(theirs, ours, wanted, options)), says: [] };
  }
  if (!input.base) throw new ReadError('There is no version that both sides come from.');
  const base = await opened(input.base);
  if (input.kind === 'join') return { ...(await joinFiles(base, ours, theirs, options)), says: [] };
  const compared = await compareFiles(theirs, base);
  const { causes, changes } = compared.comparison;
  const wanted = new Set(input.changes);
  for (const cause of causes) if (wanted.has(cause.id)) for (const change of cause.changes) wanted.add(change);
  const chosen = changes.flatMap(({ id }, k) => (wanted.has(id) ? [k] : []));
  const says = causes.flatMap((cause) => (cause.changes.some((id) => wanted.has(id)) ? [cause.sentence] : []));
  return { ...(await takeBackChanges(theirs, base, ours, { compared, changes: chosen }, options)), says };
}

const opened = ({ bytes, name }: Source): ReturnType<typeof open> => open(bytes, name);
