'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import { CompareWithDialog } from '../CompareWithDialog.tsx';
import { useFileActs } from '../state/acts.tsx';
import { useShown } from '../state/shown.tsx';

/** Which two versions are compared, and ways to compare others. */
export function Pair(): React.ReactNode {
  const router = useRouter();
  const { file, a, b, newest, other, proposal, move } = useShown();
  const { open } = useFileActs();
  const otherName = other && (a.fileId === file.id ? `${other.name}, ${a.line}` : other.name);
  const swap = (): void => {
    if (other) router.push(`/files/${a.fileId}?v=${a.id}&with=${b.id}`);
    else move({ a: b.id, b: a.id });
  };
  if (proposal) return null;
  return (
    <>
      <h1>What changed</h1>
      <p>
        <span className="ov-mono" style={{ color: 'var(--ov-a)' }}>
          A v{a.number}
        </span>{' '}
        →{' '}
        <span className="ov-mono" style={{ color: 'var(--ov-b)' }}>
          B v{b.number}
        </span>
        {b.id === newest.id ? ', the newest' : ''}
      </p>
      {otherName !== undefined && (
        <p>
          A is of <Link href={`/files/${a.fileId}?v=${a.id}`}>{otherName}</Link>
        </p>
      )}
      <p className="ov-quiet">
        A by {a.by.name}, B by {b.by.name}
      </p>
      <div className="d-flex flex-wrap gap-2 my-2">
        <Button size="sm" variant="outline-secondary" onClick={() => move({ a: b.id })}>
          Leave comparison
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={swap}>
          Swap A and B
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={() => open(<CompareWithDialog />)}>
          With another file …
        </Button>
      </div>
    </>
  );
}
