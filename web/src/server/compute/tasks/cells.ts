import { gzipSync } from 'node:zlib';
import { open, packTable, type Workbook } from '@ovrel/core';
import type { Source, Task } from '../task.ts';

/** A packed table (kinds/table/packed.ts), gzipped; empty where the content is none. */
export const cells: Task<{ readonly source: Source }, Uint8Array> = async ({ source }) => {
  const { kinds, design } = await open(source.bytes, source.name);
  if (kinds[0] !== 'table' || !design) return new Uint8Array();
  return gzipSync(packTable(design as Workbook), { level: 3 });
};
