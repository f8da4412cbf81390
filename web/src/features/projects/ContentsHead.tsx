'use client';
/** The name of a project or folder, and what can be done there as a whole. */
import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import type { Right } from '../../contract/access.ts';
import type { ContentsHere } from './useContents.tsx';

interface Props {
  readonly contents: ContentsHere;
  readonly may: (right: Right) => boolean;
  readonly onChooseFiles: () => void;
}

export function ContentsHead({ contents, may, onChooseFiles }: Props): React.ReactNode {
  const { data, chosen } = contents;
  const items = [...chosen.values()];
  const files = items.filter((item) => item.kind === 'file').length;
  const mayCheckIn = may('check out');
  const pages = `/projects/${data.project.id}`;
  const folder = data.folder ? `?folder=${data.folder.id}` : '';
  return (
    <div className="ov-head">
      <h1>{data.folder?.name ?? data.project.name}</h1>
      {files > 0 && mayCheckIn && <Button onClick={() => void contents.checkOut()}>Check out {files} chosen</Button>}
      {items.length > 0 && (
        <Button variant="outline-secondary" onClick={() => contents.move(items)}>
          Move {items.length} chosen
        </Button>
      )}
      {may('manage') && !data.folder && (
        <Button variant="outline-secondary" onClick={contents.renameProject}>
          Rename project
        </Button>
      )}
      <Link className="btn btn-outline-secondary" href={`${pages}/desk`}>
        Desk folder
      </Link>
      {may('see old versions') && (
        <Link className="btn btn-outline-secondary" href={`${pages}/history`}>
          History
        </Link>
      )}
      {may('see old versions') && (
        <Link className="btn btn-outline-secondary" href={`${pages}/as-of${folder}`}>
          As it was
        </Link>
      )}
      {may('see old versions') && (
        <Link className="btn btn-outline-secondary" href={`${pages}/keeping${folder}`}>
          Keeping rules
        </Link>
      )}
      <Link className="btn btn-outline-secondary" href={`${pages}/access${folder}`}>
        Access
      </Link>
      {isFilled(data) && (
        <Button variant="outline-secondary" onClick={contents.archive}>
          Download all
        </Button>
      )}
      {mayCheckIn && !data.folder && (
        <Link className="btn btn-outline-secondary" href={`${pages}/intake`}>
          Old copies
        </Link>
      )}
      {mayCheckIn && (
        <Button variant="outline-secondary" onClick={contents.makeFolder}>
          New folder
        </Button>
      )}
      {mayCheckIn && (
        <Button variant={files > 0 ? 'outline-secondary' : 'primary'} onClick={onChooseFiles}>
          Add files
        </Button>
      )}
    </div>
  );
}

export const isFilled = ({ folders, files }: ContentsHere['data']): boolean => folders.length + files.length > 0;
