'use client';

import Button from 'react-bootstrap/Button';
import { emptyFilter } from '../filter.ts';
import { useRemarks } from '../state/remarks.tsx';
import { useCompared } from '../state/compared.tsx';
import { ChangesFound } from './ChangesFound.tsx';

/** All changes that pass the filter; those of one cause stand with it. */
export function List(): React.ReactNode {
  const { result, changes, listed, filter, setFilter } = useCompared();
  if (!result) return null;
  return (
    <>
      {filter.cause === undefined ? <ChangesFound /> : <AllAgain />}
      {changes.length > 0 && !listed.length && (
        <p>
          Nothing passes the filter.{' '}
          <Button variant="link" className="p-0 align-baseline" onClick={() => setFilter(emptyFilter)}>
            Show all
          </Button>
        </p>
      )}
      <CommentOnChosen />
    </>
  );
}

function AllAgain(): React.ReactNode {
  const { setFilter } = useCompared();
  return (
    <p className="mt-2">
      <Button variant="link" className="p-0" onClick={() => setFilter((before) => ({ ...before, cause: undefined }))}>
        Show the parts of all causes
      </Button>
    </p>
  );
}

/** A part that is gone from B cannot be commented on. */
function CommentOnChosen(): React.ReactNode {
  const { chosen } = useCompared();
  const { setTarget } = useRemarks();
  const part = chosen?.partB?.index;
  if (chosen === undefined || part === undefined) return null;
  const { kind, name } = chosen.part;
  const comment = (): void => setTarget({ kind: 'place', at: { part }, says: `About ${kind} ${name}` });
  return (
    <Button size="sm" variant="outline-secondary" className="mt-2" onClick={comment}>
      Comment on the chosen change
    </Button>
  );
}
