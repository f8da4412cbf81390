import type { Metadata } from 'next';
import type { Right } from '../../../contract/access.ts';
import type { Person, RailColumns } from '../../../contract/api.ts';
import { lineOf, namedIn, pointsOf } from '../../../features/files/address.ts';
import { TopBar } from '../../../features/frame/TopBar.tsx';
import { FilePage } from '../../../features/files/FilePage.tsx';
import { orNotFound, visitor } from '../../../server/http/visitor.ts';
import { accessHere } from '../../../server/people/access.ts';
import { getFile } from '../../../server/projects/service.ts';
import { listVersions, railOf } from '../../../server/versions/service.ts';
import { db } from '../../../server/db/pool.ts';
import { lineOfVersion } from '../../../server/versions/rows.ts';
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
  const rail = await askedRail(person, fileId, get);
  const titles = new Map(rail.titles);
  const points = pointsOf(
    get,
    rail.ids.map((id, i) => ({ id, number: rail.numbers[i] ?? 0, title: titles.get(id) ?? null })),
  );
  const numbers = points ? [points.b.number, points.a.number, points.newest.number] : [];
  const initial = (
    await Promise.all(
      [...new Set(numbers)].map((n) => listVersions(person, fileId, { from: n, to: n, line: rail.line })),
    )
  ).flat();
  const project = `/projects/${file.projectId}`;
  const where = [
    { name: 'Home', href: '/' },
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
        initial={initial}
        mayCheckIn={may('check out')}
        mayBringForward={may('bring forward') && !file.deletedIn}
        mayErase={may('erase')}
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

/** The rail of the line that an address asks for, or on which the version stands that it names. */
async function askedRail(person: Person, fileId: string, get: (name: string) => string | null): Promise<RailColumns> {
  const main = await railOf(person, fileId);
  const named = namedIn(get);
  const own = named === undefined || main.ids.includes(named) ? undefined : await lineOfVersion(db(), fileId, named);
  const known = main.lines.find((l) => l.id === own)?.id ?? main.line;
  const line = lineOf(get, main.lines, known);
  return line === main.line ? main : railOf(person, fileId, line);
}
