'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import { api } from '../../../contract/operations/index.ts';
import type { Answer } from '../../../contract/operation.ts';
import { useAnswer } from '../../api/useAnswer.ts';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';
import { useProposing } from '../useProposing.ts';

type Relative = Answer<typeof api.lines.lineage>['made'][number];

/** What the file was made from, and what was made from it. */
export function Lineage(): React.ReactNode {
  const { file } = useShown();
  const { data } = useAnswer(api.lines.lineage, { fileId: file.id }, { revalidateOnFocus: false });
  if (!data || (!data.from && data.made.length === 0)) return null;
  return (
    <>
      <h2>Where it comes from, and what came of it</h2>
      <ul className="ov-lineage">
        {data.from && <One isSource of={data.from} />}
        {data.made.map((made) => (
          <One key={made.fileId} of={made} />
        ))}
      </ul>
    </>
  );
}

function One({ of, isSource = false }: { readonly of: Relative; readonly isSource?: boolean }): React.ReactNode {
  const { move } = useShown();
  const { mayCheckIn } = useFileActs();
  const { propose, busy } = useProposing();
  return (
    <li>
      {isSource ? 'from' : `v${of.number} went on as`}{' '}
      <Link href={isSource ? `/files/${of.fileId}?v=${of.versionId}` : `/files/${of.fileId}`}>
        {of.file}
        {isSource ? ` v${of.number}` : ''}
      </Link>
      <div className="d-flex gap-2">
        <Button variant="link" className="p-0" onClick={() => move({ other: of.newestId })}>
          Compare
        </Button>
        {mayCheckIn && (
          <Button
            variant="link"
            className="p-0"
            disabled={busy}
            onClick={() => propose({ kind: 'join', from: of.newestId })}
          >
            Join into this file
          </Button>
        )}
      </div>
    </li>
  );
}
