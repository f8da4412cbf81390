/** What the interface asks of a version's format, through its card. */
import { cardOf, isDrawable } from '@ovrel/core/detect';
import type { Version } from '../contract/api.ts';

type Card = NonNullable<ReturnType<typeof cardOf>>;

export const cardOfVersion = (version: Pick<Version, 'format'> | undefined): Card | undefined =>
  cardOf(version?.format);

/** Whether versions of a format have small pictures. */
export const hasThumbnail = (format: string | null | undefined): boolean => isDrawable(cardOf(format));

/** Compared by pixels with its like. */
export const isPicture = (version: Pick<Version, 'format'> | undefined): boolean =>
  cardOfVersion(version)?.kinds[0] === 'picture';

export const iconOf = (format: string | null | undefined): string => cardOf(format)?.icon ?? 'file-earmark';
