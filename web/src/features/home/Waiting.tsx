'use client';
/** What waits for one: who asks for what one holds, and what one holds. */
import Link from 'next/link';
import type { Home } from '../../contract/home.ts';
import { Ago } from '../frame/Ago.tsx';
import { sayMoment } from '../words.ts';

type Props = Pick<Home, 'asks' | 'held'>;

export function Waiting({ asks, held }: Props): React.ReactNode {
  return (
    <>
      {asks.length > 0 && (
        <section aria-label="Asked of you" className="ov-mentions">
          <h2>You are asked for</h2>
          <ul>
            {asks.map(({ file, by, reason, at }) => (
              <li key={`${file.id} ${by.id}`}>
                <Link href={`/files/${file.id}`}>{file.name}</Link>{' '}
                <span className="ov-quiet">
                  {by.name}, {sayMoment(at)}
                </span>
                <br />
                {reason}
              </li>
            ))}
          </ul>
        </section>
      )}
      {held.length > 0 && (
        <section aria-label="Checked out by you">
          <h2>You hold</h2>
          <ul className="ov-held">
            {held.map(({ file, line, at }) => (
              <li key={`${file.id} ${line ?? ''}`}>
                <Link href={`/files/${file.id}`}>{file.name}</Link>
                {line !== null && ` on “${line}”`}{' '}
                <span className="ov-quiet">
                  {file.project}, <Ago at={at} before="since" />
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
