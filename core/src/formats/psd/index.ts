import type { Format } from '../../model/format.ts';

/** Looked into by its pixels and layers (node/layered.ts). */
export const psd: Format = {
  id: 'psd',
  title: 'layered picture (PSD)',
  extensions: ['psd', 'psb'],
  mime: 'image/vnd.adobe.photoshop',
  sniff: (head) =>
    new TextDecoder('latin1').decode(head.subarray(0, 4)) === '8BPS' &&
    head[4] === 0 &&
    (head[5] === 1 || head[5] === 2)
      ? 'certain'
      : 'no',
};
