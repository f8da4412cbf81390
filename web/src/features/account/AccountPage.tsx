'use client';

import type { Account } from '../../contract/account.ts';
import type { AccessToken } from '../../contract/desk.ts';
import { api } from '../../contract/operations/index.ts';
import { useAnswer } from '../api/useAnswer.ts';
import { Said } from '../frame/Said.tsx';
import { useAttempt } from '../frame/useAttempt.tsx';
import { PasswordForm } from './PasswordForm.tsx';
import { SecondFactor } from './SecondFactor.tsx';
import { Sessions } from './Sessions.tsx';
import { Tokens } from './Tokens.tsx';

interface Props {
  readonly initial: Account;
  readonly initialTokens: readonly AccessToken[];
}

export function AccountPage({ initial, initialTokens }: Props): React.ReactNode {
  const { data: account = initial, mutate } = useAnswer(api.account.get, {}, { fallbackData: initial });
  const { said, attempt } = useAttempt(mutate);
  return (
    <main className="ov-page ov-account">
      <div className="ov-head">
        <h1>Account</h1>
        <p>
          {account.person.name}, {account.person.email}, {account.person.role}
        </p>
      </div>
      {said}
      {account.temporary && (
        <Said problem>Your password was set by somebody else. Set one of your own: then Ovrel is open to you.</Said>
      )}
      <PasswordForm since={account.passwordSetAt} attempt={attempt} />
      {!account.temporary && (
        <>
          <SecondFactor state={account.secondFactor} attempt={attempt} />
          <Sessions sessions={account.sessions} attempt={attempt} />
          <Tokens initial={initialTokens} />
        </>
      )}
    </main>
  );
}
