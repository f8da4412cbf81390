import { runTask } from '../compute/pool.ts';
import { numbers } from './codec.ts';
import { computed, unlessTooHeavy, type Fact } from './fact.ts';
import { shelved } from './shelf.ts';
import { isReadable, sourceOf, type Subject } from './subject.ts';

const sketch: Fact<Subject, Uint32Array> = {
  name: 'sketch',
  version: 1,
  placeOf: (subject) => ({ contentId: subject.content_id, detail: '' }),
  codec: numbers,
  compute: async (subject) => runTask('sketch', { source: sourceOf(subject) }),
};

/** A sample of what the content holds, to find others that are alike; empty where it cannot be looked into. */
export const sketchFor = async (subject: Subject): Promise<Uint32Array> =>
  isReadable(subject) ? unlessTooHeavy(computed(sketch, subject), () => new Uint32Array()) : new Uint32Array();

/** The sketches of contents that are kept already, by the ids of the contents. */
export async function keptSketches(contentIds: readonly string[]): Promise<ReadonlyMap<string, Uint32Array>> {
  const kept = await shelved(contentIds, sketch);
  return new Map([...kept].map(([id, value]) => [id, numbers.decode(value)]));
}
