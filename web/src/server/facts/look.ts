import { lookSchema, type Look } from '../../contract/look.ts';
import { runTask } from '../compute/pool.ts';
import { config } from '../config.ts';
import { jsonOf } from './codec.ts';
import { computed, unlessTooHeavy, type Asking, type Fact } from './fact.ts';
import { nothingSeen } from './nothing-seen.ts';
import { endingOf, headOf, isReadable, looksInto, sourceOf, type Subject } from './subject.ts';

const look: Fact<Subject, Look> = {
  name: 'look',
  version: 3,
  placeOf: (subject) => ({ contentId: subject.content_id, detail: endingOf(subject) }),
  codec: jsonOf(lookSchema),
  compute: async (subject) =>
    runTask('look', { source: looksInto(subject) ? sourceOf(subject) : await headOf(subject) }),
};

const unseen = ({ format }: Subject, problem: string): Look => ({
  ...nothingSeen,
  format,
  formatTitle: null,
  problem,
});

/** What can be said of a content; where it is too large, or could not be looked into this time, that. */
export async function lookAt(subject: Subject, asking?: Asking): Promise<Look> {
  if (!isReadable(subject)) {
    const megabytes = Math.round(config.readLimit / 1024 ** 2);
    return unseen(subject, `The file is larger than ${megabytes} MB, so Ovrel keeps it but does not look into it.`);
  }
  return unlessTooHeavy(computed(look, subject, asking), (error) => ({
    ...unseen(subject, error.message),
    again: true,
  }));
}
