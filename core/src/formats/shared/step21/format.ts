import type { Card } from '../../../model/card.ts';
import type { Format, Readers } from '../../../model/format.ts';
import { readLines } from '../../text/read.ts';
import { sourceOfText } from '../../text/source.ts';
import { writtenInStep } from './written.ts';

/** Of models whose records stand in lines of text. */
export const stepFormat = (
  card: Card,
  solid: NonNullable<Readers['solid']>,
  references: NonNullable<Format['references']>,
): Format => ({
  card,
  read: { solid, text: readLines },
  source: { text: sourceOfText },
  written: writtenInStep,
  references,
});
