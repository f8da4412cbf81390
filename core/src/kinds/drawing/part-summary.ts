import type { PartSummary } from '../../contract/comparison.ts';
import type { Design, Part } from '../../model/design.ts';

/** What a list of changes says of a part; `index` is its place among the parts of its design. */
export const partSummary = (design: Design, part: Part, index: number): PartSummary => ({
  key: part.key ?? null,
  kind: part.kind,
  name: part.name,
  category: part.category,
  page: design.pages[part.page]?.name ?? '',
  index,
});
