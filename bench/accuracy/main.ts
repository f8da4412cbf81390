/** How often parts and causes are found, against known edits, and against two simple ways to pair parts. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { assemble, compareDesigns, type Design } from '@ovrel/core';
import { drawFraming, framings } from '../../demo/drawings/framing.ts';
import { drawPlan, plans } from '../../demo/drawings/plan.ts';
import { boards, drawBoard } from '../../demo/drawings/signs.ts';
import { root } from '../../bin/lib/prepare.mjs';
import { dxfDrawing, read, svgDrawing, truth, type Drawing } from './drawing.ts';
import { plantDrawing } from './plant.ts';
import { mixes, randomFrom, scripts, withoutIds } from './scripts.ts';

type Pairs = ReadonlySet<string>;

/** Pairs parts with the same key. */
function byKey(a: Design, b: Design): Pairs {
  const at = new Map(b.parts.flatMap((p, j) => (p.key === undefined ? [] : [[p.key, j]])));
  return new Set(a.parts.flatMap((p, i) => (p.key !== undefined && at.has(p.key) ? [`${i} ${at.get(p.key)}`] : [])));
}

/** Pairs parts with exactly the same content, in order. */
function byContent(a: Design, b: Design): Pairs {
  const print = (d: Design, p: Design['parts'][number]): string => {
    const { points, starts } = d.geometry;
    return JSON.stringify([
      p.kind,
      p.category,
      p.props,
      p.transform,
      p.lettering,
      p.definition === undefined ? null : d.definitions[p.definition]?.fingerprint,
      [...points.subarray(2 * (starts[p.firstSubpath] ?? 0), 2 * (starts[p.firstSubpath + p.subpaths] ?? 0))],
    ]);
  };
  const waiting = new Map<string, number[]>();
  b.parts.forEach((p, j) => {
    const key = print(b, p);
    waiting.set(key, [...(waiting.get(key) ?? []), j]);
  });
  return new Set(
    a.parts.flatMap((p, i) => {
      const j = waiting.get(print(a, p))?.shift();
      return j === undefined ? [] : [`${i} ${j}`];
    }),
  );
}

const ours = (toB: Int32Array): Pairs => new Set([...toB].flatMap((j, i) => (j < 0 ? [] : [`${i} ${j}`])));

class Score {
  right = 0;
  said = 0;
  true_ = 0;

  add(found: Pairs, { pairs, freeA, freeB }: ReturnType<typeof truth>): void {
    for (const p of found) {
      const [i = -1, j = -1] = p.split(' ').map(Number);
      if (freeA.has(i) || freeB.has(j)) continue;
      this.said++;
      if (pairs.has(p)) this.right++;
    }
    this.true_ += pairs.size;
  }

  get precision(): number {
    return this.said ? this.right / this.said : 1;
  }

  get recall(): number {
    return this.true_ ? this.right / this.true_ : 1;
  }
}

interface Row {
  runs: number;
  readonly pairs: Score;
  readonly keys: Score;
  readonly content: Score;
  first: number;
  most: number;
}

const drawings = (): Drawing[] => {
  const svgOf = (name: string, bytes: Uint8Array): Drawing => svgDrawing(name, bytes);
  const text = (s: string): Uint8Array => new TextEncoder().encode(s);
  return [
    dxfDrawing('deck framing', drawFraming((framings[0] as (typeof framings)[number]).framing)),
    dxfDrawing('deck framing P03', drawFraming((framings[4] as (typeof framings)[number]).framing)),
    dxfDrawing('plant, 3,000 entities', plantDrawing(3000)),
    svgOf('landing plan', text(drawPlan(plans[2] as (typeof plans)[number]))),
    svgOf('signs', text(drawBoard(boards.approved))),
    ...['lighthouse', 'drawbridge', 'sailboat-labels'].map((n) =>
      svgOf(n, readFileSync(join(root, `demo/real/${n}.svg`))),
    ),
  ];
};

export function measure(tell?: (line: string) => void): Map<string, Row> {
  const rows = new Map<string, Row>();
  for (const drawing of drawings()) {
    const designA = read(drawing);
    for (const script of scripts.filter((s) => s.format === drawing.format)) {
      for (const share of [0.01, 0.05, 0.15, 0.3]) {
        for (const ids of ['kept', 'gone'] as const) {
          const random = randomFrom(Math.round(share * 1000) * 7 + drawing.name.length * 131 + script.name.length);
          const edited = script.edit(drawing, share, random);
          if (!edited) continue;
          const b = ids === 'kept' ? edited : withoutIds(edited, random);
          const designB = read(b);
          const known = truth(drawing, designA, b, designB);
          const result = compareDesigns(designA, designB);
          const key = `${script.format} ${script.name}, ids ${ids}`;
          const row = rows.get(key) ?? {
            runs: 0,
            pairs: new Score(),
            keys: new Score(),
            content: new Score(),
            first: 0,
            most: 0,
          };
          rows.set(key, row);
          row.runs++;
          row.pairs.add(ours(result.pairing.toB), known);
          row.keys.add(byKey(designA, designB), known);
          row.content.add(byContent(designA, designB), known);
          // Numbering is a matter of the second half of the runs, not of the edit.
          const causes = assemble(result).causes.filter((c) => !(ids === 'gone' && c.kind === 'renumbered'));
          const right = script.causes.length ? script.causes.includes(causes[0]?.kind ?? '') : causes.length === 0;
          if (right) row.first++;
          else
            tell?.(
              `    ${drawing.name}: ${script.name} ${share} ids ${ids}: ${
                causes
                  .slice(0, 4)
                  .map((c) => `${c.kind}: ${c.sentence}`)
                  .join(' | ') || 'no cause'
              }`,
            );
          row.most = Math.max(row.most, causes.length);
          if (tell && causes.length > 3)
            tell(
              `    ${drawing.name}: ${script.name} ${share} ids ${ids}: ${causes.length} causes: ${causes
                .slice(0, 6)
                .map((c) => c.sentence)
                .join(' | ')}`,
            );
        }
      }
    }
  }
  return rows;
}

/** Several edits at once: how many of their causes are found, and how many causes are of no edit. */
function measureMixes(): void {
  const dxf = scripts.filter((s) => s.format === 'dxf');
  for (const ids of ['kept', 'gone'] as const) {
    const pairs = new Score();
    let runs = 0;
    let expected = 0;
    let found = 0;
    let said = 0;
    let right = 0;
    for (const drawing of drawings().filter((d) => d.format === 'dxf')) {
      const designA = read(drawing);
      for (const names of mixes) {
        for (const share of [0.01, 0.05, 0.15]) {
          const random = randomFrom(Math.round(share * 1000) + names.length * 71 + drawing.name.length);
          const steps = names.map((n) => dxf.find((s) => s.name === n));
          const edited = steps.reduce<Drawing | undefined>((d, s) => d && s?.edit(d, share, random), drawing);
          if (!edited) continue;
          const b = ids === 'kept' ? edited : withoutIds(edited, random);
          const designB = read(b);
          const known = truth(drawing, designA, b, designB);
          const result = compareDesigns(designA, designB);
          pairs.add(ours(result.pairing.toB), known);
          runs++;
          const kinds = result.causes.map((c) => c.kind as string).filter((k) => k !== 'renumbered');
          const wanted = steps.map((s) => s?.causes ?? []);
          expected += wanted.length;
          found += wanted.filter((w) => w.some((k) => kinds.includes(k))).length;
          said += kinds.length;
          right += kinds.filter((k) => wanted.some((w) => w.includes(k))).length;
        }
      }
    }
    console.log(
      `three edits at once, ids ${ids}: ${runs} runs; pairs: precision ${pairs.precision.toFixed(3)}, recall ${pairs.recall.toFixed(3)}; causes: ${((100 * found) / expected).toFixed(1)} % of the edits named, ${((100 * right) / said).toFixed(1)} % of the causes are of an edit, ${(said / runs).toFixed(1)} causes a run`,
    );
  }
}

export function benchAccuracy(): void {
  const rows = measure();
  const three = (n: number): string => n.toFixed(3).padStart(6);
  console.log(
    `${'edit'.padEnd(46)} runs  pairs: precision recall | by id | by content | first cause right, most causes`,
  );
  const total = { kept: [0, 0, 0, 0, 0], gone: [0, 0, 0, 0, 0] } as Record<
    'kept' | 'gone',
    [number, number, number, number, number]
  >;
  for (const [name, r] of rows) {
    console.log(
      `${name.padEnd(46)} ${String(r.runs).padStart(4)}  ${three(r.pairs.precision)} ${three(r.pairs.recall)} | ${three(r.keys.precision)} ${three(r.keys.recall)} | ${three(r.content.precision)} ${three(r.content.recall)} | ${`${r.first}/${r.runs}`.padStart(6)} ${r.most}`,
    );
    const t = total[name.endsWith('kept') ? 'kept' : 'gone'];
    t[0] += r.pairs.right;
    t[1] += r.pairs.said;
    t[2] += r.pairs.true_;
    t[3] += r.first;
    t[4] += r.runs;
  }
  for (const [ids, goal] of [
    ['kept', 0.995],
    ['gone', 0.98],
  ] as const) {
    const [right, said, all, first, runs] = total[ids];
    console.log(
      `ids ${ids}: precision ${three(right / said)}, recall ${three(right / all)} (goal ${goal}); first cause right in ${((100 * first) / runs).toFixed(1)} % of ${runs} (goal 95)`,
    );
  }
  measureMixes();
}
