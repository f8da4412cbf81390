/** Numbered backups as programs write them beside a file: landing.0007.dxf of landing.dxf. */

export interface Numbered {
  /** The file that it is a backup of, with the same folders before it. */
  readonly of: string;
  readonly number: number;
}

const NUMBERED = /^(?<stem>.*[^/.])\.(?<number>\d{3,5})(?<ending>\.[a-z][a-z0-9]{0,5})$/i;

/** Undefined for any other name. */
export function numberedBackup(path: string): Numbered | undefined {
  const found = NUMBERED.exec(path)?.groups;
  if (!found) return undefined;
  return { of: `${found['stem'] ?? ''}${found['ending'] ?? ''}`, number: Number(found['number']) };
}

/** Paths in the order in which their contents came to be: numbered backups before the file that they are of. */
export function inOrderOfBackups(paths: readonly string[]): string[] {
  const place = (path: string): readonly [string, number] => {
    const backup = numberedBackup(path);
    return backup ? [backup.of, backup.number] : [path, Infinity];
  };
  return paths.toSorted((a, b) => {
    const [fileA, numberA] = place(a);
    const [fileB, numberB] = place(b);
    if (fileA !== fileB) return fileA < fileB ? -1 : 1;
    return numberA === numberB ? 0 : numberA - numberB;
  });
}
