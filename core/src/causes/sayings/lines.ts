/** What causes of texts say. */
import { plural } from '../../text/plural.ts';

export const lineSayings = {
  'lines-came': ({ lines, verb }: { lines: number; verb: 'added' | 'removed' }) => `${plural(lines, 'line')} ${verb}`,
  'lines-changed': ({ lines }: { lines: number }) => `${plural(lines, 'line')} changed`,
};
