/** Writes OpenRaster 0.0.6. The same layers give the same bytes. */
import { strToU8, zipSync, type Zippable } from 'fflate';
import { operatorOfBlend } from './blend.ts';

export interface LayerToWrite {
  readonly name: string;
  /** Index of the group that holds it, which must stand before it; −1 for none. */
  readonly group: number;
  readonly hidden: boolean;
  /** 0 to 1. */
  readonly opacity: number;
  readonly blend: string;
  /** Undefined for groups. */
  readonly pixels: { readonly png: Uint8Array; readonly x: number; readonly y: number } | undefined;
}

export interface OraToWrite {
  readonly width: number;
  readonly height: number;
  readonly density: number | undefined;
  /** From the top. */
  readonly layers: readonly LayerToWrite[];
  /** All of it as it is seen, as PNG, and the same within 256 × 256 pixels. */
  readonly merged: Uint8Array;
  readonly thumbnail: Uint8Array;
}

const escaped = (text: string): string =>
  text
    .replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c)
    .replace(/[\0-\x08\x0b\x0c\x0e-\x1f]/g, '');

export function writeOra({ width, height, density, layers, merged, thumbnail }: OraToWrite): Uint8Array {
  // PNGs are compressed already. The type comes first, and is stored.
  const members: Zippable = { mimetype: [strToU8('image/openraster'), { level: 0 }] };
  const pixels: Zippable = {};
  const listed = (group: number, indent: string): string =>
    layers
      .flatMap((l, k) => {
        if (l.group !== group) return [];
        const shared = `name="${escaped(l.name)}" opacity="${Number(l.opacity.toFixed(4))}" visibility="${l.hidden ? 'hidden' : 'visible'}" composite-op="${operatorOfBlend(l.blend)}"`;
        if (!l.pixels) return [`${indent}<stack ${shared}>\n${listed(k, `${indent}  `)}${indent}</stack>\n`];
        const src = `data/layer${String(k).padStart(3, '0')}.png`;
        pixels[src] = [l.pixels.png, { level: 0 }];
        return [
          `${indent}<layer ${shared} src="${src}" x="${Math.round(l.pixels.x)}" y="${Math.round(l.pixels.y)}"/>\n`,
        ];
      })
      .join('');
  const resolution = density ? ` xres="${Math.round(density)}" yres="${Math.round(density)}"` : '';
  members['stack.xml'] = strToU8(
    `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.6" w="${width}" h="${height}"${resolution}>\n  <stack>\n${listed(-1, '    ')}  </stack>\n</image>\n`,
  );
  Object.assign(members, pixels);
  members['mergedimage.png'] = [merged, { level: 0 }];
  members['Thumbnails/thumbnail.png'] = [thumbnail, { level: 0 }];
  return zipSync(members, { mtime: new Date(1980, 0, 1) });
}
