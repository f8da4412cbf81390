/** Pictures whose files are decoded by an engine. */
import type { Card } from '../../model/card.ts';
import { engine } from '../../model/engines.ts';
import type { Format } from '../../model/format.ts';
import { writtenInPicture } from './written.ts';

export const pictureFormat = (card: Card): Format => ({
  card,
  read: { picture: async (bytes) => (await engine('pictures')).open(bytes, card) },
  written: writtenInPicture,
  facts: async (bytes) => (await engine('pictures')).facts(bytes, card),
});
