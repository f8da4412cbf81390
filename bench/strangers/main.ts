/**
 * npm run bench strangers [saved|mutated|documents] [files] [unseen]: real files of others, saved again by their programs or
 * changed in one place; another renderer is the judge. What is wrong is kept in the cache, worst first.
 */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { randomFrom } from '../../fuzz/mutate.ts';
import { line } from '../measure.ts';
import { cache, sample } from './fetch.ts';
import { differing, lookOf, unequal, type Look } from './judge.ts';
import { mutationsOf } from './mutations.ts';
import { pdfSavers, svgSavers } from './savers.ts';
import { firstSentences, verdictOn, type Said } from './verdict.ts';

const PACKAGES = ['openclipart-svg', 'adwaita-icon-theme', 'tango-icon-theme', 'gnome-colors-common'];
const FILES = 80;
/** Pixels of 600 × 600 that a renderer may draw otherwise for numbers that were rounded, and those that surely show. */
const SAME = 12;
const SHOWS = 30;
/** A comparison that takes longer is told, milliseconds. */
const SLOW = 2000;

interface Wrong {
  readonly how: string;
  readonly file: string;
  readonly a: Buffer;
  readonly b: Buffer;
  readonly said: string;
  /** The larger, the worse. */
  readonly badness: number;
}

function keep(part: string, wrong: readonly Wrong[], ending = 'svg'): void {
  const folder = join(cache, 'wrong', part);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const worstFirst = [...wrong].sort((p, q) => q.badness - p.badness);
  const list = worstFirst.map(({ how, file, a, b, said }, k) => {
    writeFileSync(join(folder, `${k}-a.${ending}`), a);
    writeFileSync(join(folder, `${k}-b.${ending}`), b);
    return `${k} ${how} ${file}: ${said}`;
  });
  writeFileSync(join(folder, 'list.txt'), `${list.join('\n')}\n`);
  if (list.length > 0)
    console.log(`  ${list.length} kept in ${folder}; the worst:\n  ${list.slice(0, 5).join('\n  ')}`);
}

const orNothing = async <T>(work: () => T | Promise<T>): Promise<T | undefined> => {
  try {
    return await work();
  } catch {
    return undefined;
  }
};

const share = (part: number, whole: number): string => (whole ? `${((100 * part) / whole).toFixed(1)} %` : 'none');

/** Saved again and drawn the same: nothing changed, or it is said that it was only written otherwise. */
async function saved(files: readonly string[]): Promise<void> {
  const wrong: Wrong[] = [];
  const slow: string[] = [];
  for (const [how, save] of Object.entries(svgSavers())) {
    const right = { same: 0, 'written otherwise': 0, changed: 0 };
    let unlike = 0;
    let refused = 0;
    for (const file of files) {
      const a = readFileSync(file);
      const before = await orNothing(() => lookOf(a));
      const b = await orNothing(() => save(a));
      const after = b && (await orNothing(() => lookOf(b)));
      if (!before || !b || !after) refused += 1;
      else if (differing(before, after) > SAME) unlike += 1;
      else {
        const said = await verdictOn(a, b, 'drawing.svg');
        right[said.verdict] += 1;
        if (said.milliseconds > SLOW) slow.push(`${how} ${file}: ${Math.round(said.milliseconds)} ms`);
        if (said.verdict === 'changed')
          wrong.push({ how, file, a, b, said: firstSentences(said), badness: said.comparison.causes.length });
      }
    }
    const all = right.same + right['written otherwise'] + right.changed;
    const beside = `${right.same} the same, ${right['written otherwise']} written otherwise, ${right.changed} changed; drawn otherwise ${unlike}, not saved ${refused}`;
    line(`saved again by ${how}: recognised`, share(all - right.changed, all), `goal ≥ 97 %; ${beside}`);
  }
  for (const one of slow) console.log(`  slow: ${one}`);
  keep('saved', wrong);
}

/** Another look in one place: never “no change”, nor “drawn the same”. */
async function mutated(files: readonly string[]): Promise<void> {
  const wrong: Wrong[] = [];
  const tally = new Map<string, { missed: number; all: number }>();
  let invisible = 0;
  for (const [k, file] of files.entries()) {
    const a = readFileSync(file);
    const before = await orNothing(() => lookOf(a));
    if (!before) continue;
    for (const { what, text } of mutationsOf(a.toString(), randomFrom(k + 1))) {
      const b = Buffer.from(text);
      const after = await orNothing(() => lookOf(b));
      if (!after || !isOther(before, after)) {
        invisible += 1;
        continue;
      }
      const said = await verdictOn(a, b, 'drawing.svg');
      const counted = tally.get(what) ?? { missed: 0, all: 0 };
      tally.set(what, counted);
      counted.all += 1;
      if (said.verdict === 'changed') continue;
      counted.missed += 1;
      wrong.push({ how: what, file, a, b, said: missed(said), badness: Math.min(unequal(before, after), 1e6) });
    }
  }
  const all = [...tally.values()].reduce((sum, one) => sum + one.all, 0);
  const byName = [...tally]
    .filter(([, one]) => one.missed > 0)
    .map(([name, one]) => `${name} ${one.missed}/${one.all}`);
  line(
    'visible single changes that were not seen',
    share(wrong.length, all),
    `goal 0; ${wrong.length} of ${all}${byName.length ? ` (${byName.join(', ')})` : ''}; ${invisible} did not show`,
  );
  keep('mutated', wrong);
}

const isOther = (before: Look, after: Look): boolean => differing(before, after) > SHOWS;
const missed = (said: Said): string => (said.verdict === 'same' ? 'No change' : firstSentences(said));

const DOCUMENTS = [
  'cups-filters',
  'pari-doc',
  'octave-doc',
  'asymptote-doc',
  'gretl-doc',
  'grace',
  'nauty-doc',
  'texlive-latex-recommended-doc',
];

/** Documents saved again: the same, or only written otherwise. */
async function documents(files: readonly string[]): Promise<void> {
  const wrong: Wrong[] = [];
  for (const [how, save] of Object.entries(pdfSavers())) {
    const right = { same: 0, 'written otherwise': 0, changed: 0 };
    let refused = 0;
    for (const file of files) {
      const a = readFileSync(file);
      const b = await orNothing(() => save(a));
      if (!b) {
        refused += 1;
        continue;
      }
      const said = await verdictOn(a, b, 'document.pdf');
      right[said.verdict] += 1;
      if (said.verdict === 'changed')
        wrong.push({ how, file, a, b, said: firstSentences(said), badness: said.comparison.causes.length });
    }
    const all = right.same + right['written otherwise'] + right.changed;
    const beside = `${right.same} the same, ${right['written otherwise']} written otherwise, ${right.changed} changed; not saved ${refused}`;
    line(`documents saved again by ${how}: recognised`, share(all - right.changed, all), `goal ≥ 95 %; ${beside}`);
  }
  keep('documents', wrong, 'pdf');
}

export async function benchStrangers([part = '', count = '', which = '']: readonly string[]): Promise<void> {
  const unseen = which === 'unseen';
  if (part === 'documents') {
    await documents(sample(DOCUMENTS, '.pdf', Number(count) || 20, { unseen, bytes: 400_000 }));
    return;
  }
  const files = sample(PACKAGES, '.svg', Number(count) || FILES, { unseen });
  line('real drawings of others', String(files.length), unseen ? 'not looked at before' : '');
  if (part !== 'mutated') await saved(files);
  if (part !== 'saved') await mutated(files);
}
