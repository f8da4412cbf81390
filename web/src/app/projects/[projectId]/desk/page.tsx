import { DeskFolderPage } from '../../../../features/desk-folder/DeskFolderPage.tsx';
import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { orNotFound, visitor } from '../../../../server/http/visitor.ts';
import { may } from '../../../../server/people/permissions.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { deskFiles } from '../../../../server/references/service.ts';

export const metadata = { title: 'Desk' };

export default async function Page({ params }: { params: Promise<{ projectId: string }> }): Promise<React.ReactNode> {
  const person = await visitor(), { projectId } = await params;
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  return (
    <>
      <TopBar person={person} where={[{ name: 'Projects', href: '/' }, { name: project.name, href: `/projects/${projectId}` }, { name: 'Desk' }]} />
      <DeskFolderPage project={{ id: project.id, name: project.name }} initial={await deskFiles(person, projectId)} me={{ id: person.id, name: person.name }} mayCheckIn={may(person, 'check in')} />
    </>
  );
}
