'use client';

import { useState } from 'react';
import type { Member } from '../../contract/account.ts';
import { api } from '../../contract/operations/index.ts';
import { sentenceOf } from '../api/client.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { Said } from '../frame/Said.tsx';
import { sayAgo } from '../words.ts';
import { AddPerson } from './AddPerson.tsx';
import { PersonMenu } from './PersonMenu.tsx';

/** Does something with people, says how it went, and shows them as they are then. Rejects where nothing was done. */
export type Act = (sentence: string, work: () => Promise<unknown>) => Promise<void>;

interface Props {
  readonly me: string;
  readonly initial: readonly Member[];
}

export function PeoplePage({ me, initial }: Props): React.ReactNode {
  const { data = initial, mutate } = useAnswer(api.people.list, {}, { fallbackData: initial });
  const [said, setSaid] = useState<{ problem: boolean; text: string }>();
  const [dialog, open] = useState<React.ReactNode>();
  const act: Act = async (sentence, work) => {
    try {
      await work();
      setSaid({ problem: false, text: sentence });
    } catch (error) {
      setSaid({ problem: true, text: sentenceOf(error) });
      throw error;
    } finally {
      await mutate();
    }
  };
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>People</h1>
      </div>
      {said && <Said problem={said.problem}>{said.text}</Said>}
      <table className="ov-table mb-4" aria-label="People">
        <thead>
          <tr>
            <th>Name</th>
            <th>Signs in as</th>
            <th>Role</th>
            <th>Signing in</th>
            <th>Last seen</th>
            <th aria-label="Acts" />
          </tr>
        </thead>
        <tbody>
          {data.map((person) => (
            <tr key={person.id} className={person.state === 'active' ? '' : 'ov-quiet'}>
              <td>{person.name}</td>
              <td>{person.email}</td>
              <td>{person.role}</td>
              <td>{sayDoor(person)}</td>
              <td>{person.seenAt ? sayAgo(person.seenAt) : <span className="ov-quiet">not signed in</span>}</td>
              <td className="is-acts">
                <PersonMenu person={person} isMe={person.id === me} act={act} open={open} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <AddPerson act={act} />
      {dialog}
    </main>
  );
}

function sayDoor({ state, temporary, secondFactor }: Member): string {
  if (state === 'deactivated') return 'deactivated';
  if (temporary) return 'has to change the first password';
  return secondFactor ? 'password and code' : 'password';
}
