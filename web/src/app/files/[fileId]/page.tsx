import type { Metadata } from 'next';
import type { Right } from '../../../contract/access.ts';
import { lineOf, numbersOf } from '../../../contract/pages.ts';
import { TopBar } from '../../../features/frame/TopBar.tsx';
import { FilePage } from '../../../features/files/FilePage.tsx';
import { orNotFound, visitor } from '../../../server/http/visitor.ts';
import { accessHere } from '../../../server/people/access.ts';
import { getFile } from '../../../server/projects/service.ts';
import { listVersions, railOf } from '../../../server/versions/service.ts';
import { titleOr, visited } from '../../visited.tsx';

interface Props {
  params: Promise<{ fileId: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const person = await visitor();
  const { fileId } = await params;
  return { title: await titleOr('Closed', async () => (await orNotFound(fileId, () => getFile(person, fileId))).name) };
}

export default visited(async (person, { params, searchParams }: Props) => {
  const { fileId } = await params;
  const file = await orNotFound(fileId, () => getFile(person, fileId));
  const asked = await searchParams;
  const get = (name: string): string | null => (typeof asked[name] === 'string' ? asked[name] : null);
  const here = await accessHere(person, file);
  const may = (right: Right): boolean => here.rights.includes(right);
  const main = await railOf(person, fileId);
  const line = lineOf(get, main.lines.length);
  const rail = line ? await railOf(person, fileId, line) : main;
  const newest = rail.first + rail.at.length - 1;
  const { a, b } = numbersOf(get, { first: rail.first, newest });
  const initial = (
    await Promise.all([...new Set([b, a, newest])].map((n) => listVersions(person, fileId, { from: n, to: n, line })))
  ).flat();
  const project = `/projects/${file.projectId}`;
  const where = [
    { name: 'Projects', href: '/' },
    { name: file.projectName, href: project },
    ...file.path.map((f) => ({ name: f.name, href: `${project}?folder=${f.id}` })),
    { name: file.name },
  ];
  return (
    <>
      <TopBar person={person} where={where} />
      <FilePage
        file={file}
        rail={rail}
        initialLine={line}
        initial={initial}
        mayCheckIn={may('check out')}
        mayBringForward={may('bring forward') && !file.deletedIn}
        rights={{
          me: { id: person.id, name: person.name },
          here,
          mayCheckOut: may('check out'),
          mayTakeOver: may('take over'),
          mayOrganise: may('check out'),
        }}
      />
    </>
  );
});
