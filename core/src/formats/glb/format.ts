import type { Format } from '../../model/format.ts';
import { readGltf } from '../gltf/read.ts';
import { sourceOfGltf } from '../gltf/source.ts';
import { glb } from './card.ts';
import { referencesOfGlb } from './references.ts';

export const format: Format = {
  card: glb,
  read: { solid: readGltf },
  source: { solid: sourceOfGltf },
  references: referencesOfGlb,
};
