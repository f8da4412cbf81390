import type { FlatFormat } from '../../../contract/flat.ts';
import type { Design } from '../../../model/design.ts';
import { svgOf } from '../../drawing/draw/svg.ts';
import { flatDxf } from './dxf.ts';

const writers: Readonly<Record<FlatFormat, (design: Design) => string>> = {
  svg: (design) => svgOf(design, 0),
  dxf: (design) => flatDxf(design, 0, design.pages[0]?.unitMillimetres),
};

/** The first page of a model drawn flat, in UTF-8. */
export const writtenFlat = (design: Design, format: FlatFormat): Uint8Array =>
  new TextEncoder().encode(writers[format](design));
