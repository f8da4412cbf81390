/**
 * Random histories, rules and holds, swept at random moments: nothing goes that may not, and what a rule promises to
 * keep is there. The judge knows only the sentences of a rule, not how they are carried out.
 */
import { fates, type HeldSince, type KeptVersion } from './going.ts';
import { grains, versionKinds, type Grain, type KeepingRule, type KeepingStep } from './rule.ts';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const RUNS = 300;
const STEPS = 400;

/** Numbers from 0 up to 1, always the same for one seed. */
function chance(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

interface World {
  readonly rule: KeepingRule;
  now: number;
  versions: KeptVersion[];
  /** All that ever were, by id. */
  readonly ever: Map<string, KeptVersion>;
}

const pick = <T>(from: readonly T[], random: () => number): T => from[Math.floor(random() * from.length)] as T;

function randomSteps(random: () => number): KeepingStep[] {
  const steps: KeepingStep[] = [];
  let days = 0;
  for (let n = Math.floor(random() * 4); n > 0; n--) {
    days += 1 + Math.floor(random() * 20);
    steps.push({ one: pick(grains, random), days: n === 1 && random() < 0.4 ? null : days });
  }
  return steps;
}

const holdKinds = ['keeper', 'commented', 'branched from', 'gone on from', 'referred to', 'at work'] as const;

function save(world: World, random: () => number): void {
  const line = random() < 0.8 ? 'main' : 'aside';
  const before = world.versions.filter((version) => version.line === line).at(-1);
  const number = (before?.number ?? 0) + 1;
  const kind = pick(versionKinds, random);
  const isSameSitting = kind === 'autosave' && before?.kind === 'autosave' && world.now - before.at <= HOUR / 2;
  const made: KeptVersion = {
    id: `${line} ${number}`,
    line,
    number,
    kind,
    at: world.now,
    person: 'ines',
    set: isSameSitting ? before.set : `set of ${line} ${number}`,
    together: 1,
    title: null,
    holds: [],
  };
  world.versions.push(made);
  world.ever.set(made.id, made);
}

function hold(world: World, random: () => number): void {
  if (world.versions.length === 0) return;
  const at = Math.floor(random() * world.versions.length);
  const version = world.versions[at] as KeptVersion;
  const holds: HeldSince[] = random() < 0.3 ? [] : [{ hold: pick(holdKinds, random), since: world.now }];
  const changed = { ...version, holds };
  world.versions[at] = changed;
  world.ever.set(version.id, changed);
}

function isInSamePeriod(grain: Grain, a: KeptVersion, b: KeptVersion): boolean {
  if (grain === 'version') return a.id === b.id;
  if (grain === 'sitting') return a.set === b.set;
  const words = (version: KeptVersion): string => {
    const date = new Date(version.at);
    if (grain === 'hour') return date.toISOString().slice(0, 13);
    if (grain === 'day') return date.toISOString().slice(0, 10);
    if (grain === 'month') return date.toISOString().slice(0, 7);
    const monday = new Date(version.at - ((date.getUTCDay() + 6) % 7) * DAY);
    return monday.toISOString().slice(0, 10);
  };
  return words(a) === words(b);
}

/** Whether a version may go at a moment, by the sentences of the rule alone. */
function mayGo(world: World, version: KeptVersion): boolean {
  if (version.holds.length > 0) return false;
  const later = [...world.ever.values()].filter(
    (other) => other.line === version.line && other.number > version.number,
  );
  if (later.length === 0) return false;
  const age = world.now - version.at;
  const steps = world.rule[version.kind];
  const step = steps.findIndex(({ days }) => days === null || age < days * DAY);
  const passed = step < 0 ? steps : steps.slice(0, step + 1);
  if (step < 0) return true;
  const ofKind = later.filter((other) => other.kind === version.kind);
  return passed.some(({ one }) => ofKind.some((other) => isInSamePeriod(one, version, other)));
}

function sweep(world: World): number {
  const members = Map.groupBy(world.versions, ({ set }) => set);
  const versions = world.versions.map((version) => ({ ...version, together: members.get(version.set)?.length ?? 0 }));
  const fate = fates([{ rule: world.rule, versions }]);
  const gone = world.versions.filter(({ id }) => (fate.get(id)?.goes ?? Infinity) <= world.now);
  for (const version of gone) if (!mayGo(world, version)) throw new Error(`${version.id} went, and may not`);
  world.versions = world.versions.filter((version) => !gone.includes(version));
  return gone.length;
}

test(`${RUNS * STEPS} random steps: nothing goes that may not, and something goes`, () => {
  let swept = 0;
  let left = 0;
  for (let seed = 1; seed <= RUNS; seed++) {
    const random = chance(seed);
    const rule: KeepingRule = {
      'check-in': randomSteps(random),
      autosave: randomSteps(random),
      backup: randomSteps(random),
    };
    const world: World = { rule, now: Date.UTC(2027, 0, 1), versions: [], ever: new Map() };
    for (let step = 0; step < STEPS; step++) {
      world.now += random() ** 3 * 12 * HOUR;
      const what = random();
      if (what < 0.75) save(world, random);
      else if (what < 0.85) hold(world, random);
      else swept += sweep(world);
    }
    left += world.versions.length;
  }
  expect(swept).toBeGreaterThan(10_000);
  expect(left).toBeGreaterThan(RUNS);
});
