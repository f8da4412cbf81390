import { carryOver, compareFiles, joinFiles, open, ReadError, takeBack, type Choice, type Joined } from '@ovrel/core';
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
    const { parts = [], layers = [], asNew } = input;
    const onLayers = (theirs.design?.parts ?? []).flatMap((part, k) => (layers.includes(part.category) ? [k] : []));
    const wanted = [...new Set([...parts, ...onLayers])];
    return {
      ...(await carryOver(theirs, ours, { parts: wanted, ...(asNew === undefined ? {} : { asNew }) }, options)),
      says: [],
    };
  }
  if (!input.base) throw new ReadError('There is no version that both sides come from.');
  const base = await opened(input.base);
  if (input.kind === 'join') return { ...(await joinFiles(base, ours, theirs, options)), says: [] };
  const { comparison, parts } = await compareFiles(theirs, base);
  const wanted = new Set(input.changes);
  for (const cause of comparison.causes)
    if (wanted.has(cause.id)) for (const change of cause.changes) wanted.add(change);
  const chosen = comparison.changes.flatMap((change, k) => {
    const pair = parts?.parts[k];
    return wanted.has(change.id) && pair ? [pair] : [];
  });
  const says = comparison.causes.flatMap((cause) =>
    cause.changes.some((id) => wanted.has(id)) ? [cause.sentence] : [],
  );
  return { ...(await takeBack(theirs, base, ours, chosen, options)), says };
}

const opened = ({ bytes, name }: Source): ReturnType<typeof open> => open(bytes, name);
