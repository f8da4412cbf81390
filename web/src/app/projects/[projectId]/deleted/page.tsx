import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { DeletedPage } from '../../../../features/history/DeletedPage.tsx';
import { orNotFound, visitor } from '../../../../server/http/visitor.ts';
import { may } from '../../../../server/people/permissions.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { listDeleted } from '../../../../server/sets/deleting.ts';

export const metadata = { title: 'Deleted files' };

export default async function Page({ params }: { params: Promise<{ projectId: string }> }): Promise<React.ReactNode> {
  const person = await visitor(), { projectId } = await params;
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  return (
    <>
      <TopBar person={person} where={[{ name: 'Projects', href: '/' }, { name: project.name, href: `/projects/${projectId}` }, { name: 'Deleted files' }]} />
      <DeletedPage projectId={projectId} name={project.name} initial={await listDeleted(person, projectId)} mayBringBack={may(person, 'delete')} />
    </>
  );
}
