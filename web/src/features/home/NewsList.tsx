'use client';
/** What others did, the newest first, each with a picture of what came of it. */
import Link from 'next/link';
import type { News } from '../../contract/home.ts';
import { Ago } from '../frame/Ago.tsx';
import { Thumb } from '../projects/Thumb.tsx';

export function NewsList({ news }: { readonly news: readonly News[] }): React.ReactNode {
  if (news.length === 0)
    return (
      <p className="ov-quiet">
        Nothing new on files that you follow. You follow those that you work on or comment, and others that you choose
        on their page.
      </p>
    );
  return (
    <ol className="ov-news">
      {news.map((one) => (
        <li key={one.entry}>
          <Thumb versionId={one.picture?.versionId ?? ''} format={one.picture?.format ?? null} />
          <div>
            <strong>{one.by?.name ?? 'A keeping rule'}</strong> {sayDone(one)}{' '}
            <Link href={addressOf(one)}>{one.subject}</Link>
            {one.reason && <p className="ov-note">{one.reason}</p>}
            <p className="ov-quiet">
              {one.file.project}, <Ago at={one.at} />
            </p>
          </div>
        </li>
      ))}
    </ol>
  );
}

const sayDone = ({ act, times }: News): string => (times === 1 ? act : `${act} ${times} times, the last time`);

const addressOf = ({ file, picture }: News): string =>
  picture ? `/files/${file.id}?v=${picture.versionId}` : `/files/${file.id}`;
