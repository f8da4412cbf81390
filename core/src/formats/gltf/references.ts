import type { Reference } from '../../references/reference.ts';
import { decodeAny } from '../shared/plain-text.ts';

/** Buffers and pictures beside the file (glTF 2.0). */
export function* referencesInGltf(text: string): Generator<Reference> {
  const { buffers = [], images = [] } = JSON.parse(text) as {
    buffers?: { uri?: unknown }[];
    images?: { uri?: unknown }[];
  };
  for (const { uri } of buffers) if (typeof uri === 'string') yield { target: uri, kind: 'data' };
  for (const { uri } of images) if (typeof uri === 'string') yield { target: uri, kind: 'texture' };
}

export const referencesOfGltf = (bytes: Uint8Array): Iterable<Reference> => referencesInGltf(decodeAny(bytes));
