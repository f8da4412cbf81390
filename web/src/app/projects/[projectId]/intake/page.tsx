import { IntakePage } from '../../../../features/intake/IntakePage.tsx';
import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { makersOf } from '../../../../server/sets/sets.ts';
import { visited } from '../../../visited.tsx';

export const metadata = { title: 'Old copies' };

export default visited(async (person, { params }: { params: Promise<{ projectId: string }> }) => {
  const { projectId } = await params;
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  const people = await makersOf(person, { projectId });
  const where = [
    { name: 'Home', href: '/' },
    { name: project.name, href: `/projects/${projectId}` },
    { name: 'Old copies' },
  ];
  return (
    <>
      <TopBar person={person} where={where} />
      <IntakePage projectId={projectId} name={project.name} people={people} />
    </>
  );
});
