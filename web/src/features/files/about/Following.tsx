'use client';

import Button from 'react-bootstrap/Button';
import { mutate as forget } from 'swr';
import { addressOf } from '../../../contract/operation.ts';
import { api } from '../../../contract/operations/index.ts';
import { call } from '../../api/client.ts';
import { useAnswer } from '../../api/useAnswer.ts';
import { told, useAttempt } from '../../frame/useAttempt.tsx';
import { useShown } from '../state/shown.tsx';

/** Whether what others do to the file is told on the first page. */
export function Following(): React.ReactNode {
  const { file } = useShown();
  const { data, mutate } = useAnswer(api.home.follows, { fileId: file.id });
  // Home tells of other files from now on.
  const { said, attempt } = useAttempt(() => Promise.all([mutate(), forget(addressOf(api.home.get, {}))]));
  if (!data) return null;
  const { follows } = data;
  const sentence = follows ? 'You do not follow this file any more.' : 'What others do to it is told on Home.';
  const turn = (): Promise<boolean> =>
    told(attempt(sentence, () => call(api.home.follow, { fileId: file.id, body: { follows: !follows } })));
  return (
    <section aria-label="Following">
      {said}
      <Button size="sm" variant="outline-secondary" aria-pressed={follows} onClick={() => void turn()}>
        <i className={`bi ${follows ? 'bi-bell-fill' : 'bi-bell'}`} aria-hidden="true" />{' '}
        {follows ? 'You follow this file' : 'Follow this file'}
      </Button>
    </section>
  );
}
