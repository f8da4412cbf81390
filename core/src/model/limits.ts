/** Bounds on what a reader may use. Every file is hostile until it has been read. */
export interface Limits {
  readonly bytes: number;
  /** Elements, entities or other records. */
  readonly elements: number;
  readonly depth: number;
  /** Points of flattened geometry. */
  readonly points: number;
  /** Placements of definitions, nested ones counted each time they are drawn. */
  readonly placements: number;
  /** Cells of tables. */
  readonly cells: number;
}

export const defaultLimits: Limits = {
  bytes: 256 * 1024 * 1024,
  elements: 2_000_000,
  depth: 512,
  points: 40_000_000,
  placements: 500_000,
  cells: 4_000_000,
};
