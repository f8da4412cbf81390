import type { Comparison } from '@ovrel/core/contract';

/** Whether changes are of layers of pictures, beside places. */
export const hasLayers = ({ changes }: Comparison): boolean =>
  changes.some((c) => c.part.kind === 'layer' || c.part.kind === 'group');
