import type { Card } from '../../../model/card.ts';
import type { Format, Readers, Sources } from '../../../model/format.ts';
import { readLines } from '../../text/read.ts';
import { sourceOfText } from '../../text/source.ts';
import { writtenInStep } from './written.ts';

interface Model {
  readonly read: NonNullable<Readers['solid']>;
  readonly references: NonNullable<Format['references']>;
  /** Its parts, where they can be changed one by one. */
  readonly source?: NonNullable<Sources['solid']>;
}

/** Of models whose records stand in lines of text. */
export const stepFormat = (card: Card, { read, references, source }: Model): Format => ({
  card,
  read: { solid: read, text: readLines },
  source: { ...(source ? { solid: source } : {}), text: sourceOfText },
  written: writtenInStep,
  references,
});
