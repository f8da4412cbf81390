'use client';

import { useState } from 'react';
import { hasThumbnail, iconOf } from '../cards.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

/** A small picture of a version, or a sign for its kind. */
export function Thumb({ versionId, format }: { versionId: string; format: string | null }): React.ReactNode {
  const [broken, setBroken] = useState(false);
  return (
    <span className="ov-thumb">
      {hasThumbnail(format) && !broken ? (
        <img
          src={linkTo(api.versions.thumbnail, { versionId })}
          alt=""
          loading="lazy"
          onError={() => setBroken(true)}
        />
      ) : (
        <i className={`bi bi-${iconOf(format)}`} aria-hidden="true" />
      )}
    </span>
  );
}
