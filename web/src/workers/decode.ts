/** Pictures as the browser decodes them: upright, colour-managed, in sRGB. */
import { MOST_PIXELS, type Bitmap } from '@ovrel/core/pictures';

/** Longest side of a canvas that browsers agree on, in pixels. */
const LONGEST = 16_384;

/**
 * Throws where the browser cannot decode it. `longest`: made smaller by a factor that its longest side fits; `factor`
 * is used instead where it is given.
 */
export async function decodeHere(
  blob: Blob,
  longest = LONGEST,
  factor?: number,
): Promise<{ bitmap: Bitmap; factor: number }> {
  const image = await createImageBitmap(blob, {
    premultiplyAlpha: 'none',
    colorSpaceConversion: 'default',
    imageOrientation: 'from-image',
  });
  try {
    if (image.width * image.height > MOST_PIXELS) throw new Error('The picture is too large to be compared here.');
    const by = factor ?? Math.min(1, longest / Math.max(image.width, image.height));
    const width = Math.max(1, Math.round(image.width * by));
    const height = Math.max(1, Math.round(image.height * by));
    if (Math.max(width, height) > LONGEST) throw new Error('The picture is too large to be compared here.');
    const context = new OffscreenCanvas(width, height).getContext('2d', {
      willReadFrequently: true,
      colorSpace: 'srgb',
    });
    if (!context) throw new Error('This browser cannot look into pictures.');
    context.imageSmoothingQuality = 'high';
    context.drawImage(image, 0, 0, width, height);
    return { bitmap: { width, height, data: context.getImageData(0, 0, width, height).data }, factor: by };
  } finally {
    image.close();
  }
}
