import { referenceKinds, type Reference } from '@ovrel/core';
import { z } from 'zod';
import { runTask } from '../compute/pool.ts';
import { jsonOf } from './codec.ts';
import { computed, unlessTooHeavy, type Fact } from './fact.ts';
import { endingOf, isReadable, sourceOf, type Subject } from './subject.ts';

const references: Fact<Subject, Reference[]> = {
  name: 'references',
  version: 1,
  placeOf: (subject) => ({ contentId: subject.content_id, detail: endingOf(subject) }),
  codec: jsonOf(z.array(z.object({ target: z.string(), kind: z.enum(referenceKinds) }))),
  compute: async (subject) => runTask('references', { source: sourceOf(subject) }),
};

/** The other files that a content names; undefined where it could not be looked into this time. */
export const referencesIn = async (subject: Subject): Promise<Reference[] | undefined> =>
  isReadable(subject) ? unlessTooHeavy(computed(references, subject), () => undefined) : [];
