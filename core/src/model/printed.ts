import type { Design, Page, Part } from './design.ts';

/** All that is printed on a page, as a text that is equal for equal pages. */
export function printedOn(page: Page, parts: readonly Part[]): string {
  const size = page.box.map((v) => Math.round(v * 10)).join(' ');
  return [
    size,
    ...parts
      .map(({ kind, box, lettering, props }) =>
        JSON.stringify([kind, box?.map((v) => Math.round(v * 10)), lettering?.runs.map((r) => r.text), props]),
      )
      .sort(),
  ].join('\n');
}

/** What is printed on each page. */
export function printedPages({ pages, parts }: Design): string[] {
  const on = pages.map((): Part[] => []);
  for (const part of parts) on[part.page]?.push(part);
  return pages.map((page, k) => printedOn(page, on[k] as Part[]));
}
