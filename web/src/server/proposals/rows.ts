import type { Asked, Told } from '../../contract/proposals.ts';
import type { Choice } from '@ovrel/core';
import { many, one, type Client, type Db } from '../db/pool.ts';
import { notFound } from '../problem.ts';
import { STORE } from '../store/copy.ts';

export interface ProposalRow {
  readonly id: string;
  readonly file_id: string;
  readonly line_id: string;
  readonly person_id: string;
  readonly onto_id: string;
  readonly onto_number: number;
  readonly line: string;
  readonly newest_id: string;
  readonly source_id: string;
  readonly source_number: number;
  readonly source_file_id: string;
  readonly source_file: string;
  readonly source_line: string;
  readonly asked: Asked;
  readonly decisions: Readonly<Record<string, Choice>>;
  readonly told: Told;
}

const select = `
  select p.id, p.file_id, p.line_id, p.person_id, p.onto_id, onto.number as onto_number, l.name as line,
    (select n.id from version n where n.store_id = $1 and n.line_id = p.line_id order by n.number desc limit 1) as newest_id,
    p.source_id, source.number as source_number, source.file_id as source_file_id, sf.name as source_file,
    sl.name as source_line, p.asked, p.decisions, p.told
  from proposal p
  join line l on l.id = p.line_id
  join version onto on onto.store_id = $1 and onto.id = p.onto_id
  join version source on source.store_id = $1 and source.id = p.source_id
  join file sf on sf.id = source.file_id
  join line sl on sl.id = source.line_id`;

/** Somebody's own: what others are about to do is not told. */
export const proposalRow = (client: Db, id: string, personId: string): Promise<ProposalRow | undefined> =>
  one<ProposalRow>(client, `${select} where p.store_id = $1 and p.id = $2 and p.person_id = $3`, [STORE, id, personId]);

export const proposalOfFile = (client: Db, fileId: string, personId: string): Promise<ProposalRow | undefined> =>
  one<ProposalRow>(client, `${select} where p.store_id = $1 and p.file_id = $2 and p.person_id = $3`, [
    STORE,
    fileId,
    personId,
  ]);

export interface ProposalValues {
  readonly fileId: string;
  readonly lineId: string;
  readonly personId: string;
  readonly ontoId: string;
  readonly sourceId: string;
  readonly asked: Asked;
  readonly decisions: Readonly<Record<string, Choice>>;
  readonly told: Told;
  readonly contentId: string;
  readonly uploadName: string;
}

/** A person has one at a time for a file. */
export async function insertProposal(client: Client, p: ProposalValues): Promise<string> {
  await client.query('delete from proposal where file_id = $1 and person_id = $2', [p.fileId, p.personId]);
  const row = await one<{ id: string }>(
    client,
    `insert into proposal (store_id, file_id, line_id, person_id, onto_id, source_id, asked, decisions, told, content_id, upload_name)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) returning id`,
    [
      STORE,
      p.fileId,
      p.lineId,
      p.personId,
      p.ontoId,
      p.sourceId,
      JSON.stringify(p.asked),
      JSON.stringify(p.decisions),
      JSON.stringify(p.told),
      p.contentId,
      p.uploadName,
    ],
  );
  if (!row) throw new Error('a proposal was not inserted');
  return row.id;
}

/** Made anew, by other decisions or on a newer version. It gets another id: what was seen of the old one is another content. */
export async function changeProposal(
  client: Client,
  id: string,
  p: Pick<ProposalValues, 'ontoId' | 'decisions' | 'told' | 'contentId'>,
): Promise<string> {
  const row = await one<{ id: string }>(
    client,
    `update proposal set id = gen_random_uuid(), onto_id = $2, decisions = $3, told = $4, content_id = $5, made_at = now()
     where id = $1 returning id`,
    [id, p.ontoId, JSON.stringify(p.decisions), JSON.stringify(p.told), p.contentId],
  );
  if (!row) throw notFound('proposal');
  return row.id;
}

/** Its row, locked until the transaction ends; undefined where it is gone. */
export const lockedProposal = (
  client: Client,
  id: string,
): Promise<{ content_id: string; onto_id: string } | undefined> =>
  one(client, 'select content_id, onto_id from proposal where id = $1 for update', [id]);

export async function deleteProposal(client: Db, id: string, personId: string): Promise<boolean> {
  const { rowCount } = await client.query('delete from proposal where id = $1 and person_id = $2', [id, personId]);
  return (rowCount ?? 0) > 0;
}

export interface Ancestor {
  readonly id: string;
  readonly made_at: Date;
}

/** Versions that both come from and no later one of which does, the newest first. */
export const commonBases = (client: Db, one: string, other: string): Promise<Ancestor[]> =>
  many<Ancestor>(
    client,
    `
    with recursive
    mine as (
      select $2::uuid as id
      union
      select p.parent_id from version_parent p join mine on p.store_id = $1 and p.version_id = mine.id
      where p.role in ('follows', 'joined from', 'branched off from')
    ),
    theirs as (
      select $3::uuid as id
      union
      select p.parent_id from version_parent p join theirs on p.store_id = $1 and p.version_id = theirs.id
      where p.role in ('follows', 'joined from', 'branched off from')
    ),
    common as (select id from mine intersect select id from theirs),
    inner_ones as (
      select p.parent_id as id from version_parent p join common on p.store_id = $1 and p.version_id = common.id
      where p.role in ('follows', 'joined from', 'branched off from')
    )
    select v.id, v.made_at from version v join common on common.id = v.id
    where v.store_id = $1 and v.id not in (select id from inner_ones)
    order by v.made_at desc`,
    [STORE, one, other],
  );
