import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { TopBar } from '../../features/frame/TopBar.tsx';
import { WatchedPage } from '../../features/watched/WatchedPage.tsx';
import { may } from '../../server/people/permissions.ts';
import { listProjects } from '../../server/projects/service.ts';
import { listWatched } from '../../server/watched/service.ts';
import { visited } from '../visited.tsx';

export const metadata: Metadata = { title: 'Watched folders' };

export default visited(async (person) => {
  if (!may(person, 'watch folders')) notFound();
  const [watched, projects] = await Promise.all([listWatched(person), listProjects(person)]);
  return (
    <>
      <TopBar person={person} where={[{ name: 'Home', href: '/' }, { name: 'Watched folders' }]} />
      <WatchedPage initial={watched} projects={projects} />
    </>
  );
});
