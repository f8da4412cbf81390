/**
 * The same pieces, of which the first has arrived: what fails at once is refused with a sentence, before anything is
 * sent.
 */
export async function begun<T>(pieces: AsyncGenerator<T, void>): Promise<AsyncGenerator<T, void>> {
  const first = await pieces.next();
  return (async function* () {
    try {
      if (!first.done) yield first.value;
      yield* pieces;
    } finally {
      await pieces.return();
    }
  })();
}
