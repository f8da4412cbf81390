/** The kinds of content. */
import type { KindId } from '../model/card.ts';
import type { Models } from '../model/format.ts';
import { bytes } from './bytes/kind.ts';
import { drawing } from './drawing/kind.ts';
import type { Kind, Kinds } from './kind.ts';
import { picture } from './picture/kind.ts';
import { solid } from './solid/kind.ts';
import { table } from './table/kind.ts';
import { text } from './text/kind.ts';

export const kinds: Kinds = { solid, drawing, picture, table, text, bytes };

export const kindOf = <Id extends KindId>(id: Id): Kind<Models[Id]> => kinds[id];
