'use client';
/**
 * A project's files against a folder of the person's own computer, or against the practice folder inside the browser.
 */
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Person } from '../../contract/api.ts';
import type { DeskFile } from '../../contract/desk.ts';
import { Said } from '../frame/Said.tsx';
import { useLive } from '../live/useLive.ts';
import { ConnectFolder } from './ConnectFolder.tsx';
import { DeskTable } from './DeskTable.tsx';
import { useConnected, type Told } from './useConnected.ts';
import { saves } from './save-queue.ts';
import { useDesk, type DeskHere } from './useDesk.ts';
import { isChanged, isOlder, useDeskActs } from './useDeskActs.tsx';
import { useFolderWatch } from './useFolderWatch.ts';
import { Progress } from '../frame/Progress.tsx';

interface Props {
  readonly project: { readonly id: string; readonly name: string };
  readonly initial: readonly DeskFile[];
  readonly me: Pick<Person, 'id' | 'name'>;
  readonly mayCheckIn: boolean;
}

export function DeskFolderPage({ project, initial, me, mayCheckIn }: Props): React.ReactNode {
  const connected = useConnected(project.id);
  const { where, folder, said, busy } = connected;
  const desk = useDesk(project.id, where, folder, initial);
  const acts = useDeskActs(project.id, connected, desk);
  const [isWatching, setIsWatching] = useState(false);
  const watching = useFolderWatch(folder, desk, isWatching);
  // What an earlier visit could not send.
  useEffect(() => void saves.run(), []);
  useLive({ project: project.id }, (event) => {
    if (event?.kind !== 'present') void desk.refresh();
  });
  const { rows = [], progress } = desk;
  const older = rows.filter(isOlder);
  const changed = rows.filter((row) => isChanged(row) || row.status === 'not in Ovrel');
  const practice = where === 'practice';
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>Desk of {project.name}</h1>
        {folder && (
          <Button variant="outline-secondary" disabled={busy} onClick={() => void desk.look()}>
            Look again
          </Button>
        )}
        {older.length > 0 && (
          <Button variant="outline-secondary" disabled={busy} onClick={() => acts.getNewest(older)}>
            Get {older.length === 1 ? 'the one that is' : `the ${older.length} that are`} newer
          </Button>
        )}
        {mayCheckIn && changed.length > 0 && (
          <Button disabled={busy || progress !== undefined} onClick={() => acts.checkIn(changed)}>
            Check in what changed
          </Button>
        )}
      </div>
      {said && <Outcome said={said} />}
      {desk.problem && <Said problem>{desk.problem}</Said>}
      {practice && folder && (
        <div className="ov-older" role="note">
          <strong>Practice folder.</strong> It lies inside this browser and stands in for a folder of your computer; the
          practice editor stands in for your programs. What you check in from here is real.
        </div>
      )}
      {folder && mayCheckIn && (
        <div className="ov-desk-watch">
          <Form.Switch
            id="desk-watch"
            label="Save to Ovrel as programs save here"
            checked={isWatching}
            onChange={(e) => setIsWatching(e.target.checked)}
          />
          <span className="ov-quiet" role="status">
            {watching}
          </span>
        </div>
      )}
      {!folder && <ConnectFolder connected={connected} />}
      {progress && <Looking progress={progress} onCancel={desk.cancel} />}
      {desk.unread.length > 0 && <Unread paths={desk.unread} onAgain={() => void desk.look()} />}
      {folder && desk.rows && <DeskTable {...{ rows, acts, busy, practice, mayCheckIn }} me={me.id} />}
      {acts.dialog}
    </main>
  );
}

function Outcome({ said: { problem, text, again } }: { readonly said: Told }): React.ReactNode {
  return (
    <Said problem={problem}>
      {text}{' '}
      {again && (
        <Button size="sm" variant="outline-secondary" onClick={again}>
          Try again
        </Button>
      )}
    </Said>
  );
}

interface LookingProps {
  readonly progress: NonNullable<DeskHere['progress']>;
  readonly onCancel: () => void;
}

function Looking({ progress: { done, total, path }, onCancel }: LookingProps): React.ReactNode {
  return (
    <div className="mb-3" role="status">
      <Progress share={total ? done / total : 0} name="Looked at" />
      <p className="mb-0 mt-1">
        {total
          ? `Looking at ${done.toLocaleString('en')} of ${total.toLocaleString('en')} files ${path}`
          : 'Finding the files …'}{' '}
        <Button variant="link" className="p-0 align-baseline" onClick={onCancel}>
          Cancel
        </Button>
      </p>
    </div>
  );
}

/** Names of files that are said at most. */
const NAMED = 5;

function Unread({ paths, onAgain }: { readonly paths: readonly string[]; onAgain: () => void }): React.ReactNode {
  return (
    <Said problem>
      Not readable just now, perhaps open in another program: {paths.slice(0, NAMED).join(', ')}
      {paths.length > NAMED ? ` and ${paths.length - NAMED} more` : ''}.{' '}
      <Button size="sm" variant="outline-secondary" onClick={onAgain}>
        Try again
      </Button>
    </Said>
  );
}
