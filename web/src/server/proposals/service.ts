/**
 * What somebody is about to do to a file: taken back, carried over, joined. It is made and kept as a content that is
 * no version, so that it can be looked at and compared like one, and lands when they say so.
 */
import { cardOf, isSameFormat, type Choice } from '@ovrel/core';
import type { Person, SourceRole, Version } from '../../contract/api.ts';
import type { Asked, Proposal, Told } from '../../contract/proposals.ts';
import { refuseHeldByOther, release } from '../checkouts/service.ts';
import { runTask } from '../compute/pool.ts';
import { db, transaction, type Client } from '../db/pool.ts';
import { sourceOf } from '../facts/subject.ts';
import { record, type Act } from '../ledger/ledger.ts';
import { newestOfOpen } from '../lines/open.ts';
import { tell } from '../live/live.ts';
import { permit, permitFile, permitVersion } from '../people/access.ts';
import { notFound, Problem } from '../problem.ts';
import type { SetKind } from '../../contract/desk.ts';
import { newSet } from '../sets/sets.ts';
import { ContentWriter } from '../store/writer.ts';
import { receive, storeArrived, type Incoming } from '../versions/arrival.ts';
import { checkNote, refuseNoteless } from '../versions/refusals.ts';
import { versionOf, versionRow, type LineRef, type Newest, type VersionRow } from '../versions/rows.ts';
import { appendVersion, lockFile } from '../versions/service.ts';
import {
  changeProposal,
  commonBases,
  deleteProposal,
  insertProposal,
  lockedProposal,
  proposalOfFile,
  proposalRow,
  type ProposalRow,
} from './rows.ts';

/** Base of the time that one may take, in seconds: three files are read and their parts paired four times. */
const SECONDS = 90;
const DOING = 'check in versions';

type Decisions = Readonly<Record<string, Choice>>;

/** How each kind is called where it is kept. */
const words: Readonly<Record<Asked['kind'], { readonly act: Act; readonly set: SetKind; readonly role: SourceRole }>> =
  {
    'take back': { act: 'took back', set: 'take back', role: 'taken back to' },
    'carry over': { act: 'carried over', set: 'carry over', role: 'carried over from' },
    join: { act: 'joined', set: 'join', role: 'joined from' },
  };

export async function openProposal(by: Person, fileId: string): Promise<{ proposal: Proposal | null }> {
  await permitFile(by, 'see', fileId);
  const row = await proposalOfFile(db(), fileId, by.id);
  return { proposal: row ? await proposalOf(row) : null };
}

export async function getProposal(by: Person, id: string): Promise<Proposal> {
  return proposalOf(await ownRow(by, id));
}

async function ownRow(by: Person, id: string): Promise<ProposalRow> {
  const row = await proposalRow(db(), id, by.id);
  if (!row) throw notFound('proposal');
  return row;
}

export async function propose(by: Person, fileId: string, asked: Asked, line: LineRef = 0): Promise<Proposal> {
  await permitFile(by, 'check out', fileId, DOING);
  const newest = await newestOfOpen(db(), fileId, line);
  const made = await make(by, fileId, newest, asked, {});
  const id = await transaction(async (client) => {
    const contentId = await stored(client, made);
    return insertProposal(client, {
      fileId,
      lineId: newest.line_id,
      personId: by.id,
      ontoId: newest.id,
      sourceId: sourceIdOf(asked),
      asked,
      decisions: {},
      told: made.told,
      contentId,
      uploadName: made.onto.upload_name,
    });
  });
  return getProposal(by, id);
}

const sourceIdOf = (asked: Asked): string => (asked.kind === 'take back' ? asked.a : asked.from);

interface Made {
  readonly onto: VersionRow;
  /** Undefined where nothing is done: the content stays. */
  readonly bytes: Uint8Array | undefined;
  readonly told: Told;
}

/** Computes what would be done to the newest version. Throws a Problem with a sentence where it cannot be. */
async function make(by: Person, fileId: string, newest: Newest, asked: Asked, decisions: Decisions): Promise<Made> {
  const onto = await versionRow(newest.id);
  const { theirs, base, bases } = await sourcesOf(by, fileId, onto, asked);
  const result = await runTask(
    'propose',
    {
      kind: asked.kind,
      ours: sourceOf(onto),
      theirs: sourceOf(theirs),
      ...(base ? { base: sourceOf(base) } : {}),
      ...(asked.kind === 'take back' ? { changes: asked.changes } : {}),
      ...(asked.kind === 'carry over'
        ? {
            parts: asked.parts,
            layers: asked.layers,
            pages: asked.pages,
            boxes: asked.boxes,
            ...(theirs.file_id === fileId ? { asNew: false } : {}),
          }
        : {}),
      decisions: Object.entries(decisions),
    },
    { seconds: SECONDS },
  );
  if ('refused' in result) throw new Problem(422, 'not-possible', result.refused);
  const { clashes, inseparable, changed, bytes, says } = result;
  return {
    onto,
    bytes: changed ? bytes : undefined,
    told: {
      clashes: [...clashes],
      inseparable: [...inseparable],
      changed,
      says: [...says],
      ...(base && asked.kind === 'join' ? { base: base.id, bases } : {}),
    },
  };
}

interface Sources {
  readonly theirs: VersionRow;
  readonly base?: VersionRow;
  readonly bases?: number;
}

async function sourcesOf(by: Person, fileId: string, onto: VersionRow, asked: Asked): Promise<Sources> {
  if (asked.kind === 'take back') {
    const [theirs, base] = await Promise.all([seenRow(by, asked.a), seenRow(by, asked.b)]);
    if (theirs.file_id !== fileId || base.file_id !== fileId)
      throw new Problem(400, 'bad-input', 'Changes can be taken back only between versions of the file itself.');
    return { theirs, base };
  }
  const theirs = await seenRow(by, asked.from);
  if (asked.kind === 'carry over') return { theirs };
  const found = await commonBases(db(), onto.id, theirs.id);
  const [nearest] = found;
  if (!nearest)
    throw new Problem(
      422,
      'no-base',
      'The two do not come from one version, so they cannot be joined. Carry over what you want of it instead.',
    );
  if (nearest.id === theirs.id)
    throw new Problem(409, 'nothing-to-join', `All of v${theirs.number} is in v${onto.number} already.`);
  return { theirs, base: await versionRow(nearest.id), bases: found.length };
}

async function seenRow(by: Person, id: string): Promise<VersionRow> {
  await permitVersion(by, id);
  return versionRow(id);
}

async function stored(client: Client, { bytes, onto }: Made): Promise<string> {
  if (!bytes) return onto.content_id;
  const writer = new ContentWriter(client);
  await writer.write(bytes);
  return (await writer.finish(onto.format)).id;
}

export async function decide(by: Person, id: string, decisions: Decisions): Promise<Proposal> {
  const row = await ownRow(by, id);
  return getProposal(by, await remake(by, row, { ...row.decisions, ...decisions }));
}

/** What it would be, as somebody changed it in their own program: with it all is decided. */
export async function byHand(by: Person, id: string, incoming: Incoming): Promise<Proposal> {
  const row = await ownRow(by, id);
  await permitFile(by, 'check out', row.file_id, DOING);
  const onto = await versionRow(row.onto_id);
  const arrived = await receive(incoming, (format) => {
    if (format === onto.format || isSameFormat(cardOf(onto.format), cardOf(format))) return;
    throw new Problem(
      409,
      'other-format',
      'That is a file of another kind. Put back the file that you took from here, with what you changed in it.',
    );
  });
  try {
    const made = await transaction(async (client) => {
      const content = await storeArrived(client, arrived);
      const told = {
        ...row.told,
        clashes: row.told.clashes.map((clash) => ({ ...clash, decided: true })),
        changed: content.id !== onto.content_id,
        byHand: true,
      };
      return changeProposal(client, id, { ontoId: row.onto_id, decisions: row.decisions, told, contentId: content.id });
    });
    return await getProposal(by, made);
  } finally {
    await arrived.spool.end();
  }
}

/** Onto the newest version, with these decisions. Gives its new id. */
async function remake(by: Person, row: ProposalRow, decisions: Decisions): Promise<string> {
  const newest = await newestOfOpen(db(), row.file_id, row.line_id);
  const made = await make(by, row.file_id, newest, row.asked, decisions);
  return transaction(async (client) => {
    const contentId = await stored(client, made);
    return changeProposal(client, row.id, { ontoId: newest.id, decisions, told: made.told, contentId });
  });
}

export async function discard(by: Person, id: string): Promise<void> {
  if (!(await deleteProposal(db(), id, by.id))) throw notFound('proposal');
}

/** Checks it in as the newest version. Where a newer one landed meanwhile it is made anew, and shown once more. */
export async function landProposal(
  by: Person,
  id: string,
  note: string,
  undecided: 'ours' | undefined,
): Promise<Version> {
  checkNote(note);
  const row = await ownRow(by, id);
  await permitFile(by, 'check out', row.file_id, DOING);
  if (row.newest_id !== row.onto_id) throw await outdated(by, row);
  if (!row.told.changed)
    throw new Problem(409, 'nothing-to-do', `Nothing of v${row.onto_number} would change, so no version was made.`);
  const open = row.told.clashes.filter((clash) => !clash.decided).length;
  if (open > 0 && !undecided)
    throw new Problem(
      409,
      'undecided',
      open === 1 ? 'One clash is not decided yet.' : `${open} clashes are not decided yet.`,
      { open },
    );
  const made = await transaction((client) => landIn(client, by, row, note.trim() || proposedNote(row)));
  return versionOf(await versionRow(made));
}

async function outdated(by: Person, row: ProposalRow): Promise<Problem> {
  // What somebody made by hand is not thrown away.
  if (row.told.byHand)
    return new Problem(
      409,
      'newer-version',
      'A newer version was checked in meanwhile. What you changed by hand is still here: take the file, let this go, and begin again on the newer version.',
    );
  const proposal = await remake(by, row, row.decisions);
  return new Problem(
    409,
    'newer-version',
    'A newer version was checked in meanwhile. What you are about to do was made anew on top of it: look at it once more.',
    { proposal },
  );
}

async function landIn(client: Client, by: Person, row: ProposalRow, note: string): Promise<string> {
  const fileId = row.file_id;
  const { file } = await lockFile(client, fileId);
  const kept = await lockedProposal(client, row.id);
  const newest = await newestOfOpen(client, fileId, row.line_id);
  if (!kept || kept.onto_id !== newest.id)
    throw new Problem(
      409,
      'newer-version',
      'A newer version was checked in this moment. Look at what you are about to do once more.',
    );
  const { project_id: projectId, folder_id: folderId } = file;
  await permit(by, 'check out', { projectId, folderId }, DOING, client);
  await refuseNoteless(client, projectId, [folderId], note);
  await refuseHeldByOther(client, newest.line_id, by);
  const { act, set: kind, role } = words[row.asked.kind];
  const set = await newSet(client, { projectId, kind, note, by: by.id });
  const made = await appendVersion(client, newest, {
    fileId,
    contentId: kept.content_id,
    note,
    uploadName: file.name,
    by: by.id,
    setId: set.id,
    sourceId: row.source_id,
    sourceRole: role,
  });
  await release(client, newest.line_id, by.id);
  await deleteProposal(client, row.id, by.id);
  await tell(client, { kind: 'version', file: fileId, project: projectId });
  const from = row.source_file_id === fileId ? `v${row.source_number}` : `${row.source_file} v${row.source_number}`;
  const subject = `${file.name} ${from}, as v${newest.number + 1}`;
  await record(client, [{ act, by, subject, reason: note, projectId, fileId, versions: [made] }]);
  return made;
}

/** Sentences that a note has room for. */
const MOST_SAID = 3;

/** What the note says where nobody writes one. */
function proposedNote({
  told,
  asked,
  file_id,
  source_number,
  source_file,
  source_file_id,
  source_line,
}: ProposalRow): string {
  const elsewhere = source_file_id === file_id ? '' : ` of ${source_file}`;
  if (asked.kind === 'take back') {
    const more = told.says.length - MOST_SAID;
    const said = told.says.slice(0, MOST_SAID).join('; ');
    return `Taken back of what came after v${source_number}: ${said}${more > 0 ? `; and ${more} more` : ''}.`;
  }
  if (asked.kind === 'carry over') return `Carried over from v${source_number}${elsewhere}.`;
  return source_file_id === file_id
    ? `Joined “${source_line}”, v${source_number}.`
    : `Joined v${source_number}${elsewhere}.`;
}

async function proposalOf(row: ProposalRow): Promise<Proposal> {
  return {
    ...row.told,
    id: row.id,
    fileId: row.file_id,
    asked: row.asked,
    onto: { id: row.onto_id, number: row.onto_number, line: row.line },
    outdated: row.newest_id !== row.onto_id,
    source: {
      versionId: row.source_id,
      number: row.source_number,
      fileId: row.source_file_id,
      file: row.source_file,
      line: row.source_line,
    },
    version: versionOf(await versionRow(row.id)),
    proposedNote: proposedNote(row),
  };
}
