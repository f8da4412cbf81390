import { changesAsDxf, changesAsSvg } from '@ovrel/core';
import type { Source, Task } from '../task.ts';
import { compared } from './shared.ts';

interface Input {
  readonly a: Source;
  readonly b: Source;
  /** A drawing for programs that draw, or one that browsers show. */
  readonly as: 'drawing' | 'page';
}

/** The changed parts alone, as a drawing in UTF-8; empty where the two have no parts. */
export const changes: Task<Input, Uint8Array> = async ({ a, b, as }) => {
  const { comparison, parts } = await compared(a, b);
  if (!parts) return new Uint8Array();
  return new TextEncoder().encode(as === 'drawing' ? changesAsDxf(comparison, parts) : changesAsSvg(parts));
};
