'use client';

import { useState } from 'react';
import { hasThumbnail, iconOf } from '../cards.ts';

/** A small picture of a version, or a sign for its kind. */
export function Thumb({ versionId, format }: { versionId: string; format: string | null }): React.ReactNode {
  const [broken, setBroken] = useState(false);
  return (
    <span className="ov-thumb">
      {hasThumbnail(format) && !broken ? (
        <img src={`/api/v1/versions/${versionId}/thumbnail`} alt="" loading="lazy" onError={() => setBroken(true)} />
      ) : (
        <i className={`bi bi-${iconOf(format)}`} aria-hidden="true" />
      )}
    </span>
  );
}
