'use client';
/** The files of a desk, each with where it stands and what can be done with it. */
import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { DeskStatus } from '@ovrel/core/desk';
import { tricksFor } from './practice.ts';
import { isChanged, isOlder, type DeskActs } from './useDeskActs.tsx';
import type { Row } from './useDesk.ts';
import { VersionMenu } from './VersionMenu.tsx';

/** What is the same for all rows. */
interface Shared {
  readonly acts: DeskActs;
  readonly busy: boolean;
  /** The practice editor can change what lies here. */
  readonly practice: boolean;
  readonly me: string;
  readonly mayCheckIn: boolean;
}

/** Rows that are shown at first, and each time that more are asked for. */
const PAGE = 200;

/** Each status with a sign of its own, so that it is not told by colour alone. */
const signs: Readonly<Record<DeskStatus, string>> = {
  'same as newest': '=',
  'changed here': '~',
  'newer on the server': '↓',
  'changed on both': '≠',
  'not on this desk': '○',
  'not in Ovrel': '+',
};

export function DeskTable({ rows, ...shared }: Shared & { readonly rows: readonly Row[] }): React.ReactNode {
  const [show, setShow] = useState<'all' | 'differs'>('all');
  const [words, setWords] = useState('');
  const [most, setMost] = useState(PAGE);
  const wanted = words.trim().toLowerCase();
  const matching = rows.filter(
    (r) => (show === 'all' || r.status !== 'same as newest') && (!wanted || r.path.toLowerCase().includes(wanted)),
  );
  const hidden = matching.length - most;
  return (
    <>
      <div className="ov-filters">
        <Form.Select size="sm" aria-label="Show" value={show} onChange={(e) => setShow(e.target.value as typeof show)}>
          <option value="all">All {rows.length} files</option>
          <option value="differs">Only those that differ</option>
        </Form.Select>
        <Form.Control
          size="sm"
          type="search"
          aria-label="Only paths with"
          placeholder="Only paths with …"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
      </div>
      <table className="ov-table" aria-label="Files of the desk">
        <thead>
          <tr>
            <th>File</th>
            <th>Where it stands</th>
            <th>Here</th>
            <th>Newest</th>
            <th>Held by</th>
            <th aria-label="Acts" />
          </tr>
        </thead>
        <tbody>
          {matching.slice(0, most).map((row) => (
            <DeskRow key={row.path} {...shared} row={row} />
          ))}
        </tbody>
      </table>
      {hidden > 0 && (
        <p>
          <Button variant="outline-secondary" onClick={() => setMost((n) => n + PAGE)}>
            Show {Math.min(PAGE, hidden)} more
          </Button>{' '}
          <span className="ov-quiet">
            of {hidden.toLocaleString('en')} that are not shown. What is got or checked in does not depend on what is
            shown.
          </span>
        </p>
      )}
    </>
  );
}

/** The version that lies here, as far as that is known. */
function sayHere({ here, base, status, file }: Row): string {
  if (!here) return '';
  if (base) return `v${base.number}${base.sha256 === here.sha256 ? '' : ' changed'}`;
  return status === 'same as newest' ? `v${file?.newest.number ?? ''}` : '?';
}

const sayLikely = ({ path }: { readonly path: string }, likeness: number | undefined): string =>
  likeness === undefined ? `perhaps ${path}, moved or renamed` : `${Math.round(likeness * 100)} % like ${path}`;

const sayHolder = ({ id, name }: { readonly id: string; readonly name: string }, me: string): string =>
  id === me ? 'you' : name;

function DeskRow({ row, ...shared }: Shared & { readonly row: Row }): React.ReactNode {
  const { file, perhaps, path, status } = row;
  const holder = file?.holder;
  return (
    <tr>
      <td>
        {file ? <Link href={`/files/${file.fileId}`}>{path}</Link> : path}
        {perhaps && <div className="ov-warn">{sayLikely(perhaps, row.likeness)}</div>}
      </td>
      <td className="text-nowrap">
        <span className={`ov-stand is-${status.replaceAll(' ', '-')}`} aria-hidden="true">
          {signs[status]}
        </span>{' '}
        {status}
      </td>
      <td className="ov-mono">{sayHere(row)}</td>
      <td className="ov-mono">{file ? `v${file.newest.number}` : ''}</td>
      <td>{holder ? sayHolder(holder, shared.me) : <span className="ov-quiet">nobody</span>}</td>
      <td className="is-acts">
        <RowActs {...shared} row={row} />
      </td>
    </tr>
  );
}

interface Act {
  readonly says: string;
  /** What it is called for who cannot see in which row it stands. */
  readonly label: string;
  readonly run: () => void;
}

/** What can be done with a file as it stands. */
function actsOn(row: Row, { acts, practice, me, mayCheckIn }: Shared): Act[] {
  const { path, file } = row;
  const free = mayCheckIn && file && !file.holder;
  const list: (Act | false | undefined)[] = [
    practice &&
      row.here !== undefined &&
      tricksFor(path) !== undefined && { says: 'Edit', label: `Edit ${path}`, run: () => acts.edit(row) },
    isOlder(row) && { says: 'Get', label: `Get ${path}`, run: () => acts.getNewest([row]) },
    isChanged(row) &&
      file && {
        says: 'What changed',
        label: `What changed in ${path}`,
        run: () => acts.showChanged(row, file.newest),
      },
    free && { says: 'Check out', label: `Check out ${path}`, run: () => acts.hold(row, true) },
    free && isOlder(row) && { says: 'and get', label: `Check out and get ${path}`, run: () => acts.holdAndGet(row) },
    file?.holder?.id === me && { says: 'Give up', label: `Give up ${path}`, run: () => acts.hold(row, false) },
  ];
  return list.filter((act) => act !== false && act !== undefined);
}

function RowActs({ row, ...shared }: Shared & { readonly row: Row }): React.ReactNode {
  const { acts, busy, me, mayCheckIn } = shared;
  const { file } = row;
  return (
    <>
      {actsOn(row, shared).map(({ says, label, run }) => (
        <Button key={label} variant="link" disabled={busy} aria-label={label} onClick={run}>
          {says}
        </Button>
      ))}
      {file && file.newest.number > 1 && (
        <VersionMenu
          row={row}
          disabled={busy}
          mayGoOn={mayCheckIn && (!file.holder || file.holder.id === me)}
          onGet={(number) => acts.getVersion(row, number)}
          onGoOn={(number) => acts.goOn(row, number)}
        />
      )}
    </>
  );
}
