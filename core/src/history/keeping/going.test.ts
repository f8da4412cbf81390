import { fates, type HeldSince, type KeptVersion } from './going.ts';
import { KEEP_ALL, faultInSteps, sayRule, type KeepingRule, type KeepingStep } from './rule.ts';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** A Monday, at midnight. */
const START = Date.UTC(2027, 2, 1);

const version = (number: number, at: number, more: Partial<KeptVersion> = {}): KeptVersion => ({
  id: `v${number}`,
  line: 'main',
  number,
  kind: 'autosave',
  at: START + at,
  person: 'ines',
  set: `set ${number}`,
  together: 1,
  title: null,
  holds: [],
  ...more,
});
const autosaves = (...steps: readonly KeepingStep[]): KeepingRule => ({ ...KEEP_ALL, autosave: steps });
/** With the sizes of their sets, where they are all that there is. */
const counted = (versions: readonly KeptVersion[]): KeptVersion[] => {
  const sets = Map.groupBy(versions, ({ set }) => set);
  return versions.map((one) => ({ ...one, together: sets.get(one.set)?.length ?? 0 }));
};
/** Days after the start, rounded to an hour's third decimal; null for what stays. */
const days = (rule: KeepingRule, ...versions: readonly KeptVersion[]): (number | null)[] => {
  const found = fates([{ rule, versions: counted(versions) }]);
  return versions.map(({ id }) => {
    const goes = found.get(id)?.goes ?? null;
    return goes === null ? null : Number(((goes - START) / DAY).toFixed(3));
  });
};
const holdsOf = (versions: readonly KeptVersion[], id: string): readonly string[] =>
  fates([{ rule: autosaves(), versions }]).get(id)?.holds ?? [];

test('where nothing is said everything stays', () => {
  expect(days(KEEP_ALL, version(1, 0), version(2, HOUR), version(3, 400 * DAY))).toEqual([null, null, null]);
});

test('all for a day, then the last of each sitting for 30 days, then none', () => {
  const rule = autosaves({ one: 'version', days: 1 }, { one: 'sitting', days: 30 });
  const first = [version(1, 0, { set: 'morning' }), version(2, HOUR, { set: 'morning' })];
  const later = [version(3, 6 * HOUR, { set: 'evening' }), version(4, 40 * DAY)];
  // v3 was the newest until v4 came.
  expect(days(rule, ...first, ...later)).toEqual([1, 30.042, 40, null]);
});

test('what a sitting is, is what the project says', () => {
  const rule = autosaves({ one: 'sitting', days: null });
  const versions = [version(1, 0), version(2, 0.3 * HOUR), version(3, 0.6 * HOUR), version(4, 3 * HOUR)];
  const staying = (minutes: number): string[] => {
    const found = fates([{ rule, versions, pause: minutes * 60_000 }]);
    return versions.map(({ id }) => id).filter((id) => found.get(id)?.goes === null);
  };
  expect(staying(30)).toEqual(['v3', 'v4']);
  expect(staying(15)).toEqual(['v1', 'v2', 'v3', 'v4']);
});

test('one an hour, then one a day, then one a week: the last of each stays', () => {
  const rule: KeepingRule = {
    ...KEEP_ALL,
    backup: [
      { one: 'hour', days: 2 },
      { one: 'day', days: 30 },
      { one: 'week', days: null },
    ],
  };
  const at = [0, 0.5 * HOUR, 3 * HOUR, DAY, 2 * DAY, 9 * DAY];
  const backups = at.map((moment, k) => version(k + 1, moment, { kind: 'backup' }));
  // v1 goes when v2 is made in the same hour; v2 when the day has a later one and is two days old; v3 and v4 to the week's last.
  expect(days(rule, ...backups)).toEqual([0.021, 2.021, 30.125, 31, null, null]);
});

test('what was swept already changes nothing for what is left', () => {
  const rule = autosaves({ one: 'hour', days: 1 }, { one: 'day', days: 10 }, { one: 'month', days: 400 });
  const versions = Array.from({ length: 300 }, (_, k) => version(k + 1, k * 5 * HOUR));
  const before = fates([{ rule, versions }]);
  for (const now of [1, 3, 20, 70]) {
    const left = versions.filter(({ id }) => (before.get(id)?.goes ?? Infinity) > START + now * DAY);
    const after = fates([{ rule, versions: left }]);
    for (const { id } of left) expect([id, after.get(id)]).toEqual([id, before.get(id)]);
  }
});

const since = (hold: HeldSince['hold']): HeldSince[] => [{ hold, since: START }];

test('whatever a rule says, what something stands on stays, and why is said', () => {
  const held = (['keeper', 'commented', 'branched from', 'gone on from', 'referred to', 'at work'] as const).map(
    (hold, k) => version(k + 1, k * DAY, { holds: since(hold) }),
  );
  const versions = [...held, version(7, 7 * DAY), version(8, 8 * DAY)];
  expect(days(autosaves(), ...versions)).toEqual([null, null, null, null, null, null, 8, null]);
  expect(versions.map(({ id }) => holdsOf(versions, id))).toEqual([
    ...[['keeper'], ['commented'], ['branched from'], ['gone on from'], ['referred to'], ['at work']],
    ...[[], ['newest']],
  ]);
});

test('the newest of every line stays, and other lines are thinned by themselves', () => {
  const aside = { line: 'saves of Tobias' };
  const versions = [version(1, 0), version(2, DAY), version(3, 2 * DAY, { ...aside, id: 'a' })];
  expect(days(autosaves(), ...versions)).toEqual([1, null, null]);
});

test('what was checked in together with other files goes with all of it, or stays', () => {
  const rule: KeepingRule = { ...KEEP_ALL, 'check-in': [{ one: 'version', days: 10 }] };
  const checkIn = (id: string, number: number, at: number, set: string, holds: HeldSince[] = []): KeptVersion =>
    version(number, at, { id, kind: 'check-in', set, holds });
  const plan = [checkIn('p1', 1, 0, 'first'), checkIn('p2', 2, DAY, 'second'), checkIn('p3', 3, 2 * DAY, 'p')];
  const sign = [
    checkIn('s1', 1, 0, 'first', since('commented')),
    checkIn('s2', 2, 5 * DAY, 'second'),
    checkIn('s3', 3, 6 * DAY, 's'),
  ];
  const all = counted([...plan, ...sign]);
  const found = fates([
    { rule, versions: all.slice(0, plan.length) },
    { rule, versions: all.slice(plan.length) },
  ]);
  expect(found.get('p1')).toEqual({ goes: null, holds: ['together'] });
  // Of the plan alone it is not known what became of the sign.
  expect(fates([{ rule, versions: all.slice(0, plan.length) }]).get('p2')).toEqual({ goes: null, holds: ['together'] });
  expect([found.get('p2')?.goes, found.get('s2')?.goes]).toEqual([START + 15 * DAY, START + 15 * DAY]);
});

test('looked at from later on, a hold counts only from when it began', () => {
  const late: HeldSince[] = [{ hold: 'commented', since: START + 20 * DAY }];
  const versions = [version(1, 0, { holds: late }), version(2, DAY)];
  const files = [{ rule: autosaves({ one: 'version', days: 3 }), versions }];
  expect(fates(files).get('v1')?.goes).toBeNull();
  expect(fates(files, { inThePast: true }).get('v1')?.goes).toBe(START + 3 * DAY);
});

test('rules read as sentences, and steps that cannot follow one another are told', () => {
  const rule = autosaves({ one: 'version', days: 1 }, { one: 'sitting', days: 30 });
  expect(sayRule({ ...rule, backup: [] })).toBe(
    'Check-ins: all for ever. Autosaves: all until a day old, then one a sitting until 30 days old, then none. Backups: none.',
  );
  expect(faultInSteps(rule.autosave)).toBeUndefined();
  expect(faultInSteps([...rule.autosave].reverse())).toMatch(/reach further back/);
  expect(faultInSteps([...KEEP_ALL.autosave, ...rule.autosave])).toMatch(/for ever/);
});
