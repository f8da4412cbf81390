import type { Metadata } from 'next';
import { TopBar } from '../../../features/frame/TopBar.tsx';
import { ContentsPage } from '../../../features/projects/ContentsPage.tsx';
import { orNotFound } from '../../../server/http/visitor.ts';
import { accessHere } from '../../../server/people/access.ts';
import { contentsOf } from '../../../server/projects/service.ts';
import { visited } from '../../visited.tsx';
import { said } from '../../said.ts';

export const metadata: Metadata = { title: 'Project' };

interface Props {
  params: Promise<{ projectId: string }>;
  searchParams: Promise<{ folder?: string | string[] }>;
}

export default visited(async (person, { params, searchParams }: Props) => {
  const { projectId } = await params;
  const folder = said((await searchParams).folder);
  const contents = await orNotFound(projectId, () =>
    folder ? orNotFound(folder, () => contentsOf(person, projectId, folder)) : contentsOf(person, projectId, null),
  );
  const here = await accessHere(person, { projectId, folderId: folder ?? null });
  const top = `/projects/${projectId}`;
  const where = [
    { name: 'Home', href: '/' },
    { name: contents.project.name, ...(folder ? { href: top } : {}) },
    ...contents.path.map((f) => ({ name: f.name, ...(f.id === folder ? {} : { href: `${top}?folder=${f.id}` }) })),
  ];
  return (
    <>
      <TopBar person={person} where={where} />
      <ContentsPage key={folder ?? 'top'} initial={contents} here={here} />
    </>
  );
});
