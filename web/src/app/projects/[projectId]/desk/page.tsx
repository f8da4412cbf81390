import { DeskFolderPage } from '../../../../features/desk-folder/DeskFolderPage.tsx';
import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { accessHere } from '../../../../server/people/access.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { deskFiles } from '../../../../server/references/service.ts';
import { visited } from '../../../visited.tsx';

export const metadata = { title: 'Desk' };

export default visited(async (person, { params }: { params: Promise<{ projectId: string }> }) => {
  const { projectId } = await params;
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  const here = await accessHere(person, { projectId, folderId: null });
  return (
    <>
      <TopBar
        person={person}
        where={[{ name: 'Home', href: '/' }, { name: project.name, href: `/projects/${projectId}` }, { name: 'Desk' }]}
      />
      <DeskFolderPage
        project={{ id: project.id, name: project.name }}
        initial={await deskFiles(person, projectId)}
        me={{ id: person.id, name: person.name }}
        mayCheckIn={here.rights.includes('check out')}
      />
    </>
  );
});
