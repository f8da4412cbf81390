import type { Reference } from '../../references/reference.ts';
import { decodeAny } from '../shared/plain-text.ts';

export function* referencesOfObj(bytes: Uint8Array): Generator<Reference> {
  for (const [, names = ''] of decodeAny(bytes).matchAll(/^\s*mtllib\s+(.+)$/gim)) {
    // Names may have blanks in them, or several names may stand in one line.
    for (const name of names.trim().split(/(?<=\.mtl)\s+/i)) yield { target: name, kind: 'material' };
  }
}
