/** One member of a package, unpacked; the others are not looked at. */
import { unzipSync } from 'fflate';
import { ReadError } from '../../model/problem.ts';

/** The first member that is wanted. Throws ReadError where there is none, it is damaged, or has more than `most` bytes. */
export function zipMember(bytes: Uint8Array, isWanted: (name: string) => boolean, most: number): Uint8Array {
  let chosen: string | undefined;
  let isTooLarge = false;
  try {
    const members = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (chosen !== undefined || !isWanted(name)) return false;
        chosen = name;
        isTooLarge = originalSize > most;
        return !isTooLarge;
      },
    });
    const content = chosen === undefined ? undefined : members[chosen];
    if (content) return content;
  } catch (error) {
    throw new ReadError(`The package cannot be opened: ${(error as Error).message}.`);
  }
  if (isTooLarge)
    throw new ReadError('The model in the package is larger than Ovrel looks into.', undefined, 'too-large');
  throw new ReadError('There is no model in this package.', undefined, 'missing');
}
