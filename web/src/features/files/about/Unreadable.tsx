'use client';

import Button from 'react-bootstrap/Button';
import { useLookAgain } from '../useLookAgain.ts';
import { useCompared } from '../state/compared.tsx';

/** Why a file is kept, but not shown part by part. */
export function Unreadable(): React.ReactNode {
  const { detail } = useCompared();
  const { lookAgain, busy } = useLookAgain(detail?.id);
  const look = detail?.look;
  if (!look?.problem) return null;
  return (
    <div className="ov-older" role="note">
      <strong>Kept, but not readable part by part.</strong> {look.problem}
      {look.again && (
        <>
          {' '}
          <Button variant="link" className="p-0 align-baseline" disabled={busy} onClick={lookAgain}>
            {busy ? 'Looking again …' : 'Look again'}
          </Button>
        </>
      )}
    </div>
  );
}
