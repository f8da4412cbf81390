/** What every page does: who looks, and a page that says so where something is not there or closed to them. */
import Link from 'next/link';
import { notFound } from 'next/navigation';
import type { Person } from '../contract/api.ts';
import { TopBar } from '../features/frame/TopBar.tsx';
import { visitor } from '../server/http/visitor.ts';
import { Problem } from '../server/problem.ts';

export function visited<P>(
  render: (person: Person, props: P) => Promise<React.ReactNode>,
): (props: P) => Promise<React.ReactNode> {
  return async (props) => {
    const person = await visitor();
    try {
      return await render(person, props);
    } catch (error) {
      if (error instanceof Problem && error.status === 404) notFound();
      if (error instanceof Problem && error.status === 403)
        return (
          <>
            <TopBar person={person} where={[{ name: 'Home', href: '/' }, { name: 'Closed' }]} />
            <Closed sentence={error.message} />
          </>
        );
      throw error;
    }
  };
}

function Closed({ sentence }: { sentence: string }): React.ReactNode {
  return (
    <main className="ov-door">
      <h1>Closed to you</h1>
      <p>{sentence}</p>
      <p className="mb-0">
        <Link href="/">Go to the projects</Link>
      </p>
    </main>
  );
}

/** A title for what may be closed. */
export async function titleOr(otherwise: string, load: () => Promise<string>): Promise<string> {
  try {
    return await load();
  } catch (error) {
    if (error instanceof Problem) return otherwise;
    throw error;
  }
}
