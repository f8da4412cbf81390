/** What has to be answered before a version can land, and with which fields it is sent again. */
import { Refused } from '../api/client.ts';

export type Fields = Readonly<Record<string, string>>;

export interface Question {
  readonly sentence: string;
  /** What the button says. */
  readonly answer: string;
  /** What is sent with the file once it is answered. */
  readonly fields: Fields;
  /** A version that landed meanwhile. */
  readonly lookAt?: { readonly id: string; readonly number: number };
}

const allTheSame = (sentence: string, fields: Fields): Question => ({
  sentence,
  answer: 'Check it in all the same',
  fields: { ...fields, allowOtherFormat: 'yes' },
});

/** Asked before anything is sent. */
export const aboutOtherFormat = (chosen: string, file: string, fields: Fields): Question =>
  allTheSame(`“${chosen}” is of another kind than the newest version of “${file}”. Check it in all the same?`, fields);

/** The question behind a refusal; `undefined` where there is nothing to be answered. `from` is the version that a branch would leave from. */
export function questionOf(
  error: unknown,
  fields: Fields,
  from: { readonly id: string; readonly number: number },
): Question | undefined {
  if (!(error instanceof Refused)) return undefined;
  const sentence = error.message;
  switch (error.code) {
    case 'other-format':
      return allTheSame(sentence, fields);
    case 'taken-over':
    case 'checked-out':
      return {
        sentence,
        answer: `Check it in as a branch from v${from.number}`,
        fields: { ...fields, base: from.id, branch: 'yes' },
      };
    case 'newer-version': {
      const newest = { id: String(error.extra['newestId']), number: Number(error.extra['newest']) };
      return {
        sentence,
        answer: `Check in on top of v${newest.number}`,
        fields: { ...fields, base: newest.id },
        lookAt: newest,
      };
    }
    default:
      return undefined;
  }
}
