/** Which keeping rule holds where: the nearest place that says anything decides, and there what is said of a kind. */
import { cardOf, KEEP_ALL, type KeepingRule, type KindId } from '@ovrel/core';
import type { Db } from '../db/pool.ts';
import { folderParents, rulesOf, type SaidRule } from './rows.ts';

/** Rules of a project, and its folders. */
export class Rules {
  private readonly said: readonly SaidRule[];
  private readonly parents: ReadonlyMap<string, string | null>;

  constructor(said: readonly SaidRule[], parents: ReadonlyMap<string, string | null>) {
    this.said = said;
    this.parents = parents;
  }

  get isEmpty(): boolean {
    return this.said.length === 0;
  }

  /** What holds for contents of a kind (null: what is said of all) in a folder; undefined where nothing is said. */
  at(folderId: string | null, content: KindId | null): SaidRule | undefined {
    for (const place of this.upwards(folderId)) {
      const here = this.said.filter((rule) => rule.folder_id === place);
      const found =
        here.find((rule) => content !== null && rule.content === content) ?? here.find((rule) => rule.content === null);
      if (found) return found;
    }
    return undefined;
  }

  /** As they would be if this were said. */
  with(folderId: string | null, content: KindId | null, rule: KeepingRule): Rules {
    const others = this.said.filter((one) => one.folder_id !== folderId || one.content !== content);
    return new Rules([...others, { folder_id: folderId, content, rule }], this.parents);
  }

  ruleAt(folderId: string | null, content: KindId | null): KeepingRule {
    return this.at(folderId, content)?.rule ?? KEEP_ALL;
  }

  private upwards(folderId: string | null): (string | null)[] {
    const path: (string | null)[] = [];
    for (let id = folderId; id !== null; id = this.parents.get(id) ?? null) path.push(id);
    return [...path, null];
  }
}

export async function rulesIn(client: Db, projectId: string): Promise<Rules> {
  const [said, folders] = [await rulesOf(client, projectId), await folderParents(client, projectId)];
  return new Rules(said, new Map(folders.map((folder) => [folder.id, folder.parent_id])));
}

/** The kind of content that a rule for a kind goes by: what files of a format are first of all. */
export const kindOfFormat = (format: string | null): KindId => cardOf(format)?.kinds[0] ?? 'bytes';
