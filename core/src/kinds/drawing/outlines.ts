/** The shapes of changed parts, small enough to send to a viewer. */
import { z } from 'zod';
import { changeId } from '../../causes/assemble.ts';
import { layerSchema } from '../../contract/comparison.ts';
import { applyX, applyY, multiply, type Matrix } from '../../geometry/matrix.ts';
import { isPlaced } from '../../match/traits.ts';
import type { Design, Part } from '../../model/design.ts';

const outlineSchema = z.object({
  paths: z.array(z.array(z.number())).describe('x and y of each point, alternating; one array a subpath'),
  closed: z.array(z.boolean()),
  words: z.array(z.object({ text: z.string(), x: z.number(), y: z.number() })).optional(),
  font: z
    .object({
      size: z.number(),
      family: z.string(),
      weight: z.string(),
      anchor: z.string(),
      matrix: z.array(z.number()).length(6),
    })
    .optional(),
});

const pageSchema = z.object({ name: z.string(), box: z.array(z.number()).length(4) });

/** Of pictures: how A lies over B, and what is known of the noise between them. */
const laidSchema = z.object({
  matrix: z.array(z.number()).length(6).describe('From pixels of A to those of B'),
  found: z.boolean(),
  fit: z.number(),
  noise: z.number(),
  columns: z.number().int(),
  rows: z.number().int(),
  sizeA: z.array(z.number().int()).length(2),
  sizeB: z.array(z.number().int()).length(2),
});

export const changeOutlinesSchema = z.object({
  pageA: pageSchema.nullable(),
  pageB: pageSchema.nullable(),
  pages: z.object({ a: z.array(pageSchema), b: z.array(pageSchema) }).describe('All pages of both'),
  outlines: z
    .record(z.string(), z.object({ a: outlineSchema.optional(), b: outlineSchema.optional() }))
    .describe('By id of the change'),
  /** Changes whose outlines were left out because there are too many; their boxes are in the comparison. */
  omitted: z.number().int(),
  laid: laidSchema.optional(),
  laidOn: z
    .record(z.string(), laidSchema)
    .optional()
    .describe('The same for each page, by its name, of pictures that have several'),
  placing: z
    .array(z.number())
    .length(16)
    .optional()
    .describe('Of models: how A was moved as a whole to lie over B, column by column; boxes of A are so'),
  /** Of two that were compared as drawn: which page of each. */
  drawn: z.object({ a: z.number().int(), b: z.number().int() }).optional(),
  /** Of layered pictures: their layers, from the top. */
  layers: z
    .object({
      a: z.array(layerSchema),
      b: z.array(layerSchema),
      pairs: z.array(z.number().int()).describe('For each layer of A its pair in B, −1 for none'),
    })
    .optional(),
});

export type Outline = z.infer<typeof outlineSchema>;
export type ChangeOutlines = z.infer<typeof changeOutlinesSchema>;

/** Of contents that have no pages. */
export const noOutlines: ChangeOutlines = {
  pageA: null,
  pageB: null,
  pages: { a: [], b: [] },
  outlines: {},
  omitted: 0,
};

/** Numbers in all outlines together. */
const BUDGET = 600_000;

const costOf = (outline: Outline | undefined): number => outline?.paths.reduce((n, path) => n + path.length, 0) ?? 0;

/** `parts`: for each change the index of its part in A and in B, −1 for none. */
export function outlinesOf(a: Design, b: Design, parts: readonly (readonly [number, number])[]): ChangeOutlines {
  const outlines: ChangeOutlines['outlines'] = {};
  let spent = 0;
  let omitted = 0;
  for (const [k, [i, j]] of parts.entries()) {
    const partA = a.parts[i];
    const partB = b.parts[j];
    const inA = partA && outlineOf(a, partA);
    const inB = partB && outlineOf(b, partB);
    const cost = costOf(inA) + costOf(inB);
    if (spent + cost > BUDGET) omitted++;
    else if (inA ?? inB) {
      spent += cost;
      outlines[changeId(k)] = { ...(inA ? { a: inA } : {}), ...(inB ? { b: inB } : {}) };
    }
  }
  return { pageA: pageOf(a), pageB: pageOf(b), pages: { a: pagesOf(a), b: pagesOf(b) }, outlines, omitted };
}

/** In the order of the design's own file. */
const pagesOf = (design: Design): ChangeOutlines['pages']['a'] => {
  const own = design.pages.some((p) => p.place !== undefined)
    ? design.pages.filter((p) => (p.place ?? 0) >= 0).sort((p, q) => (p.place ?? 0) - (q.place ?? 0))
    : design.pages;
  return own.map((p) => ({ name: p.name, box: [...p.box] }));
};

const pageOf = (design: Design): ChangeOutlines['pageA'] => {
  const [page] = design.pages;
  return page ? { name: page.name, box: [...page.box] } : null;
};

/** Numbers in the outline of one placement. */
const MOST_PLACED = 8000;

/** What a placement draws, by its transform. */
function placedPaths(design: Design, part: Part, factor: number, paths: number[][], closes: boolean[]): void {
  const { points, starts, closed } = design.geometry;
  let spent = 0;
  const open = (at: Part, matrix: Matrix, depth: number): void => {
    for (let s = at.firstSubpath; s < at.firstSubpath + at.subpaths && spent < MOST_PLACED; s++) {
      const path: number[] = [];
      for (let p = starts[s] as number; p < (starts[s + 1] as number); p++) {
        const x = points[2 * p] as number;
        const y = points[2 * p + 1] as number;
        path.push(
          Math.round(applyX(matrix, x, y) * factor) / factor,
          Math.round(applyY(matrix, x, y) * factor) / factor,
        );
      }
      spent += path.length;
      paths.push(path);
      closes.push(closed[s] === 1);
    }
    if (at.definition === undefined || !isPlaced(at) || depth > 8 || spent >= MOST_PLACED) return;
    for (const child of design.definitions[at.definition]?.content ?? [])
      if (child.props['hidden'] !== 'yes')
        open(child, child.definition === undefined ? matrix : multiply(matrix, child.transform), depth + 1);
  };
  for (const child of design.definitions[part.definition ?? -1]?.content ?? [])
    if (child.props['hidden'] !== 'yes')
      open(child, child.definition === undefined ? part.transform : multiply(part.transform, child.transform), 1);
}

function outlineOf(design: Design, part: Part): Outline | undefined {
  if (!part.box) return undefined;
  const { points, starts, closed } = design.geometry;
  const step = Math.max(part.box[2] - part.box[0], part.box[3] - part.box[1]) / 2000 || 1e-6;
  const digits = Math.max(0, Math.min(6, Math.ceil(-Math.log10(step))));
  const factor = 10 ** digits;
  const paths: number[][] = [];
  const closes: boolean[] = [];
  for (let s = part.firstSubpath; s < part.firstSubpath + part.subpaths; s++) {
    const path: number[] = [];
    for (let p = starts[s] as number; p < (starts[s + 1] as number); p++) {
      const x = Math.round((points[2 * p] as number) * factor) / factor;
      const y = Math.round((points[2 * p + 1] as number) * factor) / factor;
      if (path.length < 2 || x !== path[path.length - 2] || y !== path[path.length - 1]) path.push(x, y);
    }
    paths.push(path);
    closes.push(closed[s] === 1);
  }
  if (isPlaced(part)) placedPaths(design, part, factor, paths, closes);
  const l = part.lettering;
  return {
    paths,
    closed: closes,
    ...(l
      ? {
          words: l.runs.map((r) => ({ ...r })),
          font: { size: l.size, family: l.family, weight: l.weight, anchor: l.anchor, matrix: [...part.transform] },
        }
      : {}),
  };
}
