/** Other files that a file needs, as it names them. */
export const referenceKinds = [
  'picture',
  'drawing',
  'material',
  'texture',
  'data',
  'table',
  'document',
  'style',
] as const;
export type ReferenceKind = (typeof referenceKinds)[number];

export interface Reference {
  /** As it is written in the file, unescaped. */
  readonly target: string;
  readonly kind: ReferenceKind;
}

/**
 * A reference as a path with slashes, relative to the file; undefined for what is no file: addresses of the web,
 * data, places in the file itself.
 */
export function pathOf(target: string): string | undefined {
  let path = target.trim();
  if (
    !path ||
    /^(?:data|blob|javascript|mailto|about|urn|https?|ftp):/i.test(path) ||
    path.startsWith('#') ||
    path.startsWith('//')
  )
    return undefined;
  path = path
    .replace(/^file:(?:\/\/(?:localhost)?)?/i, '')
    .replaceAll('\\', '/')
    .replace(/[?#][^/]*$/, '');
  return path || undefined;
}

/** True for addresses of the web: they are listed, but nothing of them is kept here. */
export const isWeb = (target: string): boolean => /^(?:https?:)?\/\/|^ftp:/i.test(target.trim());

/** "plans" + "../signs/a.svg" = "signs/a.svg"; undefined where it leads out of the project. */
export function joined(folder: string, path: string): string | undefined {
  if (/^(?:[a-z]:)?\//i.test(path)) return undefined;
  const out = folder ? folder.split('/') : [];
  for (const step of path.split('/')) {
    if (step === '' || step === '.') continue;
    if (step !== '..') out.push(step);
    else if (out.pop() === undefined) return undefined;
  }
  return out.join('/');
}

export type Whereabouts = 'path' | 'name' | 'missing' | 'web';

export interface Resolved<F> {
  readonly reference: Reference;
  /** How it was found: at its path; by its name alone, elsewhere in the project; not at all; or it lies in the web. */
  readonly found: Whereabouts;
  readonly file: F | undefined;
}

interface Candidate {
  /** In the project, with slashes; compared without regard to capitals, but the same capitals win. */
  readonly path: string;
}

/** Finds what a file's references mean among the files of its project. `from` is the path of the file itself. */
export function resolve<F extends Candidate>(
  references: readonly Reference[],
  from: string,
  files: readonly F[],
): Resolved<F>[] {
  const exact = new Map(files.map((f) => [f.path, f]));
  const loose = new Map(files.map((f) => [f.path.toLowerCase(), f]));
  const named = new Map<string, F[]>();
  for (const f of files) {
    const name = baseOf(f.path).toLowerCase();
    named.set(name, [...(named.get(name) ?? []), f]);
  }
  const folder = from.includes('/') ? from.slice(0, from.lastIndexOf('/')) : '';
  return references.map((reference) => {
    if (isWeb(reference.target)) return { reference, found: 'web', file: undefined };
    for (const written of [pathOf(reference.target), pathOf(unescaped(reference.target))]) {
      const path = written === undefined ? undefined : joined(folder, written);
      const file = path === undefined ? undefined : (exact.get(path) ?? loose.get(path.toLowerCase()));
      if (file) return { reference, found: 'path', file };
    }
    const written = pathOf(unescaped(reference.target));
    const same = written === undefined ? [] : (named.get(baseOf(written).toLowerCase()) ?? []);
    // Two files of that name: which one is meant is not for Ovrel to guess.
    return same.length === 1
      ? { reference, found: 'name', file: same[0] }
      : { reference, found: 'missing', file: undefined };
  });
}

const baseOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

function unescaped(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
