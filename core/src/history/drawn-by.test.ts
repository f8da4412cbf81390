import { designOf } from '../testing.ts';
import { kindOf } from '../kinds/registry.ts';
import type { Step } from '../kinds/kind.ts';
import { drawnFirst, drawnNext, type DrawnBy } from './drawn-by.ts';

const plan = (deck: number, ...more: readonly string[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 99 99"><rect id="deck" x="${deck}" width="9" height="9"/>${more.join('')}</svg>`;
const bollard = '<circle id="bollard" r="3" cx="80" cy="80"/>';
const hut = '<rect id="hut" x="50" y="50" width="7" height="7"/>';

const step = (a: string, b: string): Step => {
  const found = kindOf('drawing').step?.(designOf(a, 'a.svg'), designOf(b, 'a.svg'), {});
  if (!found) throw new Error('drawings can be followed');
  return found;
};

/** Versions v1, v2 … one after the other. */
function along(contents: readonly string[], from?: DrawnBy): DrawnBy {
  const [first = '', ...later] = contents;
  let drawn = from ?? drawnFirst('v1', designOf(first, 'a.svg'));
  let before = first;
  later.forEach((content, k) => {
    const version = { version: `v${k + 1}`, drawn, design: designOf(before, 'a.svg') };
    const now = { version: `v${k + 2}`, design: designOf(content, 'a.svg') };
    drawn = drawnNext(version, step(before, content), now);
    before = content;
  });
  return drawn;
}

/** By the id of the part: the versions of its story. */
const stories = (drawn: DrawnBy, content: string): Record<string, string[]> =>
  Object.fromEntries(
    designOf(content, 'a.svg').parts.map((part, k) => [
      part.key ?? '',
      (drawn.parts[k] ?? []).map((v) => drawn.versions[v] ?? ''),
    ]),
  );

test('each part tells which version put it in, and which changed it', () => {
  const last = plan(5, hut, bollard);
  expect(stories(along([plan(0), plan(0, bollard), plan(5, bollard), last]), last)).toEqual({
    deck: ['v1', 'v3'],
    bollard: ['v2'],
    hut: ['v4'],
  });
});

test('what is gone is told with where it stood and which version took it out', () => {
  const { gone, versions } = along([plan(0, bollard), plan(0, bollard, hut), plan(0, hut)]);
  expect(gone).toMatchObject([{ name: 'bollard', kind: 'circle', box: [77, 77, 83, 83], part: 1 }]);
  expect([versions[gone[0]?.last ?? -1], versions[gone[0]?.out ?? -1]]).toEqual(['v2', 'v3']);
});

test('what comes from a branch is told of whoever drew it there', () => {
  const [main, branch, joined] = [plan(5), plan(0, hut), plan(5, hut)];
  const onBranch = drawnNext(
    { version: 'v1', drawn: drawnFirst('v1', designOf(plan(0), 'a.svg')), design: designOf(plan(0), 'a.svg') },
    step(plan(0), branch),
    { version: 'branch', design: designOf(branch, 'a.svg') },
  );
  const onMain = along([plan(0), main]);
  const drawn = drawnNext(
    { version: 'v2', drawn: onMain, design: designOf(main, 'a.svg') },
    step(main, joined),
    { version: 'v3', design: designOf(joined, 'a.svg') },
    {
      drawn: onBranch,
      step: step(branch, joined),
    },
  );
  expect(stories(drawn, joined)).toEqual({ deck: ['v1', 'v2'], hut: ['branch'] });
});

test('what came back is not gone any more', () => {
  const { gone } = along([plan(0, bollard), plan(0), plan(3, bollard)]);
  expect(gone).toEqual([]);
});
