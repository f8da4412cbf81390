import { pagesAsRead, type PageEntry, type PagesSoFar } from '@ovrel/core';
import type { Source, Task } from '../task.ts';
import { orNothing } from './shared.ts';

/** Milliseconds between two reports. */
const OFTEN = 150;

/** Which pages of two documents changed, told as they are read; null where they have no pages to be paired. */
export const pages: Task<{ readonly a: Source; readonly b: Source }, PageEntry[] | null> = ({ a, b }, report) => {
  let told = Date.now();
  const tell = (soFar: () => PagesSoFar): void => {
    if (Date.now() - told < OFTEN) return;
    told = Date.now();
    report(soFar());
  };
  return orNothing(async () => (await pagesAsRead(a.bytes, b.bytes, tell)) ?? null);
};
