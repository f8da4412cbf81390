import type { Metadata } from 'next';
import { TopBar } from '../../../features/frame/TopBar.tsx';
import { FilePage } from '../../../features/files/FilePage.tsx';
import { orNotFound, visitor } from '../../../server/http/visitor.ts';
import { may } from '../../../server/people/permissions.ts';
import { getFile } from '../../../server/projects/service.ts';
import { listVersions } from '../../../server/versions/service.ts';

interface Props {
  params: Promise<{ fileId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const person = await visitor();
  const { fileId } = await params;
  return { title: (await orNotFound(fileId, () => getFile(person, fileId))).name };
}

export default async function Page({ params }: Props): Promise<React.ReactNode> {
  const person = await visitor();
  const { fileId } = await params;
  const file = await orNotFound(fileId, () => getFile(person, fileId));
  const versions = await listVersions(person, fileId);
  const project = `/projects/${file.projectId}`;
  const where = [{ name: 'Projects', href: '/' }, { name: file.projectName, href: project }, ...file.path.map((f) => ({ name: f.name, href: `${project}?folder=${f.id}` })), { name: file.name }];
  return (
    <>
      <TopBar person={person} where={where} />
      <FilePage file={file} initial={versions} mayCheckIn={may(person, 'check in')} mayBringForward={may(person, 'bring forward')} />
    </>
  );
}
