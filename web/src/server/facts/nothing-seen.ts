import type { Look } from '../../contract/look.ts';

/** What is said of a content of which nothing is known but its format. */
export const nothingSeen: Omit<Look, 'format' | 'formatTitle' | 'problem'> = {
  level: 'bytes',
  again: false,
  locked: false,
  program: null,
  units: null,
  page: null,
  pages: [],
  pageBoxes: [],
  scene: false,
  formatVersion: null,
  parts: 0,
  lines: 0,
  kinds: {},
  picture: null,
  solid: null,
  layers: [],
  titleBlocks: [],
  notes: [],
  viewTag: null,
};
