/** For tests: a project with a lead, an editor and one file, made anew before each test. */
import type { FileEntry, Person } from '../../contract/api.ts';
import { makeProject } from '../projects/service.ts';
import { makeFile } from '../versions/checkin.ts';
import { incoming, makeTestPerson } from './database.ts';

export interface Landing {
  /** A lead, who makes the project and its first file. */
  ines: Person;
  /** An editor. */
  tobias: Person;
  projectId: string;
  file: FileEntry;
  /** Of this test alone, so that no two contents are the same. */
  round: number;
  /** Another file, by Ines. */
  add: (name: string, folder?: string | null, content?: string) => Promise<FileEntry>;
}

/** Call at the top of a test file, after `withTestDatabase`. */
export function withLanding(name: string, content: (round: number) => string): Landing {
  const landing = { round: 0 } as Landing;
  landing.add = async (fileName, folder = null, text = `${fileName} ${landing.round}`) =>
    (await makeFile(landing.ines, landing.projectId, folder, fileName, incoming(fileName, text), { note: '' })).file;
  beforeEach(async () => {
    landing.round += 1;
    landing.ines = await makeTestPerson('lead', 'Ines');
    landing.tobias = await makeTestPerson('editor', 'Tobias');
    landing.projectId = (await makeProject(landing.ines, `Landing ${landing.round}`)).id;
    landing.file = await landing.add(name, null, content(landing.round));
  });
  return landing;
}
