/** Every kind of background work. */
import type { JobKind } from './job.ts';
import { anchor } from './kinds/anchor.ts';
import { collect } from './kinds/collect.ts';
import { drawn } from './kinds/drawn.ts';
import { look } from './kinds/look.ts';
import { pack } from './kinds/pack.ts';
import { scrub } from './kinds/scrub.ts';
import { summary } from './kinds/summary.ts';
import { sweep } from './kinds/sweep.ts';
import { tally } from './kinds/tally.ts';
import { watch } from './kinds/watch.ts';

const all: readonly JobKind[] = [look, summary, pack, tally, collect, scrub, anchor, drawn, sweep, watch];

export const jobKinds: ReadonlyMap<string, JobKind> = new Map(all.map((kind) => [kind.kind, kind]));

/** Throws for a kind that nobody carries out. */
export function jobKind(kind: string): JobKind {
  const found = jobKinds.get(kind);
  if (!found) throw new Error(`there is no background work called ${kind}`);
  return found;
}
