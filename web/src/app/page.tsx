import { TopBar } from '../features/frame/TopBar.tsx';
import { ProjectList } from '../features/projects/ProjectList.tsx';
import { visitor } from '../server/http/visitor.ts';
import { may } from '../server/people/permissions.ts';
import { listProjects } from '../server/projects/service.ts';

export default async function Page(): Promise<React.ReactNode> {
  const person = await visitor();
  return (
    <>
      <TopBar person={person} where={[{ name: 'Projects' }]} />
      <ProjectList
        initial={await listProjects(person)}
        mayMake={may(person, 'make projects')}
        mayLook={may(person, 'read')}
        mayManagePeople={may(person, 'manage people')}
      />
    </>
  );
}
