'use client';

import Link from 'next/link';
import type { SourceRole } from '../../../contract/api.ts';
import { Moment } from '../../frame/Ago.tsx';
import { useShown } from '../state/shown.tsx';

const noNote = {
  'check-in': 'No note was written.',
  autosave: 'Saved as one went, without a note.',
  backup: 'A backup, without a note.',
} as const;

/** Why, by whom and when a version was made, and what changed with it. */
export function Story(): React.ReactNode {
  const { b } = useShown();
  const first = b.parentId === null;
  const summary = b.summary ?? 'Being compared with the version before …';
  return (
    <>
      <h2>Why</h2>
      <p className="ov-note">{b.note || <span className="ov-quiet">{noNote[b.kind]}</span>}</p>
      <h2>Who and when</h2>
      <p>{b.by.name}</p>
      <p title="Coordinated Universal Time">
        <Moment at={b.at} />
      </p>
      <Source />
      <h2>What changed</h2>
      <p>{first ? 'The first version: nothing to compare with.' : summary}</p>
    </>
  );
}

const roleWords: Readonly<Record<SourceRole, string>> = {
  'branched off from': 'Branched off from',
  'brought forward from': 'Brought forward from',
  'carried over from': 'Carried over from',
  'joined from': 'Joined from',
  'taken back to': 'Changes taken back to how they were in',
};

/** The version that more of it comes from than from the one before. */
function Source(): React.ReactNode {
  const { b } = useShown();
  if (b.sourceId === null || b.sourceRole === null) return null;
  const file = b.sourceFile;
  return (
    <p>
      {roleWords[b.sourceRole]}{' '}
      <Link href={`/files/${file?.id ?? b.fileId}?v=${b.sourceId}`}>
        v{b.source}
        {file ? ` of ${file.name}` : ''}
      </Link>
    </p>
  );
}
