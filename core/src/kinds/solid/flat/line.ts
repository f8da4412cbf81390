/** On the sheet, y downwards. */
export type Line = readonly [x0: number, y0: number, x1: number, y1: number];
