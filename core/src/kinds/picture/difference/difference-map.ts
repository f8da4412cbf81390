/** How much the squares of two pictures differ. */

/** Pixels along a side of a square. */
export const CELL = 4;

export interface DifferenceMap {
  /** Number of squares across and down. */
  readonly columns: number;
  readonly rows: number;
  /** CIEDE2000 of each square, before noise is taken into account. */
  readonly plain: Float32Array;
  /** The same less what noise explains: what is at least the threshold has changed. */
  readonly beyond: Float32Array;
  /** 0 where only one picture has anything, else 1. */
  readonly shared: Uint8Array;
  /**
   * Noise that three quarters of the squares stay below, as CIEDE2000; 0 for pictures that are equal nearly
   * everywhere.
   */
  readonly noise: number;
  /** What half of them stay below. */
  readonly median: number;
}

/** Differences below are not seen by people. */
export const THRESHOLD = 2.3;
