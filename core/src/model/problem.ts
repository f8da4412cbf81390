/** Why a file could not be read; code goes by this, people by the sentence. */
export type ReadProblem = 'damaged' | 'empty' | 'locked' | 'misnamed' | 'missing' | 'too-large' | 'unsupported';

/** A file that could not be read, said in a sentence for a person. */
export class ReadError extends Error {
  readonly code: ReadProblem;
  /** Byte offset in the file where reading stopped; undefined where there is no one place. */
  readonly offset: number | undefined;

  constructor(sentence: string, offset?: number, code: ReadProblem = 'damaged') {
    super(sentence);
    this.name = 'ReadError';
    this.code = code;
    this.offset = offset;
  }
}

/** What was computed, or what kept a file from being read. */
export async function orUnreadable<T>(work: Promise<T>): Promise<T | ReadError> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof ReadError) return error;
    throw error;
  }
}

/**
 * A reader took more memory, depth or time than there is. That says nothing of the file that can be kept: it may be read
 * another time.
 */
export class Exhausted extends Error {
  constructor(sentence = 'Looking into this file took more memory than Ovrel allows.') {
    super(sentence);
    this.name = 'Exhausted';
  }
}
