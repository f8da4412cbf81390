/** Ends the program with a sentence instead of a stack. */
export class Stop extends Error {}
