'use client';

import { levelCards, type Comparison } from '@ovrel/core/contract';
import { saySize } from '../../words.ts';
import { useCompared } from '../state/compared.tsx';
import { useShown } from '../state/shown.tsx';
import { hasLayers } from './has-layers.ts';

function sayCounts(comparison: Comparison, listed: number): string {
  const { level, counts } = comparison;
  const count = listed.toLocaleString('en');
  if (level === 'bytes') return '';
  if (hasLayers(comparison)) return `: ${count} ${listed === 1 ? 'change' : 'changes'}`;
  if (level === 'pixels') return `: ${count} ${listed === 1 ? 'place' : 'places'} changed`;
  return `: ${count} changed, ${counts.unchanged.toLocaleString('en')} unchanged`;
}

/** In a few words: what changed, how it was compared, and what is to be minded. */
export function Found(): React.ReactNode {
  const { a, b } = useShown();
  const { result, causes, changes, ignored } = useCompared();
  if (!result) return null;
  const { comparison } = result;
  const onlyIgnored = ignored > 0 && changes.length === 0;
  return (
    <>
      {causes.length === 0 && (
        <p className="ov-note" data-testid="summary">
          {onlyIgnored ? 'Nothing but what you ignore' : comparison.summary}
        </p>
      )}
      <p className="ov-quiet">
        Compared {levelCards[comparison.level].how}
        {sayCounts(comparison, changes.length)}.{' '}
        {a.size === b.size ? `Both ${saySize(a.size)}.` : `${saySize(a.size)}, then ${saySize(b.size)}.`}
      </p>
      {comparison.notes.map((note) => (
        <div className="ov-older" key={note}>
          {note}
        </div>
      ))}
    </>
  );
}
