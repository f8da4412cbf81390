/** A file as far as it could be opened: what it is, what it can be seen as, and why not as more. */
import { detect, HEAD_BYTES, isDrawable, promisedBy } from '../formats/registry.ts';
import { kindIds, type Card, type KindId } from '../model/card.ts';
import type { Design } from '../model/design.ts';
import type { Format } from '../model/format.ts';
import { defaultLimits, type Limits } from '../model/limits.ts';
import { ReadError, type ReadProblem } from '../model/problem.ts';

/** Why a content could not be read as what its name or its bytes promise. */
export interface ContentProblem {
  readonly code: ReadProblem;
  readonly sentence: string;
  readonly offset: number | undefined;
}

export interface Content {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly card: Card | undefined;
  readonly format: Format | undefined;
  readonly limits: Limits;
  /** What it can be read as, nearest first; bytes last. */
  readonly kinds: readonly [KindId, ...KindId[]];
  /** Parts of a model or drawing, or lines of a text, where that is the nearest kind. */
  readonly design?: Design;
  readonly problem?: ContentProblem;
}

/** Opens a content at the best level that works. Damage is no error: it leads to the next kind, with the reason. */
export async function open(bytes: Uint8Array, name: string, limits: Limits = defaultLimits): Promise<Content> {
  const card = detect(bytes.subarray(0, HEAD_BYTES), name);
  const format = await card?.load();
  const common = { name, bytes, card, format, limits };
  const misnamed = misnaming(bytes, card, promisedBy(name));
  let problem = misnamed;
  const kinds = card?.kinds ?? [];
  for (const [k, kind] of kinds.entries()) {
    try {
      const design = await readEagerly(format, kind, bytes, limits);
      const said = problem ? { problem } : {};
      return { ...common, kinds: [kind, ...kinds.slice(k + 1)], ...(design ? { design } : {}), ...said };
    } catch (error) {
      if (!(error instanceof ReadError)) throw error;
      problem ??= { code: error.code, sentence: error.message, offset: error.offset };
    }
  }
  return { ...common, kinds: ['bytes'], ...(problem ? { problem } : {}) };
}

/** Parts and lines are read at once; pixels are decoded when somebody asks for them. */
function readEagerly(
  format: Format | undefined,
  kind: KindId,
  bytes: Uint8Array,
  limits: Limits,
): Design | Promise<Design> | undefined {
  if (kind === 'solid') return format?.read.solid?.(bytes, limits);
  if (kind === 'drawing') return format?.read.drawing?.(bytes, limits);
  if (kind === 'table') return format?.read.table?.(bytes, limits);
  return kind === 'text' ? format?.read.text?.(bytes, limits) : undefined;
}

const rank = (card: Card | undefined): number => kindIds.indexOf(card?.kinds[0] ?? 'bytes');

/** The name promises more than the bytes keep. */
function misnaming(bytes: Uint8Array, card: Card | undefined, promised: Card | undefined): ContentProblem | undefined {
  if (!promised || promised === card || !isDrawable(promised)) return undefined;
  if (bytes.length === 0)
    return { code: 'empty', sentence: `The file is empty, so there is no ${promised.title} in it.`, offset: 0 };
  if (rank(promised) >= rank(card)) return undefined;
  const sentence = `The name says ${promised.title}, but ${sayContent(card)}.`;
  return { code: 'misnamed', sentence, offset: 0 };
}

function sayContent(card: Card | undefined): string {
  if (!card) return 'its content is of no kind that Ovrel knows';
  return `its content is ${card.general && card.kinds.includes('text') ? 'plain text' : `a ${card.title}`}`;
}
