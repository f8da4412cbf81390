/** Pictures that are made of layers. */
import type { Card } from '../../model/card.ts';
import { engine } from '../../model/engines.ts';
import type { Format, OpenLayered } from '../../model/format.ts';
import { writtenInPicture } from './written.ts';

export const layeredFormat = (card: Card, open: (bytes: Uint8Array) => Promise<OpenLayered>): Format => ({
  card,
  read: { picture: async (bytes) => (await engine('pictures')).openLayered(await open(bytes), card) },
  written: writtenInPicture,
  facts: async (bytes) => (await engine('pictures')).layeredFacts(await open(bytes), card),
  layers: open,
});
