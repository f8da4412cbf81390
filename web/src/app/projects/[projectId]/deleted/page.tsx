import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { DeletedPage } from '../../../../features/history/DeletedPage.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { accessHere } from '../../../../server/people/access.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { listDeleted } from '../../../../server/sets/deleting.ts';
import { visited } from '../../../visited.tsx';

export const metadata = { title: 'Deleted files' };

export default visited(async (person, { params }: { params: Promise<{ projectId: string }> }) => {
  const { projectId } = await params;
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  const here = await accessHere(person, { projectId, folderId: null });
  return (
    <>
      <TopBar
        person={person}
        where={[
          { name: 'Home', href: '/' },
          { name: project.name, href: `/projects/${projectId}` },
          { name: 'Deleted files' },
        ]}
      />
      <DeletedPage
        projectId={projectId}
        name={project.name}
        initial={await listDeleted(person, projectId)}
        mayBringBack={here.rights.includes('check out')}
      />
    </>
  );
});
