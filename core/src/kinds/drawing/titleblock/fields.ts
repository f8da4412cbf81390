/** Data fields of title blocks (ISO 7200), recognised by their labels and by what stands beside these. */
import { diagonal, height, width, type Box } from '../../../geometry/box.ts';
import type { Design } from '../../../model/design.ts';

const titleFields = [
  'number',
  'title',
  'revision',
  'date',
  'scale',
  'sheet',
  'status',
  'type',
  'owner',
  'creator',
  'approved',
] as const;
export type TitleFieldName = (typeof titleFields)[number];

export type TitleBlock = Readonly<Partial<Record<TitleFieldName, string>>>;

/** ISO 7200, table 1 and 2, and what drawing offices write for it in English, German, French and Dutch. */
const labels: readonly (readonly [TitleFieldName, RegExp])[] = [
  [
    'number',
    /^(?:(?:drawing|drg|dwg|document|doc|identification|plan)\.?[ -]*)?(?:number|no|nr|num)\.?$|^(?:zeichnungs?|plan|zeichn\.?)[ -]*(?:nummer|nr\.?)$|^n[°º](?: de plan)?$|^num[ée]ro(?: de plan)?$|^tekeningnummer$/,
  ],
  ['title', /^(?:drawing |document )?title$|^titel$|^benennung$|^titre$|^subject$/],
  ['revision', /^rev(?:ision)?(?: index)?\.?$|^issue$|^(?:änderungs)?index$|^indice(?: de r[ée]vision)?$|^revisie$/],
  ['date', /^date(?: of issue)?$|^issue date$|^issued$|^(?:ausgabe)?datum$|^date d['’][ée]mission$/],
  ['scale', /^scale$|^ma(?:ß|ss)stab$|^[ée]chelle$|^schaal$/],
  ['sheet', /^sheet(?: number| no\.?)?$|^page$|^blatt$|^feuille$|^folio$|^blad$/],
  ['status', /^(?:document )?status$|^suitability$/],
  ['type', /^document type$|^dokumentart$|^type de document$/],
  ['owner', /^(?:legal )?owner$|^client$|^eigentümer$|^propri[ée]taire$/],
  [
    'creator',
    /^(?:drawn|created|designed)(?: by)?$|^creator$|^author$|^gezeichnet$|^erstellt(?: durch)?$|^dessin[ée](?: par)?$/,
  ],
  [
    'approved',
    /^(?:approved|checked)(?: by)?$|^approval person$|^gepr(?:üft)?\.?$|^freigegeben$|^genehmigt(?: von)?$|^approuv[ée](?: par)?$/,
  ],
];

const fieldOf = (words: string): TitleFieldName | undefined => {
  const plain = words
    .trim()
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .replace(/\s*[:.]$/, '');
  return labels.find(([, label]) => label.test(plain))?.[0];
};

/** What a value of a field looks like, where it stands behind its label in one text. */
const looks: Readonly<Partial<Record<TitleFieldName, RegExp>>> = {
  scale: /^(?:\d+\s*:\s*\d+|none|n\/?a|as shown)$/i,
  revision: /^[A-Z]{0,3}[-.]?\d{0,3}[A-Z]?$/i,
  date: /\d/,
  number: /\d/,
  sheet: /^\d+(?:\s*(?:of|\/|von|de)\s*\d+)?$/i,
};

interface Words {
  readonly text: string;
  /** What a program calls the field, of an attribute of a placed block. */
  readonly tag: string | undefined;
  readonly box: Box;
  readonly size: number;
}

/** Fewer fields than this are no title block. */
const FEWEST = 2;
/** Share of the page within which the fields of one block lie. */
const TOGETHER = 0.4;

/** For each page the fields of its title block; undefined where none is recognised. */
export function titleBlocks(design: Design): (TitleBlock | undefined)[] {
  if (design.sequential) return [];
  const perPage = design.pages.map((): Words[] => []);
  for (const { page, lettering, box, transform, props } of design.parts) {
    if (!lettering || !box || props['hidden'] === 'yes') continue;
    const text = (lettering.words ?? lettering.runs.map((r) => r.text).join(' ')).replace(/\s+/g, ' ').trim();
    if (text && text.length <= 120)
      perPage[page]?.push({
        text,
        tag: typeof props['tag'] === 'string' ? props['tag'].replace(/[_-]+/g, ' ') : undefined,
        box,
        size: lettering.size * Math.hypot(transform[0], transform[1]),
      });
  }
  return perPage.map((words, k) => blockOf(words, design.pages[k]?.box));
}

function tagged({ tag, text }: Words): { field: TitleFieldName; value: string } | undefined {
  const field = tag === undefined ? undefined : fieldOf(tag);
  return field && { field, value: text };
}

/** A label and its value in one text. */
function both(text: string): { field: TitleFieldName; value: string } | undefined {
  const colon = /^([^:]{2,28}):\s*(\S.*)$/.exec(text);
  const byColon = colon && fieldOf(colon[1] ?? '');
  if (colon && byColon) return { field: byColon, value: (colon[2] ?? '').trim() };
  const [, label = '', value = ''] = /^(\D{2,28}?)\s+(\S+(?:\s*(?::|of|\/)\s*\S+)?)$/.exec(text) ?? [];
  const field = fieldOf(label);
  return field && looks[field]?.test(value) ? { field, value } : undefined;
}

interface FoundField {
  readonly field: TitleFieldName;
  readonly value: string;
  readonly box: Box;
}

function blockOf(words: readonly Words[], page: Box | undefined): TitleBlock | undefined {
  if (!page) return undefined;
  const labelled = words.map((w) => ({ ...w, field: fieldOf(w.text), both: tagged(w) ?? both(w.text) }));
  const values = labelled.filter((w) => w.field === undefined && !w.both);
  const found: FoundField[] = [];
  for (const { field, box, size } of labelled) {
    const value = field && beside(box, size, values);
    if (field && value) found.push({ field, value: value.text, box });
  }
  for (const { both: own, box } of labelled) if (own) found.push({ ...own, box });
  // Headings of tables say the same words: what stands with the most other fields is the title block.
  const near = (p: FoundField): FoundField[] =>
    found.filter((q) => Math.hypot(q.box[0] - p.box[0], q.box[1] - p.box[1]) < TOGETHER * diagonal(page));
  const distinct = (list: readonly FoundField[]): number => new Set(list.map((f) => f.field)).size;
  const centre = found.reduce<FoundField | undefined>(
    (best, f) =>
      !best ||
      distinct(near(f)) > distinct(near(best)) ||
      (distinct(near(f)) === distinct(near(best)) && corner(f.box, page) < corner(best.box, page))
        ? f
        : best,
    undefined,
  );
  const own = centre ? near(centre) : [];
  if (
    !centre ||
    distinct(own) < FEWEST ||
    !own.some((f) => f.field === 'number' || f.field === 'title' || f.field === 'revision')
  )
    return undefined;
  const out: Partial<Record<TitleFieldName, string>> = {};
  for (const field of titleFields) {
    const [first] = own.filter((f) => f.field === field).sort((p, q) => corner(p.box, page) - corner(q.box, page));
    if (first) out[field] = first.value;
  }
  return out;
}

/** Distance from the lower right corner, where title blocks are. */
const corner = (box: Box, page: Box): number => Math.hypot(page[2] - box[2], page[3] - box[3]);

/** The value of a label: beneath it, behind it on its line, or else above it. */
function beside(label: Box, size: number, values: readonly Words[]): Words | undefined {
  const line = Math.max(size, height(label)) || 1;
  let best: { value: Words; far: number } | undefined;
  for (const value of values) {
    const { box } = value;
    const overlap = Math.min(label[2], box[2]) - Math.max(label[0], box[0]);
    const starts = Math.abs(box[0] - label[0]) < 1.2 * line;
    const below = box[1] - label[3];
    const above = label[1] - box[3];
    const behind = box[0] - label[2];
    const level = Math.min(label[3], box[3]) - Math.max(label[1], box[1]);
    const stacked = overlap > 0.3 * Math.min(width(label), width(box)) || starts;
    const isBehind = level > 0.4 * Math.min(height(label), height(box)) && behind > -0.3 * line && behind < 14 * line;
    const isBelow = stacked && below > -0.6 * line && below < 3 * line;
    const isAbove = stacked && above > -0.6 * line && above < 2 * line;
    let far: number | undefined;
    if (isBehind) far = Math.max(0, behind) * 0.5;
    else if (isBelow) far = Math.max(0, below);
    else if (isAbove) far = Math.max(0, above) + 3 * line;
    if (far !== undefined && (!best || far < best.far)) best = { value, far };
  }
  return best?.value;
}

/** A page before and after, and whether it changed while its revision did not. */
export interface TitleBlockChange {
  readonly page: string;
  readonly a: TitleBlock | null;
  readonly b: TitleBlock | null;
  readonly stale: boolean;
}

/**
 * `changed`: names of the pages on which something changed; pages are those of B, and of A where B has none of that
 * name.
 */
export function titleBlockChanges(a: Design, b: Design, changed: ReadonlySet<string>): TitleBlockChange[] {
  const before = titleBlocks(a);
  const after = titleBlocks(b);
  const out: TitleBlockChange[] = [];
  b.pages.forEach((page, j) => {
    const i = a.pages.findIndex((p) => p.name === page.name && p.place !== -1);
    const was = before[i] ?? null;
    const is = after[j] ?? null;
    if (was ?? is)
      out.push({
        page: page.name,
        a: was,
        b: is,
        stale: changed.has(page.name) && was?.revision !== undefined && was.revision === is?.revision,
      });
  });
  a.pages.forEach((page, i) => {
    const was = before[i];
    if (was && !b.pages.some((p) => p.name === page.name)) out.push({ page: page.name, a: was, b: null, stale: false });
  });
  return out;
}

/** What a reader should be told of sheets that changed and kept their revision. */
export function staleSentence(blocks: readonly TitleBlockChange[]): string | undefined {
  const stale = blocks.filter((t) => t.stale);
  const saySheet = (number: string | undefined, page: string): string => {
    if (!number) return page;
    return blocks.length > 1 ? `${number} (${page})` : number;
  };
  const named = stale.map(
    ({ page, b }) =>
      `${saySheet(b?.number, page)} says revision ${b?.revision ?? ''}, and the version before said ${b?.revision ?? ''} too`,
  );
  if (!stale.length) return undefined;
  return `${stale.length === 1 ? 'A sheet changed without a new revision' : `${stale.length} sheets changed without a new revision`}: ${named.slice(0, 3).join('; ')}${named.length > 3 ? `; and ${named.length - 3} more` : ''}.`;
}
