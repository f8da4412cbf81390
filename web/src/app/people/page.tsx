import { notFound } from 'next/navigation';
import { TopBar } from '../../features/frame/TopBar.tsx';
import { PeoplePage } from '../../features/people/PeoplePage.tsx';
import { visitor } from '../../server/http/visitor.ts';
import { may } from '../../server/people/permissions.ts';
import { listPeople } from '../../server/people/managing.ts';

export const metadata = { title: 'People' };

export default async function Page(): Promise<React.ReactNode> {
  const person = await visitor();
  if (!may(person, 'manage people')) notFound();
  return (
    <>
      <TopBar person={person} where={[{ name: 'Home', href: '/' }, { name: 'People' }]} />
      <PeoplePage me={person.id} initial={await listPeople(person)} />
    </>
  );
}
