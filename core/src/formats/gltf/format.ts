import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { sourceOfText } from '../text/source.ts';
import { gltf } from './card.ts';
import { readGltf } from './read.ts';
import { referencesOfGltf } from './references.ts';
import { sourceOfGltf } from './source.ts';

export const format: Format = {
  card: gltf,
  read: { solid: readGltf, text: readLines },
  source: { solid: sourceOfGltf, text: sourceOfText },
  references: referencesOfGltf,
};
