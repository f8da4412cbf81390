/** Bodies are read no further than they may be long. */
import { Problem } from '../problem.ts';

/** Bytes of a body in JSON. The longest that Ovrel itself sends, 2,000 files of a desk, has about 300,000. */
export const LARGEST_BODY = 1024 * 1024;

/** The whole body as text. One that is longer is left where it is: the connection ends with the answer. */
export async function textOf(request: Request, most: number): Promise<string> {
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLong(most);
  const decoder = new TextDecoder();
  let text = '';
  let length = 0;
  for await (const piece of request.body ?? []) {
    length += piece.length;
    if (length > most) throw tooLong(most);
    text += decoder.decode(piece, { stream: true });
  }
  return text + decoder.decode();
}

const tooLong = (most: number): Problem =>
  new Problem(
    413,
    'too-long',
    `A request without a file can have at most ${Math.round(most / 1024)} KB. Nothing was changed.`,
  );
