/**
 * Paths that a desk writes to. Others gave the names: some mean something else to a computer than they do to people.
 */

/** Names that open a device instead of a file, with any ending, on some computers. */
const DEVICE = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;
/** What desks and programs call files that they are about to exchange. */
const UNDER_WAY = /^~\$|\.(ovrel-part|crswap)$/i;

/** Why nothing is written to a path on a desk, in words that follow “because”; undefined where it may be. */
export function unwritable(path: string): string | undefined {
  for (const part of path.split('/')) {
    const why = unwritableName(part);
    if (why) return why;
  }
  return undefined;
}

function unwritableName(name: string): string | undefined {
  if (name === '' || name === '.' || name === '..') return 'it leads elsewhere';
  // Version control, shells and editors keep settings there that they run.
  if (name.startsWith('.')) return `“${name}” begins with a dot, and programs take such files for their settings`;
  if (DEVICE.test(name)) return `“${name}” is the name of a device on some computers`;
  if (/[. ]$/.test(name)) return `“${name}” ends with a dot or a space, which some computers leave out`;
  if (UNDER_WAY.test(name)) return `“${name}” looks like a file that is being written`;

  return /[\\\u0000-\u001f]/.test(name) ? `“${name}” has characters that a name can't have` : undefined;
}
