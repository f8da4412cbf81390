'use client';

import Dropdown from 'react-bootstrap/Dropdown';
import type { Member } from '../../contract/account.ts';
import { api } from '../../contract/operations/index.ts';
import { call } from '../api/client.ts';
import { AskDialog } from '../frame/AskDialog.tsx';
import { GivePasswordDialog } from './GivePasswordDialog.tsx';
import { ChangePersonDialog } from './ChangePersonDialog.tsx';
import { told, type Attempt } from '../frame/useAttempt.tsx';

interface Props {
  readonly person: Member;
  readonly isMe: boolean;
  readonly attempt: Attempt;
  readonly open: (dialog: React.ReactNode) => void;
}

/** All that can be done with a person. */
export function PersonMenu({ person, isMe, attempt, open }: Props): React.ReactNode {
  const { id: personId, name, state } = person;
  const close = (): void => open(undefined);
  const isActive = state === 'active';
  const setState = (): void => {
    void told(
      attempt(isActive ? `${name} is signed out everywhere, and can't sign in.` : `${name} can sign in again.`, () =>
        call(api.people.change, { personId, body: { state: isActive ? 'deactivated' : 'active' } }),
      ),
    );
  };
  const endSessions = (): void => {
    void told(
      attempt(`The sessions and tokens of ${name} have ended.`, () => call(api.people.endSessions, { personId })),
    );
  };
  const endSecondFactor = (): void => {
    void told(
      attempt(`${name} signs in with the password alone.`, () => call(api.people.endSecondFactor, { personId })),
    );
  };
  const remove = (): void =>
    open(
      <AskDialog
        title={`Delete ${name}`}
        act="Delete"
        field="delete"
        onClose={close}
        save={() => attempt(`${name} was deleted.`, () => call(api.people.remove, { personId }))}
      >
        <p>
          {name} is signed out everywhere and can't sign in again. Versions, notes and comments stay under this name;
          what {name} has checked out is given up. This can't be undone. To keep the account for later, deactivate it.
        </p>
      </AskDialog>,
    );
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="outline-secondary" size="sm" aria-label={`Acts for ${name}`}>
        Change
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Item
          as="button"
          onClick={() => open(<ChangePersonDialog person={person} attempt={attempt} onClose={close} />)}
        >
          Name and role …
        </Dropdown.Item>
        {!isMe && (
          <Dropdown.Item
            as="button"
            onClick={() => open(<GivePasswordDialog person={person} attempt={attempt} onClose={close} />)}
          >
            Give a new password …
          </Dropdown.Item>
        )}
        {!isMe && (person.sessions > 0 || person.tokens > 0) && (
          <Dropdown.Item as="button" onClick={endSessions}>
            End {countOf(person.sessions, 'session')} and {countOf(person.tokens, 'token')}
          </Dropdown.Item>
        )}
        {person.secondFactor && !isMe && (
          <Dropdown.Item as="button" onClick={endSecondFactor}>
            End the second factor
          </Dropdown.Item>
        )}
        {!isMe && (
          <>
            <Dropdown.Item as="button" onClick={setState}>
              {isActive ? 'Deactivate' : 'Activate'}
            </Dropdown.Item>
            <Dropdown.Item as="button" onClick={remove}>
              Delete …
            </Dropdown.Item>
          </>
        )}
      </Dropdown.Menu>
    </Dropdown>
  );
}

const countOf = (count: number, what: string): string => `${count} ${count === 1 ? what : `${what}s`}`;
