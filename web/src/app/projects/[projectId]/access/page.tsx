import { AccessPage } from '../../../../features/access/AccessPage.tsx';
import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { listAccess } from '../../../../server/people/granting.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { visited } from '../../../visited.tsx';
import { said } from '../../../said.ts';

export const metadata = { title: 'Access' };

interface Props {
  params: Promise<{ projectId: string }>;
  searchParams: Promise<{ folder?: string | string[] }>;
}

export default visited(async (person, { params, searchParams }: Props) => {
  const { projectId } = await params;
  const folder = said((await searchParams).folder) ?? null;
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  const list = await orNotFound(folder ?? projectId, () => listAccess(person, { projectId, folderId: folder }));
  return (
    <>
      <TopBar
        person={person}
        where={[
          { name: 'Home', href: '/' },
          { name: project.name, href: `/projects/${projectId}` },
          { name: 'Access' },
        ]}
      />
      <AccessPage
        key={folder ?? 'top'}
        project={{ id: projectId, name: project.name }}
        folderId={folder}
        initial={list}
      />
    </>
  );
});
