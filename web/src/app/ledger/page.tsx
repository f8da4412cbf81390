import { TopBar } from '../../features/frame/TopBar.tsx';
import { LedgerPage } from '../../features/ledger/LedgerPage.tsx';
import { readLedger } from '../../server/ledger/ledger.ts';
import { listProjects } from '../../server/projects/service.ts';
import { visited } from '../visited.tsx';

export const metadata = { title: 'Ledger' };

const UUID = /^[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}$/i;

export default visited(
  async (person, { searchParams }: { searchParams: Promise<{ project?: string; file?: string }> }) => {
    const asked = await searchParams;
    const project = UUID.test(asked.project ?? '') ? (asked.project ?? '') : '';
    const file = UUID.test(asked.file ?? '') ? (asked.file ?? '') : '';
    const [ledger, projects] = await Promise.all([
      readLedger(person, { ...(project ? { project } : {}), ...(file ? { file } : {}) }),
      listProjects(person),
    ]);
    return (
      <>
        <TopBar person={person} where={[{ name: 'Home', href: '/' }, { name: 'Ledger' }]} />
        <LedgerPage
          initial={ledger}
          projects={projects.map(({ id, name }) => ({ id, name }))}
          where={{ project, file }}
        />
      </>
    );
  },
);
