/**
 * The neutral model: what every reader produces and everything else works on.
 *
 * Geometry is kept in flat typed arrays. A part names a run of subpaths; a subpath is a run of points.
 */
import type { Box } from '../geometry/box.ts';
import { identity, type Matrix } from '../geometry/matrix.ts';
import type { InSpace } from './solid.ts';

/** A scalar property of a part. Numbers are in design units unless the name says otherwise. */
export type Scalar = string | number | boolean;

/** A sheet, view, worksheet or layer of an image. Boxes are in design units. */
export interface Page {
  readonly name: string;
  /** The visible area of the page. */
  readonly box: Box;
  /** Real-world size of one design unit in millimetres; undefined where the file does not say. */
  readonly unitMillimetres?: number;
  /** How large the page is shown or printed, in millimetres, and how it fits there, where the file says so. */
  readonly frame?: { readonly size: readonly [width: number, height: number]; readonly fit: string };
  /**
   * Where the page stands in its own file, while it is seen in the order of another; −1 for pages of the other alone.
   */
  readonly place?: number;
  /** Degrees by which it was turned clockwise to be seen like the page of another document. */
  readonly turned?: number;
}

/** A shared thing that parts are placements of (block, symbol, style, gradient …). */
export interface Definition {
  readonly key: string;
  readonly kind: string;
  readonly name: string;
  /** Changes when, and only when, the content of the definition changes. Independent of its key. */
  readonly fingerprint: string;
  readonly parts: number;
  /** Nothing on a page is drawn with it: it lies ready in the file. */
  readonly unplaced?: true;
  /**
   * What a placement draws, in the definition's own coordinates, where the reader keeps it apart. Placements have no
   * geometry of their own then; their `transform` maps these coordinates to the page.
   */
  readonly content?: readonly Part[];
  /** What it holds, in its own coordinates, for saying what changed in it; where placements have their own geometry. */
  readonly inside?: readonly Part[];
}

/** A layer that the file declares, with what parts take from it. */
export interface Layer {
  readonly name: string;
  readonly key: string | undefined;
  readonly props: Readonly<Record<string, Scalar>>;
}

/** One family of parallel lines of a hatch, in page coordinates and degrees counter-clockwise. */
export interface HatchLine {
  readonly angle: number;
  readonly x: number;
  readonly y: number;
  /** From one line to the next. */
  readonly dx: number;
  readonly dy: number;
  /** Lengths of dashes; negative for gaps, 0 for dots; empty for a whole line. */
  readonly dashes: readonly number[];
}

/** Words drawn on a page: what a viewer needs to draw them again. */
export interface Lettering {
  /** Runs of words with the place where each begins, in the part's own units. */
  readonly runs: readonly { readonly text: string; readonly x: number; readonly y: number }[];
  /** Font size in the part's own units, before its transform. */
  readonly size: number;
  readonly family: string;
  readonly weight: string;
  /** The words as written, where the runs are lines that were broken to fit a width. */
  readonly words?: string;
  readonly anchor: 'start' | 'middle' | 'end';
}

/** One thing on a page that a person could point at. */
export interface Part {
  /** Identity in the file where the format gives one (an id, a handle, a line number); evidence, not proof. */
  readonly key: string | undefined;
  readonly kind: string;
  /** The name a person gave it, or else a short description. */
  readonly name: string;
  /** Keys or labels of the groups that hold it, outermost first. */
  readonly parents: readonly string[];
  /** Layer, discipline or group by which people filter; empty for none. */
  readonly category: string;
  /** True where `category` is a group's id, which programs make up, and not a name that a person gave. */
  readonly categoryIsKey: boolean;
  /** Index into `Design.pages`. */
  readonly page: number;
  /** First subpath and number of subpaths in `Design.geometry`; count 0 for parts without geometry. */
  readonly firstSubpath: number;
  readonly subpaths: number;
  readonly box: Box | undefined;
  /** From the part's own coordinates to the page. */
  readonly transform: Matrix;
  /** Style and other scalars that a person could change. */
  readonly props: Readonly<Record<string, Scalar>>;
  readonly lettering?: Lettering;
  /** Of models: its surface, and how it stands. */
  readonly space?: InSpace;
  readonly hatch?: readonly HatchLine[];
  /** A window onto the first page: from that page to this one, and what of this page it fills. */
  readonly window?: {
    readonly matrix: Matrix;
    readonly clip: Box;
    /** Corners of the border on this page, x and y alternating, where it is no upright rectangle. */
    readonly outline?: readonly number[];
    /** Layers that are not seen through it. */
    readonly without?: ReadonlySet<string>;
  };
  /** Index into `Design.definitions`. */
  readonly definition?: number;
  /** Byte offsets of the part in the file: start (inclusive), end (exclusive). */
  readonly span: readonly [number, number];
}

/** Flattened geometry in page coordinates. */
export interface Geometry {
  /** x and y of each point, alternating. */
  readonly points: Float64Array;
  /** Index of the first point of each subpath; one more entry at the end. */
  readonly starts: Uint32Array;
  /** 1 where the subpath is closed. */
  readonly closed: Uint8Array;
}

export interface Origin {
  readonly program?: string;
  readonly formatVersion?: string;
  /** Name of the drawing's unit, as written in the file. */
  readonly units?: string;
}

/** How a change of size of a page is told. */
export interface PageSizes {
  /** Name of the unit; that of the design where it is left out. */
  readonly unit?: string;
  /** Of design units. */
  readonly factor: number;
  /** Parts of a unit do not count. */
  readonly whole: boolean;
  /** Nothing is said where the whole drawing was moved or scaled, and of the first page alone. */
  readonly unless?: 'placed';
}

/** What a comparison must know of a design, whatever its format. */
export interface DesignTraits {
  /** Parts are filled and cover one another, so that their order shows. */
  readonly covering?: true;
  /** Absent where the size of a page follows from what is on it. */
  readonly pageSize?: PageSizes;
  /** Pages are put in, taken out and moved: they are paired by what is on them. */
  readonly pagesMove?: true;
  /** Parts do not tell all that is seen, as of scans: pages are looked at by their pixels, too. */
  readonly seenOtherwise?: true;
}

export interface Design {
  readonly format: string;
  readonly traits: DesignTraits;
  readonly origin: Origin;
  readonly pages: readonly Page[];
  readonly parts: readonly Part[];
  readonly definitions: readonly Definition[];
  readonly geometry: Geometry;
  /** Plain sentences about what the reader met and left out. */
  readonly notes: readonly string[];
  /** True where parts follow one another (lines of text) and are paired by order, not by place. */
  readonly sequential: boolean;
  /** Layers that the file declares; absent where the format has none. */
  readonly layers?: readonly Layer[];
  /** Dash lengths by name of the line type, in design units: dash, gap, dash …; dots are 0. */
  readonly lineTypes?: Readonly<Record<string, readonly number[]>>;
  /** True where people read the drawing's y axis upwards: page y is −drawing y. */
  readonly yUp?: boolean;
}

export const noTraits: DesignTraits = {};

export const emptyGeometry: Geometry = {
  points: new Float64Array(0),
  starts: new Uint32Array(1),
  closed: new Uint8Array(0),
};

/** A part of which nothing is known but what is given: no group, no layer, no geometry of its own. */
export const plainPart = (given: Pick<Part, 'kind' | 'name' | 'box'> & Partial<Part>): Part => ({
  key: undefined,
  parents: [],
  category: '',
  categoryIsKey: false,
  page: 0,
  firstSubpath: 0,
  subpaths: 0,
  transform: identity,
  props: {},
  span: [0, 0],
  ...given,
});

/** One page with these parts, and nothing else. */
export const plainDesign = (format: string, page: Page, parts: readonly Part[], geometry = emptyGeometry): Design => ({
  format,
  traits: noTraits,
  origin: {},
  pages: [page],
  parts,
  definitions: [],
  geometry,
  notes: [],
  sequential: false,
});
