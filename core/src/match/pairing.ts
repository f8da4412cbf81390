/** Which part of A is which part of B. */
export interface Pairing {
  /** For each part of A the index of its part in B, or −1. */
  readonly toB: Int32Array;
  readonly toA: Int32Array;
  /** True where keys proved to mean the same thing on both sides. */
  readonly keysTrusted: boolean;
  /** True where both sides have keys, and those of one mean nothing on the other. */
  readonly renumbered: boolean;
}
