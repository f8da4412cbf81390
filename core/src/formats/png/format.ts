import type { Format } from '../../model/format.ts';
import { pictureFormat } from '../shared/picture-format.ts';
import { png } from './card.ts';
import { pngRaster } from './raster.ts';
import { writtenInPng } from './written.ts';

export const format: Format = { ...pictureFormat(png), raster: pngRaster, written: writtenInPng };
