import Link from 'next/link';

export default function NotFound(): React.ReactNode {
  return (
    <main className="ov-door">
      <h1>There is nothing at this address</h1>
      <p>It may have been moved, or you may not have the right to see it.</p>
      <p className="mb-0">
        <Link href="/">Go to the projects</Link>
      </p>
    </main>
  );
}
