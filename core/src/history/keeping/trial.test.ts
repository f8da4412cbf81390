import type { KeptVersion } from './going.ts';
import { KEEP_ALL, type KeepingRule } from './rule.ts';
import { proposeRule, tryOnPast, type PastFile, type PastVersion, type WentBack } from './trial.ts';

const DAY = 86_400_000;
const START = Date.UTC(2027, 2, 1);
const NOW = START + 100 * DAY;

const saved = (number: number, day: number, more: Partial<KeptVersion> = {}): PastVersion => ({
  ...{ id: `v${number}`, line: 'main', number, kind: 'autosave', at: START + day * DAY, person: 'ines' },
  ...{ set: `set ${number}`, together: 1, title: null, holds: [], content: `content ${number}`, bytes: 1000 },
  ...more,
});
const daily: KeepingRule = { ...KEEP_ALL, autosave: [{ one: 'version', days: 10 }] };
const file = (rule: KeepingRule, ...versions: readonly PastVersion[]): PastFile => ({ rule, versions });
const back = (version: string, day: number): WentBack => ({ version, at: START + day * DAY });

test('it is told of each time somebody went back whether the version would still have been there', () => {
  const past = file(daily, saved(1, 0), saved(2, 1), saved(3, 2));
  const { gone, missed, wentBack } = tryOnPast([past], [back('v1', 9), back('v1', 12), back('v3', 90)], NOW);
  expect([...gone.keys()]).toEqual(['v1', 'v2']);
  expect(wentBack).toBe(3);
  expect(missed).toEqual([{ back: back('v1', 12), gone: START + 10 * DAY }]);
});

test('what somebody went back to is held from then on only', () => {
  const held = saved(1, 0, { holds: [{ hold: 'gone on from', since: START + 5 * DAY }] });
  expect(tryOnPast([file(daily, held, saved(2, 1))], [back('v1', 5)], NOW).missed).toEqual([]);
  expect(tryOnPast([file(daily, held, saved(2, 1))], [], NOW).gone.has('v1')).toBe(false);
});

test('bytes over time, with the rule and without: a content that a later version has too is not freed', () => {
  const same = { content: 'the same', bytes: 400 };
  const { days } = tryOnPast(
    [file(daily, { ...saved(1, 0), ...same }, saved(2, 1), { ...saved(3, 2), ...same })],
    [],
    NOW,
  );
  const last = days.at(-1);
  expect(last).toEqual({ at: NOW, without: 1400, withRule: 400 });
  expect(days.length).toBeLessThanOrEqual(122);
  expect(days[0]).toMatchObject({ without: 0, withRule: 0 });
});

test('the rule that is proposed keeps as little as it can without having missed any', () => {
  const versions = Array.from({ length: 90 }, (_, k) => saved(k + 1, k));
  const light = proposeRule([file(KEEP_ALL, ...versions)], [back('v30', 31)], NOW);
  const long = proposeRule([file(KEEP_ALL, ...versions)], [back('v10', 80)], NOW);
  expect(light.autosave.at(-1)?.days).toBe(7);
  expect(long.autosave.at(-1)?.days).toBe(90);
  expect(light['check-in']).toEqual(KEEP_ALL['check-in']);
  expect(tryOnPast([file(long, ...versions)], [back('v10', 80)], NOW).missed).toEqual([]);
});

test('of other files nothing is told, but what was checked in together goes only with them', () => {
  const rule: KeepingRule = { ...KEEP_ALL, 'check-in': [{ one: 'version', days: 10 }] };
  const checkIn = (id: string, number: number, more: Partial<KeptVersion> = {}): PastVersion =>
    saved(number, number, { id, line: id.slice(0, 1), kind: 'check-in', ...more });
  const shared = { set: 'shared', together: 2 };
  const plan = file(rule, checkIn('p1', 1, shared), checkIn('p2', 2), checkIn('p3', 3));
  const others = (theirs: KeepingRule): PastFile[] => [file(theirs, checkIn('s1', 1, shared), checkIn('s2', 9))];
  expect([...tryOnPast([plan], [], NOW, others(KEEP_ALL)).gone.keys()]).toEqual(['p2']);
  const { gone, versions } = tryOnPast([plan], [], NOW, others(rule));
  expect([[...gone.keys()], versions]).toEqual([['p1', 'p2'], 3]);
});

test('a past without versions is told as such', () => {
  expect(tryOnPast([file(daily)], [], NOW)).toMatchObject({ versions: 0, wentBack: 0, days: [] });
});
