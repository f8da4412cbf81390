'use client';

import { useState } from 'react';
import type { Member } from '../../contract/account.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { useAttempt } from '../frame/useAttempt.tsx';
import { Ago } from '../frame/Ago.tsx';
import { AddPerson } from './AddPerson.tsx';
import { PersonMenu } from './PersonMenu.tsx';

interface Props {
  readonly me: string;
  readonly initial: readonly Member[];
}

export function PeoplePage({ me, initial }: Props): React.ReactNode {
  const { data = initial, mutate } = useAnswer(api.people.list, {}, { fallbackData: initial });
  const { said, attempt } = useAttempt(mutate);
  const [dialog, open] = useState<React.ReactNode>();
  return (
    <main className="ov-page">
      <div className="ov-head">
        <h1>People</h1>
      </div>
      {said}
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
              <td>{person.seenAt ? <Ago at={person.seenAt} /> : <span className="ov-quiet">not signed in</span>}</td>
              <td className="is-acts">
                <PersonMenu person={person} isMe={person.id === me} attempt={attempt} open={open} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <AddPerson attempt={attempt} />
      {dialog}
    </main>
  );
}

function sayDoor({ state, temporary, secondFactor }: Member): string {
  if (state === 'deactivated') return 'deactivated';
  if (temporary) return 'has to change the first password';
  return secondFactor ? 'password and code' : 'password';
}
