/** Keeping rules: what is kept how long, as steps that read as one sentence for each kind of version. */
import { plural } from '../../text/plural.ts';

export const versionKinds = ['check-in', 'autosave', 'backup'] as const;
export type VersionKind = (typeof versionKinds)[number];

/** Of how many one stays: of every single version, of a sitting, of an hour … (days and weeks are those of UTC). */
export const grains = ['version', 'sitting', 'hour', 'day', 'week', 'month'] as const;
export type Grain = (typeof grains)[number];

export interface KeepingStep {
  /** The last version of each of these stays. */
  readonly one: Grain;
  /** Until versions are this old, in days; null: for ever. */
  readonly days: number | null;
}

/** For each kind of version its steps, from young to old. After the last step none stays; no step at all keeps none. */
export type KeepingRule = Readonly<Record<VersionKind, readonly KeepingStep[]>>;

const forEver: readonly KeepingStep[] = [{ one: 'version', days: null }];

/** What holds where nothing is said. */
export const KEEP_ALL: KeepingRule = { 'check-in': forEver, autosave: forEver, backup: forEver };

/** What is wrong with steps, in a sentence; undefined: nothing. */
export function faultInSteps(steps: readonly KeepingStep[]): string | undefined {
  let before = 0;
  for (const [place, { days }] of steps.entries()) {
    const isLast = place === steps.length - 1;
    if (days === null) return isLast ? undefined : 'After a step that holds for ever, no other can follow.';
    if (days <= before) return 'Each step has to reach further back than the one before it.';
    before = days;
  }
  return undefined;
}

const grainWords: Readonly<Record<Grain, string>> = {
  version: 'all',
  sitting: 'one a sitting',
  hour: 'one an hour',
  day: 'one a day',
  week: 'one a week',
  month: 'one a month',
};
export const sayGrain = (grain: Grain): string => grainWords[grain];

const kindWords: Readonly<Record<VersionKind, string>> = {
  'check-in': 'Check-ins',
  autosave: 'Autosaves',
  backup: 'Backups',
};
export const sayVersionKind = (kind: VersionKind): string => kindWords[kind];

/** “all until a day old, then one a sitting until 30 days old, then none” */
export function saySteps(steps: readonly KeepingStep[]): string {
  if (steps.length === 0) return 'none';
  const said = steps.map(
    ({ one, days }) => `${sayGrain(one)} ${days === null ? 'for ever' : `until ${sayAge(days)} old`}`,
  );
  const isEndless = steps.at(-1)?.days === null;
  return (isEndless ? said : [...said, 'none']).join(', then ');
}

export const sayAge = (days: number): string => (days === 1 ? 'a day' : plural(days, 'day'));

/** “Autosaves: all until a day old, then none.” for each kind of version. */
export const sayRule = (rule: KeepingRule): string =>
  versionKinds.map((kind) => `${sayVersionKind(kind)}: ${saySteps(rule[kind])}.`).join(' ');
