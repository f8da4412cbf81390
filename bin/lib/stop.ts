/** Ends a program with a sentence for a person and an exit code; nothing is wrong with the program. */
export class Stop extends Error {
  readonly code: number;

  constructor(sentence: string, code = 1) {
    super(sentence);
    this.code = code;
  }
}
