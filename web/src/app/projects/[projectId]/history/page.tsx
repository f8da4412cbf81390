import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { HistoryPage } from '../../../../features/history/HistoryPage.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { accessHere } from '../../../../server/people/access.ts';
import { getProject } from '../../../../server/projects/service.ts';
import { listSets, makersOf } from '../../../../server/sets/sets.ts';
import { visited } from '../../../visited.tsx';

export const metadata = { title: 'History' };

interface Props {
  params: Promise<{ projectId: string }>;
  searchParams: Promise<{ set?: string }>;
}

export default visited(async (person, { params, searchParams }: Props) => {
  const { projectId } = await params;
  const asked = Number((await searchParams).set);
  const project = await orNotFound(projectId, () => getProject(person, projectId));
  const shown = Number.isInteger(asked) && asked > 0 ? asked : undefined;
  const [sets, people, here] = await Promise.all([
    listSets(person, projectId, {}),
    makersOf(person, { projectId }),
    accessHere(person, { projectId, folderId: null }),
  ]);
  // A set that an address points at is shown, however old it is.
  const far =
    shown && !sets.some((s) => s.number === shown) ? await listSets(person, projectId, { before: shown + 1 }) : [];
  return (
    <>
      <TopBar
        person={person}
        where={[
          { name: 'Home', href: '/' },
          { name: project.name, href: `/projects/${projectId}` },
          { name: 'History' },
        ]}
      />
      <HistoryPage
        projectId={projectId}
        name={project.name}
        people={people}
        initial={sets}
        far={far}
        shown={shown}
        mayBringForward={here.rights.includes('bring forward')}
      />
    </>
  );
});
