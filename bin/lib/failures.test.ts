import { outcomeOfInterface, outcomeOfUnits, sayFailures, type InterfaceReport, type UnitReport } from './failures.ts';

describe('what failed in a run', () => {
  test('tests of units that failed are told with their words, and so are files that could not be loaded', () => {
    const report: UnitReport = {
      numPassedTests: 7,
      testResults: [
        {
          name: 'core/src/a.test.ts',
          status: 'failed',
          message: 'all of it',
          assertionResults: [
            { fullName: 'a line is drawn', status: 'passed', failureMessages: [] },
            { fullName: 'a circle is round', status: 'failed', failureMessages: ['\u001b[31mexpected 1\u001b[39m'] },
          ],
        },
        { name: 'core/src/b.test.ts', status: 'failed', message: 'no such module', assertionResults: [] },
      ],
    };
    expect(outcomeOfUnits(report)).toEqual({
      passed: 7,
      failed: 2,
      failures: [
        { test: 'core/src/a.test.ts: a circle is round', why: 'expected 1' },
        { test: 'core/src/b.test.ts', why: 'no such module' },
      ],
    });
  });

  test('a test of the interface that failed is found however deep it stands, and one that passed at last counts', () => {
    const spec = (title: string, ok: boolean, message: string): InterfaceReport['suites'][number]['specs'][number] => ({
      file: 'rail.spec.ts',
      title,
      ok,
      tests: [{ results: [{ errors: [{ message }] }] }],
    });
    const report: InterfaceReport = {
      stats: { expected: 3, unexpected: 1, flaky: 1 },
      suites: [{ specs: [spec('steps', true, '')], suites: [{ specs: [spec('plays', false, 'no picture')] }] }],
    };
    const outcome = outcomeOfInterface(report);
    expect([outcome.passed, outcome.failed]).toEqual([3, 2]);
    expect(sayFailures(outcome.failures)).toBe('FAILED rail.spec.ts: plays\n    no picture');
  });
});
