/** What failed in a run of tests, out of the reports that the runners leave. */
import { stripVTControlCharacters } from 'node:util';

export interface Failure {
  readonly test: string;
  /** The runner's own words, without colours. */
  readonly why: string;
}

export interface Outcome {
  readonly passed: number;
  readonly failed: number;
  readonly failures: readonly Failure[];
}

/** The part of Jest's report that is read here. */
export interface UnitReport {
  readonly numPassedTests: number;
  readonly testResults: readonly {
    readonly name: string;
    readonly status: string;
    readonly message: string;
    readonly assertionResults: readonly {
      readonly fullName: string;
      readonly status: string;
      readonly failureMessages: readonly string[];
    }[];
  }[];
}

/** Tests that failed; a file that could not even be loaded counts as one. */
export function outcomeOfUnits({ numPassedTests, testResults }: UnitReport): Outcome {
  const failures = testResults.flatMap(({ name, status, message, assertionResults }) => {
    const failed = assertionResults.filter((test) => test.status === 'failed');
    const couldNotRun = status === 'failed' && failed.length === 0;
    if (couldNotRun) return [failure(name, message)];
    return failed.map(({ fullName, failureMessages }) => failure(`${name}: ${fullName}`, failureMessages.join('\n')));
  });
  return { passed: numPassedTests, failed: failures.length, failures };
}

interface InterfaceSuite {
  readonly suites?: readonly InterfaceSuite[];
  readonly specs: readonly {
    readonly file: string;
    readonly title: string;
    readonly ok: boolean;
    readonly tests: readonly {
      readonly results: readonly { readonly errors: readonly { readonly message?: string }[] }[];
    }[];
  }[];
}

/** The part of Playwright's report that is read here. */
export interface InterfaceReport {
  readonly stats: { readonly expected: number; readonly unexpected: number; readonly flaky: number };
  readonly suites: readonly InterfaceSuite[];
}

/** A test that passed only when it was tried again has failed, too. */
export function outcomeOfInterface({ stats, suites }: InterfaceReport): Outcome {
  return {
    passed: stats.expected,
    failed: stats.unexpected + stats.flaky,
    failures: suites.flatMap(failuresOf),
  };
}

const failuresOf = ({ suites = [], specs }: InterfaceSuite): Failure[] => [
  ...specs
    .filter(({ ok }) => !ok)
    .map(({ file, title, tests }) => failure(`${file}: ${title}`, messagesOf(tests).join('\n'))),
  ...suites.flatMap(failuresOf),
];

const messagesOf = (tests: InterfaceSuite['specs'][number]['tests']): string[] =>
  tests.flatMap(({ results }) => results.flatMap(({ errors }) => errors.map(({ message = '' }) => message)));

/** Longer messages are cut: what a test compared may be a whole page. */
const MOST_LETTERS = 2_000;

const failure = (test: string, why: string): Failure => ({
  test,
  why: stripVTControlCharacters(why).trim().slice(0, MOST_LETTERS),
});

/** As text, to be read at the end of a long output. */
export const sayFailures = (failures: readonly Failure[]): string =>
  failures.map(({ test, why }) => `FAILED ${test}\n${why.replaceAll(/^/gm, '    ')}`).join('\n');
