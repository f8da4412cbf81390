import type { Metadata } from 'next';
import { AsOfPage } from '../../../../features/projects/AsOfPage.tsx';
import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { may } from '../../../../server/people/permissions.ts';
import { accessHere } from '../../../../server/people/access.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { visited } from '../../../visited.tsx';
import { said } from '../../../said.ts';

export const metadata: Metadata = { title: 'As it was' };

interface Props {
  params: Promise<{ projectId: string }>;
  searchParams: Promise<Record<'at' | 'folder', string | string[] | undefined>>;
}

export default visited(async (person, { params, searchParams }: Props) => {
  const { projectId } = await params;
  const asked = await searchParams;
  const [at, folder] = [said(asked.at), said(asked.folder)];
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  const here = await orNotFound(folder ?? projectId, () => accessHere(person, { projectId, folderId: folder ?? null }));
  const where = [
    { name: 'Home', href: '/' },
    { name: project.name, href: `/projects/${projectId}` },
    { name: 'As it was' },
  ];
  return (
    <>
      <TopBar person={person} where={where} />
      <AsOfPage
        projectId={projectId}
        folderId={folder}
        name={project.name}
        initialAt={at}
        mayBringForward={here.rights.includes('bring forward')}
        mayMake={may(person, 'make projects')}
      />
    </>
  );
});
