/** What a file says of itself: when it was written last, and by whom. Programs may say nothing, or what is not so. */
export interface Written {
  /** Milliseconds since 1970. */
  readonly at?: number;
  readonly by?: string;
}
