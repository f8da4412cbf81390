import { runTask } from '../compute/pool.ts';
import { numbers } from './codec.ts';
import { computed, unlessTooHeavy, type Fact } from './fact.ts';
import { isReadable, sourceOf, type Subject } from './subject.ts';

const sketch: Fact<Subject, Uint32Array> = {
  name: 'sketch',
  version: 1,
  placeOf: (subject) => ({ contentId: subject.content_id, detail: '' }),
  codec: numbers,
  compute: async (subject) => runTask('sketch', { source: await sourceOf(subject) }),
};

/** A sample of what the content holds, to find others that are alike; empty where it cannot be looked into. */
export const sketchFor = async (subject: Subject): Promise<Uint32Array> =>
  isReadable(subject) ? unlessTooHeavy(computed(sketch, subject), () => new Uint32Array()) : new Uint32Array();
