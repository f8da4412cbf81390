import type { Format } from '../../model/format.ts';
import { readLines } from '../text/read.ts';
import { gltf } from './card.ts';
import { referencesOfGltf } from './references.ts';

export const format: Format = { card: gltf, read: { text: readLines }, references: referencesOfGltf };
