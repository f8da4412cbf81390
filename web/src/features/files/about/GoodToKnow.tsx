'use client';

import { useCompared } from '../state/compared.tsx';
import { TitleBlocks } from '../TitleBlocks.tsx';

/** Title blocks, and what the reader has to say. */
export function GoodToKnow(): React.ReactNode {
  const look = useCompared().detail?.look;
  if (!look) return null;
  return (
    <>
      <TitleBlocks blocks={look.titleBlocks} />
      {look.notes.length > 0 && (
        <>
          <h2>Good to know</h2>
          <ul>
            {look.notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
