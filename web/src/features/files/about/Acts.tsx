'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import { DayDialog } from '../../calendar/DayDialog.tsx';
import { saySize } from '../../words.ts';
import { BranchOffDialog } from '../BranchOffDialog.tsx';
import { BringForwardDialog } from '../BringForwardDialog.tsx';
import { CheckInDialog } from '../CheckInDialog.tsx';
import { CompareWithDialog } from '../CompareWithDialog.tsx';
import { EraseDialog } from '../EraseDialog.tsx';
import { SetAsideDialog } from '../SetAsideDialog.tsx';
import { TitleDialog } from '../TitleDialog.tsx';
import { useFileActs, useGoOn } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';
import { api } from '../../../contract/operations/index.ts';
import { linkTo } from '../../../contract/operation.ts';

/** What can be done with the version. */
export function Acts(): React.ReactNode {
  const { file, b, newest, move, beside } = useShown();
  const { mayCheckIn, mayBringForward, mayErase, open } = useFileActs();
  const goOn = useGoOn();
  const older = b.id !== newest.id;
  const before = beside(b.id, -1);
  return (
    <div className="ov-acts">
      {mayCheckIn && (
        <Button onClick={() => open(<CheckInDialog />)} variant={older ? 'outline-secondary' : 'primary'}>
          Check in a new version
        </Button>
      )}
      {older && mayBringForward && (
        <Button onClick={() => open(<BringForwardDialog />)}>Bring v{b.number} forward</Button>
      )}
      {older && mayCheckIn && (
        <Button variant="outline-secondary" onClick={() => void goOn(b)}>
          Check out and go on from v{b.number}
        </Button>
      )}
      {mayCheckIn && (
        <Button variant="outline-secondary" onClick={() => open(<BranchOffDialog />)} title="Key b">
          Branch off from v{b.number} …
        </Button>
      )}
      {b.starting && older && mayCheckIn && (
        <Button variant="outline-secondary" onClick={() => open(<SetAsideDialog />)}>
          Set v{newest.number} aside and start afresh …
        </Button>
      )}
      {mayCheckIn && (
        <Button variant="outline-secondary" onClick={() => open(<TitleDialog />)} title="Key k">
          {b.title ? 'Change the title …' : 'Give it a title, so that it is kept …'}
        </Button>
      )}
      {older && mayErase && (
        <Button variant="outline-secondary" onClick={() => open(<EraseDialog />)}>
          Erase back to v{b.number} …
        </Button>
      )}
      {before && (
        <Button variant="outline-secondary" onClick={() => move({ a: before.id })}>
          Compare with v{before.number}, the one before
        </Button>
      )}
      {older && (
        <Button variant="outline-secondary" onClick={() => move({ a: b.id, b: newest.id })}>
          Compare with v{newest.number}, the newest
        </Button>
      )}
      <Button variant="outline-secondary" onClick={() => open(<DayDialog />)} title="Key y">
        Find the day it was right …
      </Button>
      <Button variant="outline-secondary" onClick={() => open(<CompareWithDialog />)} title="Key o">
        Compare with another file …
      </Button>
      <Link
        className="btn btn-outline-secondary"
        href={`/projects/${file.projectId}/history?set=${b.set}#set-${b.set}`}
      >
        Set {b.set}: what came together
      </Link>
      <Link className="btn btn-outline-secondary" href={`/files/${file.id}/history`}>
        History of the file
      </Link>
      <a className="btn btn-outline-secondary" href={linkTo(api.versions.content, { versionId: b.id })} download>
        Download v{b.number}, {saySize(b.size)}
      </a>
    </div>
  );
}
