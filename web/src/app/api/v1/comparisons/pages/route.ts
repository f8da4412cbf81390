import type { PageEntry, PagesSoFar } from '@ovrel/core';
import { comparisons } from '../../../../../contract/operations/comparisons.ts';
import { serve } from '../../../../../server/http/serve.ts';
import { linesOf } from '../../../../../server/http/lines.ts';
import { Problem } from '../../../../../server/problem.ts';
import { changedPages } from '../../../../../server/versions/comparisons.ts';

const none = (): Problem =>
  new Problem(415, 'no-pages', 'Only two PDF documents that can be read have pages that are paired.');

/** The list once it is there; or, for who takes lines of JSON, what is known of it every moment until then. */
export const GET = serve(comparisons.pages, async (by, { request, query: { a, b } }) => {
  if (!request.headers.get('accept')?.includes('application/x-ndjson')) {
    const pages = await changedPages(by, a, b);
    if (!pages) throw none();
    return { pages: [...pages] };
  }
  return linesOf<PagesSoFar | { pages: readonly PageEntry[] }>(async (send) => {
    const pages = await changedPages(by, a, b, send);
    if (!pages) throw none();
    send({ pages });
  });
});
