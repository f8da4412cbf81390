import type { Reference } from '../../references/reference.ts';
import { decodeAny } from '../shared/plain-text.ts';

/** Options of texture lines, and how many values follow each. */
const mtlOptions: Readonly<Record<string, number>> = {
  '-blendu': 1,
  '-blendv': 1,
  '-bm': 1,
  '-boost': 1,
  '-cc': 1,
  '-clamp': 1,
  '-imfchan': 1,
  '-mm': 2,
  '-texres': 1,
  '-type': 1,
  '-o': 3,
  '-s': 3,
  '-t': 3,
};

export function* referencesOfMtl(bytes: Uint8Array): Generator<Reference> {
  for (const [, rest = ''] of decodeAny(bytes).matchAll(/^\s*(?:map_\w+|bump|disp|decal|refl|norm)\s+(.+)$/gim)) {
    let words = rest.trim().split(/\s+/);
    for (let option = words[0] ?? ''; option in mtlOptions; option = words[0] ?? '') {
      const most = mtlOptions[option.toLowerCase()] ?? 0;
      let taken = 1;
      while (taken <= most && ((taken === 1 && most === 1) || /^-?[\d.]+$/.test(words[taken] ?? ''))) taken++;
      words = words.slice(taken);
    }
    yield { target: words.join(' '), kind: 'texture' };
  }
}
