import type { Reference } from '../../references/reference.ts';
import { scanStep } from '../shared/step21/scan.ts';

/** Classes with a location, which of their values it is, and what stands there (ISO 16739-1: IfcExternalReference). */
const located: readonly (readonly [type: string, value: number, kind: Reference['kind']])[] = [
  ['IFCDOCUMENTREFERENCE', 0, 'document'],
  ['IFCEXTERNALREFERENCE', 0, 'document'],
  ['IFCLIBRARYREFERENCE', 0, 'document'],
  ['IFCCLASSIFICATIONREFERENCE', 0, 'document'],
  ['IFCDOCUMENTINFORMATION', 4, 'document'],
];

export function* referencesOfIfc(bytes: Uint8Array): Generator<Reference> {
  const file = scanStep(bytes);
  for (const [type, value, kind] of located)
    for (const id of file.ofType(type)) {
      const target = file.values(id)[value];
      if (typeof target === 'string' && target !== '') yield { target, kind };
    }
  // Its place is the last value, whichever the release.
  for (const id of file.ofType('IFCIMAGETEXTURE')) {
    const target = file.values(id).at(-1);
    if (typeof target === 'string' && target !== '') yield { target, kind: 'texture' };
  }
}
