'use client';
/** How a folder becomes the desk of a project. */
import Link from 'next/link';
import { useSyncExternalStore } from 'react';
import Button from 'react-bootstrap/Button';
import { canOpenFolders } from './folder.ts';
import type { Connected } from './useConnected.ts';

const never = () => () => undefined;

export function ConnectFolder({ connected }: { readonly connected: Connected }): React.ReactNode {
  const { known, connect, connectAgain, connectDropped, practise } = connected;
  // The server can't know what the browser can.
  const opens = useSyncExternalStore(never, canOpenFolders, () => true);
  return (
    <div
      className="ov-empty"
      aria-label="Connect a folder, or drop it here"
      role="group"
      onDragOver={(e) => e.preventDefault()}
      onDrop={connectDropped}
    >
      <p>
        A desk is a folder on your own computer. Ovrel shows where each file in it stands against the newest version,
        brings newer ones, and checks in what you changed. Nothing that you changed is replaced unasked.
        {opens && ' You can also drop the folder here.'}
      </p>
      <div className="d-flex gap-2 flex-wrap justify-content-center">
        {known && <Button onClick={() => connectAgain(known)}>Go on with the folder “{known.name}”</Button>}
        {opens && (
          <Button variant={known ? 'outline-secondary' : 'primary'} onClick={connect}>
            Connect a folder
          </Button>
        )}
        <Button variant="outline-secondary" onClick={practise}>
          Use the practice folder
        </Button>
      </div>
      {!opens && (
        <p className="mt-3">
          This browser can’t open folders of your computer. The <Link href="/desk">command line</Link> does the same,
          and the practice folder shows how it works.
        </p>
      )}
    </div>
  );
}
