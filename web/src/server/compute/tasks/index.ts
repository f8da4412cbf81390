/** Every task by its name. A new task is one file and one line. */
import { attribute } from './attribute.ts';
import { changes } from './changes.ts';
import { cells } from './cells.ts';
import { compare } from './compare.ts';
import { crops } from './crops.ts';
import { cut } from './cut.ts';
import { deflate } from './deflate.ts';
import { difference } from './difference.ts';
import { drawing } from './drawing.ts';
import { film } from './film.ts';
import { flat, flatViews } from './flat.ts';
import { follow } from './follow.ts';
import { layer } from './layer.ts';
import { locate } from './locate.ts';
import { look } from './look.ts';
import { openRaster } from './open-raster.ts';
import { outline } from './outline.ts';
import { page } from './page.ts';
import { pages } from './pages.ts';
import { propose } from './propose.ts';
import { references } from './references.ts';
import { scene } from './scene.ts';
import { seen } from './seen.ts';
import { signature } from './signature.ts';
import { sketch } from './sketch.ts';
import { space } from './space.ts';
import { steps } from './steps.ts';
import { thumbnail } from './thumbnail.ts';
import { unlock } from './unlock.ts';
import { unpack } from './unpack.ts';
import type { WithMemory } from '../task.ts';

export const tasks = {
  attribute,
  changes,
  compare,
  crops,
  cut,
  deflate,
  difference,
  drawing,
  film,
  flat,
  flatViews,
  follow,
  layer,
  locate,
  look,
  openRaster,
  outline,
  page,
  pages,
  propose,
  references,
  scene,
  seen,
  signature,
  sketch,
  space,
  cells,
  steps,
  thumbnail,
  unlock,
  unpack,
};

export type Tasks = typeof tasks;
export type TaskName = keyof Tasks;
export type InputOf<Name extends TaskName> = Parameters<Tasks[Name]>[0];
export type ResultOf<Name extends TaskName> = Exclude<Awaited<ReturnType<Tasks[Name]>>, WithMemory<unknown>>;
