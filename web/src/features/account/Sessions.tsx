'use client';

import Button from 'react-bootstrap/Button';
import type { Account } from '../../contract/account.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { Ago } from '../frame/Ago.tsx';
import { sayMoment } from '../words.ts';
import { told, type Attempt } from '../frame/useAttempt.tsx';
import { programOf } from './program.ts';

interface Props {
  readonly sessions: Account['sessions'];
  readonly attempt: Attempt;
}

/** Where somebody is signed in. */
export function Sessions({ sessions, attempt }: Props): React.ReactNode {
  const end = (sessionId: string): void => {
    void told(attempt('The session has ended.', () => call(api.account.endSession, { sessionId })));
  };
  const endOthers = (): void => {
    void told(attempt('Your other sessions have ended.', () => call(api.account.endOtherSessions, {})));
  };
  return (
    <section aria-labelledby="sessions-head">
      <h2 id="sessions-head">Where you are signed in</h2>
      <table className="ov-table mb-3" aria-label="Sessions">
        <thead>
          <tr>
            <th>From</th>
            <th>Since</th>
            <th>Last seen</th>
            <th aria-label="Acts" />
          </tr>
        </thead>
        <tbody>
          {sessions.map((session) => (
            <tr key={session.id}>
              <td title={session.origin}>{programOf(session.origin)}</td>
              <td>{sayMoment(session.startedAt)}</td>
              <td>{session.current ? 'this session' : <Ago at={session.seenAt} />}</td>
              <td className="is-acts">
                {!session.current && (
                  <Button
                    variant="link"
                    onClick={() => end(session.id)}
                    aria-label={`End the session from ${programOf(session.origin)}, since ${sayMoment(session.startedAt)}`}
                  >
                    End
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {sessions.length > 1 && (
        <Button variant="outline-secondary" className="mb-3" onClick={endOthers}>
          End all other sessions
        </Button>
      )}
    </section>
  );
}
