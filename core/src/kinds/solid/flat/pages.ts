import type { Pictures } from '../../../model/format.ts';
import type { Solid } from '../../../model/solid.ts';
import { ReadError } from '../../../model/problem.ts';
import type { Content } from '../../content.ts';
import { drawnPages } from '../../picture/drawn/pages.ts';
import { flatDesign } from './draw.ts';
import { flatViewsOf } from './views.ts';

/** A model as a drawing of it would show it: a page for each plan and each side. */
export function flatPages(content: Content): Pictures {
  if (!content.design) throw new ReadError('The model cannot be drawn flat.', undefined, 'unsupported');
  const solid = content.design as Solid;
  return drawnPages({ ...content, format: undefined, design: flatDesign(solid, flatViewsOf(solid)) });
}
