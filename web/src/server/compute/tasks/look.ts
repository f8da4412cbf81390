/** What can be said of a content before anybody compares it. */
import {
  layerEntries,
  modelOf,
  open,
  orUnreadable,
  pageName,
  ReadError,
  solidFacts,
  titleBlocks,
  kindOf,
  type Content,
  type PictureFacts,
  type Solid,
  type Workbook,
} from '@ovrel/core';
import type { Look } from '../../../contract/look.ts';
import { nothingSeen } from '../../facts/nothing-seen.ts';
import type { Source, Task } from '../task.ts';

export const look: Task<{ readonly source: Source }, Look> = async ({ source: { bytes, name } }) => {
  const content = await open(bytes, name);
  return content.kinds[0] === 'picture' ? lookAtPixels(content) : lookAtParts(content);
};

const ofFormat = ({ card }: Content): Pick<Look, 'format' | 'formatTitle'> => ({
  format: card?.id ?? null,
  formatTitle: card?.title ?? null,
});

function lookAtParts(content: Content): Look {
  const { kinds, card, format, design, problem, bytes } = content;
  const common = {
    ...nothingSeen,
    ...ofFormat(content),
    level: kindOf(kinds[0]).level,
    problem: problem?.sentence ?? null,
    locked: problem?.code === 'locked',
    notes: [...(design?.notes ?? [])],
  };
  if (!design) return common;
  if (kinds[0] === 'solid') return lookAtSolid(common, design as Solid);
  if (kinds[0] === 'table') return lookAtTable(common, design as Workbook);
  if (kinds[0] !== 'drawing') return { ...common, lines: design.parts.length };
  const [page] = design.pages;
  const blocks = titleBlocks(design);
  return {
    ...common,
    program: design.origin.program ?? null,
    units: design.origin.units ?? null,
    formatVersion: design.origin.formatVersion ?? null,
    page: page ? { box: [...page.box], unitMillimetres: page.unitMillimetres ?? null } : null,
    pages: design.pages.map((p) => p.name),
    pageBoxes: design.pages.map((p) => [...p.box]),
    scene: card?.show === 'parts' || (card?.crowd !== undefined && design.parts.length > card.crowd.parts),
    parts: design.parts.length,
    kinds: tally(design.parts.map((p) => p.kind)),
    titleBlocks: blocks.flatMap((fields, k) => (fields ? [{ page: design.pages[k]?.name ?? '', fields }] : [])),
    viewTag: (page && format?.showTag?.(bytes, page.box)) ?? null,
  };
}

function lookAtSolid(common: Look, solid: Solid): Look {
  const { origin, parts, pages } = solid;
  const facts = solidFacts(solid);
  return {
    ...common,
    program: origin.program ?? null,
    units: origin.units ?? null,
    formatVersion: origin.formatVersion ?? null,
    pages: pages.map((p) => p.name),
    parts: parts.length,
    kinds: tally(parts.map((p) => p.kind)),
    solid: facts ? { ...facts, size: [...facts.size] } : null,
  };
}

function lookAtTable(common: Look, { sheets, origin }: Workbook): Look {
  const values = sheets.flatMap((sheet) => sheet.values.map((row) => row.filter((value) => value !== null).length));
  return {
    ...common,
    program: origin.program ?? null,
    pages: sheets.map(({ name }) => name),
    parts: values.reduce((sum, count) => sum + count, 0),
  };
}

function tally(names: readonly string[]): Record<string, number> {
  const out: Record<string, number> = {};
  for (const name of names) out[name] = (out[name] ?? 0) + 1;
  return out;
}

/** Pixels up to which a picture is decoded only to see whether it is whole. */
const DECODED = 60_000_000;

async function lookAtPixels(content: Content): Promise<Look> {
  const named = content.problem?.sentence;
  const seen = await orUnreadable(pixelsOf(content));
  if (!(seen instanceof ReadError))
    return { ...seen, ...ofFormat(content), problem: null, notes: [...(named ? [named] : []), ...seen.notes] };
  return {
    ...nothingSeen,
    ...ofFormat(content),
    problem: [named, seen.message].filter(Boolean).join(' '),
  };
}

async function pixelsOf(content: Content): Promise<Omit<Look, 'format' | 'formatTitle' | 'problem'>> {
  const facts = await content.format?.facts?.(content.bytes);
  if (!facts) throw new ReadError('Ovrel has no reader for this picture.', undefined, 'unsupported');
  const { width, height, depth, density, profile, colours, transparent, pages, layered } = facts;
  const whole = width * height <= DECODED ? await (await modelOf(content, 'picture')).page(0) : undefined;
  return {
    ...nothingSeen,
    level: 'pixels',
    units: 'px',
    page: { box: [0, 0, width, height], unitMillimetres: density ? 25.4 / density : null },
    ...pagesOf(facts),
    layers: layered ? layerEntries(layered) : [],
    picture: {
      width,
      height,
      depth,
      density: density ?? null,
      profile: profile ?? null,
      colours,
      transparent,
      pages,
      damaged: whole?.lostFrom !== undefined,
    },
    notes: [...(whole ?? facts).notes],
  };
}

function pagesOf(facts: PictureFacts): Pick<Look, 'pages' | 'pageBoxes'> {
  if (facts.pages === 1) return { pages: ['Picture'], pageBoxes: [[0, 0, facts.width, facts.height]] };
  return { pages: Array.from({ length: facts.pages }, (_, k) => pageName(facts, k)), pageBoxes: [] };
}
