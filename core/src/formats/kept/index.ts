/** Kinds of file that are recognised by content and kept whole, but have no reader. */
import type { Confidence, Format } from '../../model/format.ts';

type Signature = readonly [offset: number, bytes: string];

function kept(id: string, title: string, extensions: string[], mime: string, ...signatures: Signature[][]): Format {
  const has = (head: Uint8Array, [offset, bytes]: Signature): boolean => {
    for (let i = 0; i < bytes.length; i++) if (head[offset + i] !== bytes.charCodeAt(i)) return false;
    return true;
  };
  const sniff = (head: Uint8Array): Confidence =>
    signatures.some((all) => all.every((s) => has(head, s))) ? 'certain' : 'no';
  return { id, title, extensions, mime, sniff };
}

export const keptFormats: readonly Format[] = [
  kept('png', 'PNG picture', ['png'], 'image/png', [[0, '\x89PNG\r\n\x1a\n']]),
  kept('jpeg', 'JPEG picture', ['jpg', 'jpeg'], 'image/jpeg', [[0, '\xff\xd8\xff']]),
  kept('gif', 'GIF picture', ['gif'], 'image/gif', [[0, 'GIF87a']], [[0, 'GIF89a']]),
  kept('webp', 'WebP picture', ['webp'], 'image/webp', [
    [0, 'RIFF'],
    [8, 'WEBP'],
  ]),
  kept('avif', 'AVIF picture', ['avif'], 'image/avif', [[4, 'ftypavif']]),
  kept('tiff', 'TIFF picture', ['tif', 'tiff'], 'image/tiff', [[0, 'II*\0']], [[0, 'MM\0*']]),
  kept('zip', 'ZIP container', ['zip', '3mf', 'xlsx', 'docx', 'ods', 'odt', 'usdz'], 'application/zip', [
    [0, 'PK\x03\x04'],
  ]),
  kept('glb', 'binary glTF model', ['glb'], 'model/gltf-binary', [[0, 'glTF']]),
  kept('gzip', 'gzip-compressed file', ['gz', 'svgz'], 'application/gzip', [[0, '\x1f\x8b']]),
];
