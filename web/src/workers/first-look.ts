/** A web worker that compares two pictures made smaller, while the server compares them as they are. */
import { firstLook, LOOK_SIDE } from '@ovrel/core/pictures';
import { decodeHere } from './decode.ts';

export interface FirstLookOrder {
  /** Addresses of the two pictures. */
  readonly a: string;
  readonly b: string;
}

export interface FirstLookReport {
  readonly sentences: readonly string[];
  /** Side of the larger one that was looked at ÷ its own. */
  readonly factor: number;
}

const fetched = async (address: string): Promise<Blob> => {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error('The picture could not be fetched.');
  return answer.blob();
};

addEventListener('message', ({ data }: MessageEvent<FirstLookOrder>) => {
  void (async () => {
    const [a, b] = await Promise.all([fetched(data.a), fetched(data.b)]);
    const own = await decodeHere(b, LOOK_SIDE);
    // Both by one factor, so that only what was resized looks resized.
    const other = await decodeHere(a, LOOK_SIDE, own.factor);
    postMessage({ sentences: firstLook(other.bitmap, own.bitmap), factor: own.factor } satisfies FirstLookReport);
  })().catch(() => undefined);
});
