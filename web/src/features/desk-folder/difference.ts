/** A content as what is new of it beside a version that the server has: most saves change little of a large file. */
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';
import { order } from './orders.ts';

/** Smaller contents are sent as they are, larger ones are not held in memory twice, in bytes. */
const SMALLEST = 64 * 1024;
const LARGEST = 256 * 1024 ** 2;

export interface Difference {
  readonly delta: Blob;
  /** Of the whole content, lower-case hexadecimal. */
  readonly sha256: string;
}

/** Undefined where the content is better sent as it is. */
export async function differenceBeside(versionId: string, content: Blob): Promise<Difference | undefined> {
  if (content.size < SMALLEST || content.size > LARGEST) return undefined;
  const answer = await fetch(linkTo(api.versions.signature, { versionId }));
  if (!answer.ok) return undefined;
  const report = await order({ kind: 'difference', signature: await answer.arrayBuffer(), content }).done;
  return report.kind === 'difference' ? report.difference : undefined;
}
