import { defaultLimits } from '../../model/limits.ts';
import type { Reference } from '../../references/reference.ts';
import { nextRecord, numberOf, textOf, type Span } from './document.ts';
import { Groups } from './groups.ts';
import { encodingOf } from './words.ts';

/** Bits of a block's flags: it stands for another drawing, or that one is only laid over. */
const EXTERNAL = 12;

const underlay = /^(?:PDF|DWF|DGN)DEFINITION$/;

/** External references, pictures and underlays (DXF reference: BLOCK, IMAGEDEF, *DEFINITION). */
export function* referencesOfDxf(bytes: Uint8Array): Generator<Reference> {
  const groups = new Groups(bytes, defaultLimits);
  groups.decodeWith(encodingIn(groups));
  for (let first = 0; first < groups.count; first = nextRecord(groups, first)) {
    if (groups.codes[first] !== 0) continue;
    const found = referenceIn(groups, { first, last: nextRecord(groups, first) });
    if (found) yield found;
  }
}

function referenceIn(groups: Groups, record: Span): Reference | undefined {
  const name = groups.word(record.first);
  const target = (textOf(groups, record, 1) ?? '').trim();
  if (!target) return undefined;
  if (name === 'BLOCK') {
    const external = numberOf(groups, record, 70, 0) & EXTERNAL;
    return external ? { target, kind: 'drawing' } : undefined;
  }
  if (name === 'IMAGEDEF') return { target, kind: 'picture' };
  return underlay.test(name) ? { target, kind: 'document' } : undefined;
}

/** By the variables of the header, which name the version and the code page. */
function encodingIn(groups: Groups): string {
  const variable = (name: string): string => {
    for (let i = 0; i + 1 < groups.count && i < HEADER; i++)
      if (groups.codes[i] === 9 && groups.word(i) === name) return groups.text(i + 1).trim();
    return '';
  };
  return encodingOf(variable('$ACADVER'), variable('$DWGCODEPAGE'));
}

/** Groups within which both variables stand. */
const HEADER = 4000;
