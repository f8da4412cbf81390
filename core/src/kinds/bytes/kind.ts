import { noOutlines } from '../drawing/outlines.ts';
import type { Kind } from '../kind.ts';
import { compareBytes } from './compare.ts';

export const bytes: Kind<Uint8Array> = {
  id: 'bytes',
  level: 'bytes',
  compare(a, b) {
    const { changes, unchanged } = compareBytes(a.model, b.model);
    return { changes, unchanged, causes: [], notes: [], unit: 'byte', tolerance: 0, outlines: noOutlines };
  },
};
