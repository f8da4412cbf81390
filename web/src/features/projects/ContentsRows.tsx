'use client';
/** Rows of the table of folders and files. */
import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Contents } from '../../contract/api.ts';
import { Moment } from '../frame/Ago.tsx';
import { saySize } from '../words.ts';
import type { Movable } from './MoveDialog.tsx';
import { Thumb } from './Thumb.tsx';

interface RowProps {
  readonly chosen: boolean;
  readonly mayOrganise: boolean;
  readonly onToggle: (item: Movable) => void;
  readonly onRename: () => void;
  readonly onMove: (item: Movable) => void;
}

function Choose({
  item,
  chosen,
  onToggle,
}: {
  item: Movable;
  chosen: boolean;
  onToggle: (item: Movable) => void;
}): React.ReactNode {
  return (
    <td>
      <Form.Check checked={chosen} onChange={() => onToggle(item)} aria-label={`Choose ${item.name}`} />
    </td>
  );
}

function Acts({
  item,
  onRename,
  onMove,
}: {
  item: Movable;
  onRename: () => void;
  onMove: (item: Movable) => void;
}): React.ReactNode {
  return (
    <>
      <Button variant="link" onClick={onRename} aria-label={`Rename ${item.name}`}>
        Rename
      </Button>
      <Button variant="link" onClick={() => onMove(item)} aria-label={`Move ${item.name}`}>
        Move
      </Button>
    </>
  );
}

export function FolderRow({
  folder,
  chosen,
  mayOrganise,
  onToggle,
  onRename,
  onMove,
}: RowProps & { folder: Contents['folders'][number] }): React.ReactNode {
  const item: Movable = { kind: 'folder', id: folder.id, name: folder.name };
  return (
    <tr className={chosen ? 'is-chosen' : undefined}>
      {mayOrganise && <Choose item={item} chosen={chosen} onToggle={onToggle} />}
      <td className="is-thumb">
        <span className="ov-thumb" style={{ background: 'none', border: 0 }}>
          <i className="bi bi-folder" aria-hidden="true" style={{ fontSize: 20, color: 'var(--ov-quiet)' }} />
        </span>
      </td>
      <td>
        <Link href={`/projects/${folder.projectId}?folder=${folder.id}`}>{folder.name}</Link>
      </td>
      <td colSpan={2} className="ov-quiet">
        {folder.files} {folder.files === 1 ? 'file' : 'files'}
      </td>
      <td className="is-wide" colSpan={5} />
      <td className="is-acts">{mayOrganise && <Acts item={item} onRename={onRename} onMove={onMove} />}</td>
    </tr>
  );
}

export function FileRow({
  file,
  chosen,
  mayOrganise,
  onToggle,
  onRename,
  onMove,
  onDelete,
}: RowProps & { file: Contents['files'][number]; onDelete: () => void }): React.ReactNode {
  const { newest } = file;
  const item: Movable = { kind: 'file', id: file.id, name: file.name };
  return (
    <tr className={chosen ? 'is-chosen' : undefined}>
      {mayOrganise && <Choose item={item} chosen={chosen} onToggle={onToggle} />}
      <td className="is-thumb">
        <Link href={`/files/${file.id}`} tabIndex={-1} aria-hidden="true">
          <Thumb versionId={newest.id} format={newest.format} />
        </Link>
      </td>
      <td>
        <Link href={`/files/${file.id}`}>{file.name}</Link>
      </td>
      <td className="ov-mono">v{newest.number}</td>
      <td>{newest.by.name}</td>
      <td>
        {file.holder ? (
          <>
            <i className="bi bi-lock" aria-hidden="true" /> {file.holder}
          </>
        ) : (
          <span className="ov-quiet">nobody</span>
        )}
      </td>
      <td className="is-wide text-nowrap">
        <Moment at={newest.at} />
      </td>
      <td className="is-wide is-note ov-cut" title={newest.note}>
        {newest.note}
      </td>
      <td className="is-wide is-note ov-cut" title={newest.summary ?? undefined}>
        {newest.summary ?? <span className="ov-quiet">{newest.number === 1 ? 'first version' : '…'}</span>}
      </td>
      <td className="is-wide ov-mono text-nowrap">{saySize(newest.size)}</td>
      <td className="is-acts">
        {mayOrganise && (
          <>
            <Acts item={item} onRename={onRename} onMove={onMove} />
            <Button variant="link" onClick={onDelete} aria-label={`Delete ${file.name}`}>
              Delete
            </Button>
          </>
        )}
      </td>
    </tr>
  );
}
