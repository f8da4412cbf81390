/** Lends the core what a browser has: imported by workers that open files. */
import { lendEngines, ReadError } from '@ovrel/core';
import { plainPicture } from '@ovrel/core/pictures';
import { decodeHere } from './decode.ts';

const onServer = (): never => {
  throw new ReadError('Such pictures are looked into on the server only.', undefined, 'unsupported');
};

lendEngines({
  pictures: () =>
    Promise.resolve({
      open: async (bytes, card) => {
        if (card.show !== 'itself') onServer();
        const bitmap = await decodeHere(new Blob([Uint8Array.from(bytes)])).then(
          (decoded) => decoded.bitmap,
          () => onServer(),
        );
        const picture = { ...plainPicture(bitmap), savedAs: card.id.toUpperCase(), lossy: card.lossy ?? false };
        return { count: 1, page: () => Promise.resolve(picture), sketch: () => Promise.resolve(undefined) };
      },
      facts: onServer,
      openOra: onServer,
      openPsd: onServer,
      openLayered: onServer,
      encodePng: onServer,
      layeredFacts: onServer,
    }),
});
