'use client';

import Button from 'react-bootstrap/Button';

export default function Failed({ reset }: { reset: () => void }): React.ReactNode {
  return (
    <main className="ov-door">
      <h1>This page could not be shown</h1>
      <p>Nothing was changed. Try again; if it goes on, tell an administrator when it happened.</p>
      <Button onClick={reset}>Try again</Button>
    </main>
  );
}
