/** Expected failures, each with a sentence for a person (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  /** Last part of the problem's type URI. */
  readonly code: string;
  readonly extra: Readonly<Record<string, unknown>>;

  constructor(status: number, code: string, sentence: string, extra: Readonly<Record<string, unknown>> = {}) {
    super(sentence);
    this.name = 'Problem';
    this.status = status;
    this.code = code;
    this.extra = extra;
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, 'not-found', `There is no such ${what}, or it has been removed.`);
