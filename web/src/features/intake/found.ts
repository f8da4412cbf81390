/** Copies as a browser finds them: chosen, dropped as a folder, or packed in a ZIP. */

export interface FoundFile {
  /** Below what was chosen, with slashes. */
  readonly path: string;
  readonly file: File;
}

const isHidden = (path: string): boolean => path.split('/').some((part) => part.startsWith('.'));

export const foundAmong = (files: readonly File[]): FoundFile[] =>
  files.map((file) => ({ path: file.webkitRelativePath || file.name, file })).filter(({ path }) => !isHidden(path));

/** All files of what was dropped, folders opened. Must be called before the drop is over. */
export async function foundInDrop(items: Iterable<DataTransferItem>): Promise<FoundFile[]> {
  const entries = [...items].flatMap((item) => item.webkitGetAsEntry() ?? []);
  const found: FoundFile[] = [];
  const pending = [...entries];
  for (let entry = pending.pop(); entry; entry = pending.pop()) {
    if (isHidden(entry.name)) continue;
    if (isFolder(entry)) pending.push(...(await entriesIn(entry)));
    else found.push({ path: entry.fullPath.replace(/^\//, ''), file: await fileOf(entry as FileSystemFileEntry) });
  }
  return found;
}

const isFolder = (entry: FileSystemEntry): entry is FileSystemDirectoryEntry => entry.isDirectory;

const fileOf = (entry: FileSystemFileEntry): Promise<File> =>
  new Promise((resolve, reject) => {
    entry.file(resolve, reject);
  });

/** Browsers tell of a folder a hundred files at a time. */
async function entriesIn(folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> {
  const reader = folder.createReader();
  const all: FileSystemEntry[] = [];
  for (;;) {
    const next = await new Promise<FileSystemEntry[]>((resolve, reject) => {
      reader.readEntries(resolve, reject);
    });
    if (next.length === 0) return all;
    all.push(...next);
  }
}

/** The ZIP that was given, where nothing else was. */
export function onlyZip(found: readonly FoundFile[]): File | undefined {
  const [only] = found;
  return found.length === 1 && only && /\.zip$/i.test(only.path) ? only.file : undefined;
}
