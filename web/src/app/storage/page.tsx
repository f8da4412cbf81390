import { TopBar } from '../../features/frame/TopBar.tsx';
import { StoragePage } from '../../features/storage/StoragePage.tsx';
import { may } from '../../server/people/permissions.ts';
import { getStorage, listJobs } from '../../server/storage/service.ts';
import { visited } from '../visited.tsx';

export const metadata = { title: 'Storage' };

export default visited(async (person) => {
  const [storage, jobs] = await Promise.all([getStorage(person), listJobs(person)]);
  return (
    <>
      <TopBar person={person} where={[{ name: 'Home', href: '/' }, { name: 'Storage' }]} />
      <StoragePage initial={storage} initialJobs={jobs} mayTend={may(person, 'tend the store')} />
    </>
  );
});
