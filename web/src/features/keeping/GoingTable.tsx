'use client';
/** Versions that go, soonest first, each with the way to keep it. */
import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import type { Going } from '../../contract/keeping.ts';
import { told, useAttempt } from '../frame/useAttempt.tsx';
import { Thumb } from '../projects/Thumb.tsx';
import { sayMoment } from '../words.ts';
import { keep, sayGoing } from './keep.ts';

interface Props {
  readonly name: string;
  readonly versions: readonly Going[];
  readonly mayKeep: boolean;
  readonly onKept: () => void;
}

export function GoingTable({ name, versions, mayKeep, onKept }: Props): React.ReactNode {
  const { said, attempt } = useAttempt(async () => onKept());
  const keepIt = ({ versionId, file, number }: Going): Promise<boolean> =>
    told(attempt(`${file} v${number} has a title now, and stays.`, () => keep(versionId)));
  return (
    <>
      {said}
      <table className="ov-table mb-3" aria-label={name}>
        <thead>
          <tr>
            <th aria-label="Picture" />
            <th>Version</th>
            <th className="is-wide">Made</th>
            <th>Goes</th>
            <th aria-label="Acts" />
          </tr>
        </thead>
        <tbody>
          {versions.map((version) => (
            <tr key={version.versionId}>
              <td className="is-thumb">
                <Thumb versionId={version.versionId} format={version.format} />
              </td>
              <td>
                <Link href={`/files/${version.fileId}?v=${version.versionId}`}>
                  {version.file} v{version.number}
                </Link>
                <div className="ov-quiet">
                  {version.kind} by {version.by.name}
                </div>
              </td>
              <td className="is-wide text-nowrap">{sayMoment(version.at)}</td>
              <td>{sayGoing(version.goes)}</td>
              <td className="is-acts">
                {mayKeep && (
                  <Button
                    variant="link"
                    aria-label={`Keep ${version.file} v${version.number}`}
                    onClick={() => void keepIt(version)}
                  >
                    Keep it
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
