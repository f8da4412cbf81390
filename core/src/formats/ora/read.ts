/** OpenRaster 0.0.6: a container with a stack of layers in XML, and a PNG for each. */
import { unzipSync } from 'fflate';
import { hashBytes } from '../../geometry/hash.ts';
import type { Limits } from '../../model/limits.ts';
import { ReadError } from '../../model/problem.ts';
import { MOST_LAYERS, type PictureLayer } from '../../model/layers.ts';
import { parseXml, type XmlElement } from '../xml/parse.ts';
import { blendOfOperator } from './blend.ts';

export interface Ora {
  readonly width: number;
  readonly height: number;
  readonly density: number | undefined;
  /** From the top. The boxes of layers have only their upper left corner: sizes are in their pictures. */
  readonly layers: readonly (PictureLayer & {
    readonly x: number;
    readonly y: number;
    readonly png: Uint8Array | undefined;
  })[];
  /** All of it as it is seen; undefined where the file has none. */
  readonly merged: Uint8Array | undefined;
  readonly notes: readonly string[];
}

/** Largest contents of all members together, in bytes. */
const LARGEST = 1024 ** 3;

/** Throws ReadError with a sentence. */
export function readOra(bytes: Uint8Array, limits: Limits): Ora {
  const members = openedMembers(bytes);
  const stack = members['stack.xml'];
  const notes: string[] = [];
  if (!stack) throw new ReadError('The container has no list of layers (stack.xml).');
  const { root } = parseXml(stack, limits, '');
  const top = root.children.find((c): c is XmlElement => typeof c !== 'string' && c.name === 'stack');
  const width = whole(root.attributes['w']);
  const height = whole(root.attributes['h']);
  const density = whole(root.attributes['xres']);
  if (root.name !== 'image' || !top || !(width > 0) || !(height > 0))
    throw new ReadError(
      'The list of layers (stack.xml) is damaged: it has no image with a width, a height and a stack.',
    );
  const layers: Ora['layers'][number][] = [];
  const lost: string[] = [];
  const walk = (element: XmlElement, group: number, x: number, y: number): void => {
    for (const child of element.children) {
      if (typeof child === 'string' || (child.name !== 'layer' && child.name !== 'stack')) continue;
      if (layers.length >= MOST_LAYERS)
        throw new ReadError(
          `The picture has more than ${MOST_LAYERS.toLocaleString('en')} layers, which is more than Ovrel looks into.`,
        );
      const { attributes: has } = child;
      const kind = child.name === 'stack' ? ('group' as const) : ('layer' as const);
      const left = x + whole(has['x'] ?? '0');
      const above = y + whole(has['y'] ?? '0');
      const png = kind === 'layer' ? members[has['src'] ?? ''] : undefined;
      const name = has['name']?.trim() || (kind === 'group' ? 'group without a name' : 'layer without a name');
      if (kind === 'layer' && has['src'] && !png) lost.push(name);
      const opacity = Number(has['opacity'] ?? 1);
      layers.push({
        key: undefined,
        kind,
        name,
        group,
        hidden: has['visibility'] === 'hidden',
        opacity: Number.isFinite(opacity) ? Math.min(1, Math.max(0, opacity)) : 1,
        blend: blendOfOperator(has['composite-op']),
        box: png && [left, above, left, above],
        print: png ? hashBytes(png) : '',
        x: left,
        y: above,
        png,
      });
      if (kind === 'group') walk(child, layers.length - 1, left, above);
    }
  };
  walk(top, -1, 0, 0);
  if (lost.length)
    notes.push(
      `The pixels of ${lost
        .slice(0, 3)
        .map((n) => `“${n}”`)
        .join(', ')}${lost.length > 3 ? ` and ${lost.length - 3} more` : ''} are missing in the file.`,
    );
  return {
    width,
    height,
    density: density > 0 ? density : undefined,
    layers,
    merged: members['mergedimage.png'],
    notes,
  };
}

/** What belongs to the picture. Throws ReadError with a sentence. */
export function openedMembers(bytes: Uint8Array): Record<string, Uint8Array> {
  let size = 0;
  try {
    return unzipSync(bytes, {
      filter: (m) => {
        if (!/^(stack\.xml|mergedimage\.png|data\/.*\.png)$/i.test(m.name)) return false;
        size += m.originalSize;
        if (size > LARGEST)
          throw new ReadError(
            `Its contents are larger than ${LARGEST / 1024 ** 2} MB, which is more than Ovrel opens.`,
          );
        return true;
      },
    });
  } catch (error) {
    if (error instanceof ReadError) throw error;
    throw new ReadError('The container is damaged: its contents cannot be taken out.');
  }
}

const whole = (text: string | undefined): number => (text === undefined ? 0 : Math.round(Number(text)) || 0);
