import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { csv } from './card.ts';
import { readCsv } from './read.ts';
import { sourceOfRows } from './source.ts';

export const format: Format = {
  card: csv,
  read: { table: readCsv, text: readLines },
  source: { table: sourceOfRows, text: sourceOfText },
};
