import type { Reference } from '../../references/reference.ts';
import { scanStep } from '../shared/step21/scan.ts';

/** Files that hold products of an assembly (ISO 10303-41: document_file). */
export function* referencesOfStep(bytes: Uint8Array): Generator<Reference> {
  const file = scanStep(bytes);
  for (const id of file.ofType('DOCUMENT_FILE')) {
    const [name] = file.values(id);
    if (typeof name === 'string' && /\.\w+$/.test(name)) yield { target: name, kind: 'data' };
  }
}
