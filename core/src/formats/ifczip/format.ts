import type { Format } from '../../model/format.ts';
import { defaultLimits } from '../../model/limits.ts';
import { readIfc } from '../ifc/read.ts';
import { referencesOfIfc } from '../ifc/references.ts';
import { writtenInStep } from '../shared/step21/written.ts';
import { zipMember } from '../shared/zip-member.ts';
import { readLines } from '../text/read.ts';
import { ifczip } from './card.ts';

const model = (bytes: Uint8Array, most = defaultLimits.bytes): Uint8Array =>
  zipMember(bytes, (name) => /\.ifc$/i.test(name), most);

export const format: Format = {
  card: ifczip,
  read: {
    solid: (bytes, limits) => readIfc(model(bytes, limits.bytes), limits),
    text: (bytes, limits) => readLines(model(bytes, limits.bytes), limits),
  },
  written: (bytes) => writtenInStep(model(bytes)),
  references: (bytes) => referencesOfIfc(model(bytes)),
};
