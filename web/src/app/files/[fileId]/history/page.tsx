import { TopBar } from '../../../../features/frame/TopBar.tsx';
import { FileHistoryPage } from '../../../../features/history/FileHistoryPage.tsx';
import { orNotFound } from '../../../../server/http/visitor.ts';
import { fileHistory } from '../../../../server/ledger/history.ts';
import { getFile } from '../../../../server/projects/service.ts';
import { makersOf } from '../../../../server/sets/sets.ts';
import { visited } from '../../../visited.tsx';

export const metadata = { title: 'History of a file' };

export default visited(async (person, { params }: { params: Promise<{ fileId: string }> }) => {
  const { fileId } = await params;
  const file = await orNotFound(fileId, () => getFile(person, fileId));
  const project = `/projects/${file.projectId}`;
  return (
    <>
      <TopBar
        person={person}
        where={[
          { name: 'Home', href: '/' },
          { name: file.projectName, href: project },
          ...file.path.map((f) => ({ name: f.name, href: `${project}?folder=${f.id}` })),
          { name: file.name, href: `/files/${fileId}` },
          { name: 'History' },
        ]}
      />
      <FileHistoryPage
        file={{ id: fileId, name: file.name, projectId: file.projectId }}
        people={await makersOf(person, { projectId: file.projectId, fileId })}
        initial={await fileHistory(person, fileId)}
      />
    </>
  );
});
