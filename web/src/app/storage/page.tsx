import { TopBar } from '../../features/frame/TopBar.tsx';
import { StoragePage } from '../../features/storage/StoragePage.tsx';
import { visitor } from '../../server/http/visitor.ts';
import { may } from '../../server/people/permissions.ts';
import { getStorage, listJobs } from '../../server/storage/service.ts';

export const metadata = { title: 'Storage' };

export default async function Page(): Promise<React.ReactNode> {
  const person = await visitor();
  const [storage, jobs] = await Promise.all([getStorage(person), listJobs(person)]);
  return (
    <>
      <TopBar person={person} where={[{ name: 'Projects', href: '/' }, { name: 'Storage' }]} />
      <StoragePage initial={storage} initialJobs={jobs} mayTend={may(person, 'tend the store')} />
    </>
  );
}
