/** What somebody makes of a plan before it is carried out: copies left out, names changed. Pure. */
import type { IntakePlan, PlannedFile, PlannedMember } from '@ovrel/core';
import type { PlannedFile as SentFile } from '../../contract/intake.ts';

/** Without these copies; what came from one that is left out came from where that came from. */
export function without(file: PlannedFile, left: ReadonlySet<string>): readonly PlannedMember[] {
  const byPath = new Map(file.members.map((member) => [member.path, member]));
  const parentOf = (path: string | null): string | null => {
    let at = path;
    while (at !== null && left.has(at)) at = byPath.get(at)?.parent ?? null;
    return at;
  };
  const kept = file.members.filter(({ path }) => !left.has(path));
  const [first] = kept;
  // Where the first is left out, the next takes its place, and what else began with it goes on from that.
  return kept.map((member) => {
    const parent = parentOf(member.parent);
    if (member === first) return { ...member, parent: null, line: 0 };
    return { ...member, parent: parent ?? (first as PlannedMember).path };
  });
}

/** As the server takes it, with the paths of the copies in the order in which they are sent. */
export function toSend(
  plan: IntakePlan,
  left: ReadonlySet<string>,
  names: ReadonlyMap<string, string>,
  timeOf: (path: string) => number | undefined,
): { readonly files: SentFile[]; readonly paths: string[] } {
  const files: SentFile[] = [];
  const paths: string[] = [];
  for (const file of plan.files) {
    const members = without(file, left);
    if (members.length === 0) continue;
    const place = new Map(members.map(({ path }, k) => [path, k]));
    paths.push(...members.map(({ path }) => path));
    files.push({
      name: names.get(file.name) ?? file.name,
      folderId: null,
      copies: members.map(({ path, line, parent }) => {
        const at = timeOf(path);
        return {
          path,
          line,
          parent: parent === null ? null : (place.get(parent) ?? 0),
          at: at === undefined ? null : new Date(at).toISOString(),
        };
      }),
    });
  }
  return { files, paths };
}
