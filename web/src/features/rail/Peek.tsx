'use client';

import { useState } from 'react';
import { hasThumbnail } from '../cards.ts';
import { useVersion } from '../files/versions.ts';
import { sayAgo, sayMoment } from '../words.ts';
import type { Stop } from './layout.ts';
import { api } from '../../contract/operations/index.ts';
import { linkTo } from '../../contract/operation.ts';

/** What is said of a version under the pointer. */
export function Peek({
  fileId,
  line,
  stop: { version: v, sitting },
  goes,
  left,
}: {
  fileId: string;
  line: string;
  stop: Stop;
  goes: string | undefined;
  left: number;
}): React.ReactNode {
  const [broken, setBroken] = useState<string>();
  const full = useVersion(fileId, line, v);
  return (
    <div className="ov-peek" style={{ left }} role="tooltip">
      {full && broken !== full.id && hasThumbnail(full.format) && (
        <img
          src={linkTo(api.versions.thumbnail, { versionId: full.id, query: { side: '320' } })}
          alt=""
          onError={() => setBroken(full.id)}
        />
      )}
      <p>
        <span className="ov-mono">v{v.number}</span> {v.title ? <strong>{v.title}</strong> : null} {v.by}
      </p>
      <p className="ov-quiet">
        {sayMoment(v.at)}, {sayAgo(v.at)}
        {sitting.length > 1 ? `; ${sitting.length} autosaves` : ''}
      </p>
      {goes !== undefined && <p className="ov-bad">{goes}</p>}
      {full?.note && <p>{full.note}</p>}
      {full?.summary && <p className="ov-quiet">{full.summary}</p>}
    </div>
  );
}
