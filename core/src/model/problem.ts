/** A file that could not be read, said in a sentence for a person. */
export class ReadError extends Error {
  /** Byte offset in the file where reading stopped; undefined where there is no one place. */
  readonly offset: number | undefined;

  constructor(sentence: string, offset?: number) {
    super(sentence);
    this.name = 'ReadError';
    this.offset = offset;
  }
}
