/** Lines, joins and erasing, from a desk. */
import { basename } from 'node:path';
import { Refused, type Api, type DeskFile, type Proposal } from './api.ts';

type Print = (text: string) => Promise<void>;

export interface Said {
  readonly name?: string | undefined;
  readonly version?: string | undefined;
  readonly note?: string | undefined;
  readonly from?: string | undefined;
  readonly prefer?: string | undefined;
  readonly file?: boolean | undefined;
  readonly yes?: boolean | undefined;
}

/** What is told of a file by its path here. */
type Of = Pick<DeskFile, 'fileId' | 'path' | 'newest'>;

/** Gives the exit code. */
export type Act = (api: Api, of: Of, said: Said, print: Print) => Promise<number>;

const versionOf = async (api: Api, { fileId, newest }: Of, version: string | undefined): Promise<string> =>
  version === undefined ? newest.id : (await api.version(fileId, Number(version.replace('v', '')))).id;

const branch: Act = async (api, of, { name, version, note = '', file }, print) => {
  if (!name) throw new Refused('Say how the branch is called: --name NAME.');
  const from = await versionOf(api, of, version);
  if (file) {
    await api.branchFile(from, name, note);
    await print(`${name} was made from ${of.path}. “ovrel desk get” brings it.`);
    return 0;
  }
  const made = await api.startLine(from, name, note);
  await print(`“${made.line}” starts from ${of.path}, as v${made.number} of its own line.`);
  return 0;
};

const join: Act = async (api, of, { from, note = '', prefer }, print) => {
  if (!from) throw new Refused('Say which line is joined: --from LINE.');
  const lines = await api.linesOf(of.fileId);
  const line = lines.find((l) => l.position > 0 && l.name.toLowerCase() === from.toLowerCase());
  const newest = line && (await api.newestOf(of.fileId, line.id));
  if (!newest) {
    const names = lines.filter((l) => l.position > 0).map((l) => `“${l.name}”`);
    throw new Refused(
      `${of.path} has no line “${from}”. It has ${names.length ? names.join(', ') : 'no other than the main line'}.`,
    );
  }
  const proposed = await api.proposeJoin(of.fileId, newest.id);
  const decided = await decidedBy(api, proposed, prefer);
  const open = decided.clashes.filter((clash) => !clash.decided);
  for (const { kind, ours, theirs } of open) {
    const part = (ours ?? theirs)?.part;
    await print(`clash (${kind}): ${part ? `${part.kind} ${part.name}` : 'the whole file'}`);
  }
  if (open.length > 0) {
    await print(`Nothing was checked in. Decide on the page of ${of.path}, or say --prefer ours or --prefer theirs.`);
    return 1;
  }
  const landed = await api.land(decided.id, note);
  await print(`“${line.name}” was joined into ${of.path}, as v${landed.number}.`);
  return 0;
};

async function decidedBy(api: Api, proposal: Proposal, prefer: string | undefined): Promise<Proposal> {
  if (prefer === undefined || proposal.clashes.length === 0) return proposal;
  if (prefer !== 'ours' && prefer !== 'theirs') throw new Refused('--prefer is ours or theirs.');
  return api.decide(proposal.id, Object.fromEntries(proposal.clashes.map(({ key }) => [key, prefer])));
}

const erase: Act = async (api, of, { version, note, yes }, print) => {
  if (!version) throw new Refused('Say which version is to be the newest again: --version N.');
  if (!note) throw new Refused('Say why the later versions go for good: --note TEXT.');
  if (!yes)
    throw new Refused(`All versions of ${of.path} after ${version} would go for good. Say --yes if that is wanted.`);
  await print(await api.eraseBack(await versionOf(api, of, version), basename(of.path), note));
  return 0;
};

export const gettingBack: Readonly<Record<string, Act>> = { branch, join, erase };

export const gettingBackUsage = `  ovrel desk branch PATH --name NAME [--version N] [--file] [--note TEXT]
                                               start a line from a version, or a file of its own
  ovrel desk join PATH --from LINE [--prefer ours|theirs] [--note TEXT]
                                               bring a line back into the main line
  ovrel desk erase PATH --version N --note TEXT --yes
                                               remove all later versions for good`;
