/** Answers that come line by line, each a JSON value, while the work goes on. */
import { log } from '../log.ts';
import { Problem } from '../problem.ts';

/**
 * What `work` sends; known failures before the first line are thrown, later ones end the answer with a line
 * {"problem": sentence}.
 */
export async function linesOf<T>(work: (send: (value: T) => void) => Promise<void>): Promise<Response> {
  const encoder = new TextEncoder();
  const line = (value: unknown): Uint8Array => encoder.encode(`${JSON.stringify(value)}\n`);
  const waiting: Uint8Array[] = [];
  let controller: ReadableStreamDefaultController<Uint8Array> | undefined;
  let begun: () => void = () => undefined;
  let gone = false;
  const first = new Promise<void>((resolve) => {
    begun = resolve;
  });
  const send = (value: unknown): void => {
    if (gone) return;
    if (controller) controller.enqueue(line(value));
    else waiting.push(line(value));
    begun();
  };
  const done = work(send);
  // Nothing is answered before it is known that there is an answer.
  await Promise.race([first, done]);
  return new Response(
    new ReadableStream<Uint8Array>({
      start(to) {
        controller = to;
        for (const bytes of waiting) to.enqueue(bytes);
        void done
          .catch((error: unknown) => {
            if (!(error instanceof Problem))
              log.error({ error: error instanceof Error ? error.message : String(error) }, 'an answer broke off');
            send({ problem: error instanceof Problem ? error.message : 'The answer broke off.' });
          })
          .finally(() => {
            if (!gone) to.close();
          });
      },
      cancel() {
        gone = true;
      },
    }),
    {
      headers: {
        'content-type': 'application/x-ndjson; charset=utf-8',
        'cache-control': 'private, no-store',
        'x-accel-buffering': 'no',
      },
    },
  );
}
