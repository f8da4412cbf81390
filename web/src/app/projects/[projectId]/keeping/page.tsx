import type { Metadata } from 'next';
import { KeepingPage } from '../../../../features/keeping/KeepingPage.tsx';
import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { accessHere } from '../../../../server/people/access.ts';
import { foldersOf, getProject } from '../../../../server/projects/service.ts';
import { visited } from '../../../visited.tsx';
import { said } from '../../../said.ts';

export const metadata: Metadata = { title: 'Keeping rules' };

interface Props {
  params: Promise<{ projectId: string }>;
  searchParams: Promise<{ folder?: string | string[] }>;
}

export default visited(async (person, { params, searchParams }: Props) => {
  const { projectId } = await params;
  const folder = said((await searchParams).folder);
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  const [folders, here] = await Promise.all([
    foldersOf(person, projectId),
    accessHere(person, { projectId, folderId: null }),
  ]);
  const where = [
    { name: 'Home', href: '/' },
    { name: project.name, href: `/projects/${projectId}` },
    { name: 'Keeping rules' },
  ];
  return (
    <>
      <TopBar person={person} where={where} />
      <KeepingPage
        projectId={projectId}
        name={project.name}
        folders={folders}
        initialFolder={folders.some(({ id }) => id === folder) ? folder : undefined}
        maySweep={here.rights.includes('manage')}
        mayKeep={here.rights.includes('check out')}
      />
    </>
  );
});
