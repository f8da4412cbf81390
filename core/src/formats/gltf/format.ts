import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { gltf } from './card.ts';
import { readGltf } from './read.ts';
import { referencesOfGltf } from './references.ts';

export const format: Format = { card: gltf, read: { solid: readGltf, text: readLines }, references: referencesOfGltf };
