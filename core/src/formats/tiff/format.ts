import type { Format } from '../../model/format.ts';
import { pictureFormat } from '../shared/picture-format.ts';
import { tiff } from './card.ts';
import { tiffRaster } from './raster.ts';

export const format: Format = { ...pictureFormat(tiff), raster: tiffRaster };
