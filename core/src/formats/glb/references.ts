import type { Reference } from '../../references/reference.ts';
import { referencesInGltf } from '../gltf/references.ts';

/** The JSON chunk stands first (glTF 2.0, 4.4). */
export function* referencesOfGlb(bytes: Uint8Array): Generator<Reference> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== 0x46546c67 || view.getUint32(16, true) !== 0x4e4f534a) return;
  yield* referencesInGltf(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true))));
}
