import { Problem } from '../problem.ts';

/** The plan of a form with many files. Throws a Problem where it is no JSON. */
export function parsedPlan(text: string | undefined): unknown {
  try {
    return JSON.parse(text ?? '');
  } catch {
    throw new Problem(
      400,
      'bad-input',
      'The form needs a field “plan”, before the files: a list in JSON with an entry for each file.',
    );
  }
}
