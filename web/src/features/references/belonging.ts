/** What belongs to a local file that is about to be checked in: the files that it names now, and those that need it. */
import { resolve, type Whereabouts } from '@ovrel/core/references';
import type { DeskFile, References } from '../../contract/desk.ts';
import { referencesHere } from '../desk-folder/orders.ts';

export interface Belonging {
  readonly key: string;
  /** As it is written in the file, or the name of the file that needs this one. */
  readonly name: string;
  readonly side: 'needs' | 'needed by';
  readonly found: Whereabouts;
  /** The file of the project, where there is one. */
  readonly file: DeskFile | undefined;
}

/**
 * `path` is where the file lies in the project; references of the newest version tell what was added by hand, and what
 * needs it.
 */
export async function belongingsOf(
  here: File,
  path: string,
  files: readonly DeskFile[],
  known: References | undefined,
): Promise<Belonging[]> {
  const named = await referencesHere(path.slice(path.lastIndexOf('/') + 1), here);
  const byId = new Map(files.map((f) => [f.fileId, f]));
  const needs = resolve(
    named,
    path,
    files.filter((f) => f.path !== path),
  ).map(({ reference, found, file }): Belonging => ({
    key: `n ${reference.target}`,
    name: file?.path ?? reference.target,
    side: 'needs',
    found,
    file,
  }));
  const listed = new Set(needs.map((n) => n.file?.fileId));
  const byHand =
    known?.needs.flatMap((n): Belonging[] => {
      const file = byId.get(n.file?.id ?? '');
      return n.found !== 'by hand' || !file || listed.has(file.fileId)
        ? []
        : [{ key: `h ${file.fileId}`, name: file.path, side: 'needs', found: 'path', file }];
    }) ?? [];
  const users =
    known?.neededBy.flatMap((u): Belonging[] => {
      const file = byId.get(u.file.id);
      return file ? [{ key: `u ${file.fileId}`, name: file.path, side: 'needed by', found: 'path', file }] : [];
    }) ?? [];
  return [...needs, ...byHand, ...users];
}

function sayHolder(holder: DeskFile['holder'], me: string): string {
  if (holder === null) return 'nobody holds it';
  return holder.id === me ? 'you hold it' : `${holder.name} holds it`;
}

/** What is to be said of one of them; `me` is who checks in. */
export function sayBelonging({ found, file, side }: Belonging, me: string): { text: string; warn: boolean } {
  if (found === 'web') return { text: 'in the web, not kept here', warn: false };
  if (!file) return { text: 'not found in this project', warn: true };
  const held = sayHolder(file.holder, me);
  return found === 'name' && side === 'needs'
    ? { text: `not at its path; ${file.path} has the name; ${held}`, warn: true }
    : { text: held, warn: false };
}
