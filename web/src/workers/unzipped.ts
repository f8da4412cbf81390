/** What came gzipped from the server, as it is; throws an Error with a sentence. `what` it is, as in "the model". */
export async function unzipped(address: string, what: string): Promise<Response> {
  const response = await fetch(address);
  if (!response.ok) {
    const said = (await response.json().catch(() => undefined)) as { detail?: string } | undefined;
    throw new Error(said?.detail ?? `${what} could not be fetched.`);
  }
  if (!response.body) throw new Error(`${what} came without content.`);
  // eslint-disable-next-line no-restricted-syntax -- the browser's own name
  return new Response(response.body.pipeThrough(new DecompressionStream('gzip')));
}
