'use client';

import Link from 'next/link';
import { sayMoment } from '../words.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';

/** Open comments that call the person who looks; nothing where there are none. */
export function Mentions(): React.ReactNode {
  const { data } = useAnswer(api.comments.mentions, {});
  if (!data?.length) return null;
  return (
    <section aria-label="You are mentioned" className="ov-mentions">
      <h2>You are mentioned</h2>
      <ul>
        {data.map((m) => (
          <li key={m.id}>
            <Link href={`/files/${m.fileId}?v=${m.versionId}&comment=${m.id}`}>
              {m.fileName} v{m.version}
            </Link>{' '}
            <span className="ov-quiet">
              {m.by.name}, {sayMoment(m.at)}
            </span>
            <br />
            {m.body}
          </li>
        ))}
      </ul>
    </section>
  );
}
