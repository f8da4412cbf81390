/**
 * A folder on the person's computer, or the practice folder inside the browser: both are directory handles (File
 * System Standard), so everything here works on either.
 */

import { unwritable } from '@ovrel/core/desk-paths';

/** The folder is there, but a file in it can't be written now. */
export class InUse extends Error {}

/** True where the browser can open folders of the computer. */
export const canOpenFolders = (): boolean => typeof window !== 'undefined' && 'showDirectoryPicker' in window;

export const openFolder = (): Promise<FileSystemDirectoryHandle> =>
  (
    window as unknown as { showDirectoryPicker: (options: object) => Promise<FileSystemDirectoryHandle> }
  ).showDirectoryPicker({ mode: 'readwrite', id: 'ovrel-desk' });

/**
 * A folder that was dropped on the page; undefined for anything else. The right to write is asked for with the first
 * writing.
 */
export async function droppedFolder(event: {
  dataTransfer: DataTransfer;
}): Promise<FileSystemDirectoryHandle | undefined> {
  const item = event.dataTransfer.items[0] as
    (DataTransferItem & { getAsFileSystemHandle?: () => Promise<FileSystemHandle | null> }) | undefined;
  const handle = await item?.getAsFileSystemHandle?.();
  return handle?.kind === 'directory' ? (handle as FileSystemDirectoryHandle) : undefined;
}

/** A folder of the browser's own, for each project one. */
export async function practiceFolder(projectId: string): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory();
  return root.getDirectoryHandle(`practice-${projectId}`, { create: true });
}

/** Asks for the right to read and write again, which a browser forgets when it closes; needs a click. */
export async function allowed(handle: FileSystemDirectoryHandle): Promise<boolean> {
  const asking = handle as unknown as { requestPermission?: (options: object) => Promise<string> };
  return !asking.requestPermission || (await asking.requestPermission({ mode: 'readwrite' })) === 'granted';
}

const hidden = (name: string): boolean => name.startsWith('.') || name.startsWith('~$') || name.endsWith('.crswap');

/** Every file of the folder, in no order; hidden ones are passed over. */
export async function* filesIn(
  folder: FileSystemDirectoryHandle,
  below = '',
): AsyncGenerator<{ path: string; handle: FileSystemFileHandle }> {
  for await (const [name, handle] of (
    folder as unknown as { entries: () => AsyncIterable<[string, FileSystemHandle]> }
  ).entries()) {
    if (hidden(name)) continue;
    const path = below ? `${below}/${name}` : name;
    if (handle.kind === 'directory') yield* filesIn(handle as FileSystemDirectoryHandle, path);
    else yield { path, handle: handle as FileSystemFileHandle };
  }
}

async function folderOf(
  folder: FileSystemDirectoryHandle,
  path: string,
  create: boolean,
): Promise<{ parent: FileSystemDirectoryHandle; name: string }> {
  const steps = path.split('/');
  const name = steps.pop() ?? '';
  let parent = folder;
  for (const step of steps) parent = await parent.getDirectoryHandle(step, { create });
  return { parent, name };
}

/** Undefined where there is no such file. */
export async function readFile(folder: FileSystemDirectoryHandle, path: string): Promise<File | undefined> {
  try {
    const { parent, name } = await folderOf(folder, path, false);
    return await (await parent.getFileHandle(name)).getFile();
  } catch (error) {
    if ((error as DOMException).name === 'NotFoundError') return undefined;
    throw error;
  }
}

/**
 * Puts content in place at once: it is written beside the file and exchanged when it is complete. Throws InUse; and
 * an error for paths that a desk does not write to.
 */
export async function writeFile(folder: FileSystemDirectoryHandle, path: string, content: Blob): Promise<void> {
  const why = unwritable(path);
  if (why) throw new Error(`“${path}” is not written here, because ${why}.`);
  try {
    const { parent, name } = await folderOf(folder, path, true);
    const out = await (await parent.getFileHandle(name, { create: true })).createWritable();
    try {
      await content.stream().pipeTo(out);
    } catch (error) {
      await out.abort().catch(() => undefined);
      throw error;
    }
  } catch (error) {
    const kind = (error as DOMException).name;
    if (kind === 'NotAllowedError')
      throw new InUse(
        `“${path}” was not written: the browser was not allowed to change the folder. Try again, and allow it.`,
      );
    if (kind === 'TypeMismatchError')
      throw new Error(`“${path}” is not written: here a folder has the name of a file, or a file that of a folder.`);
    if (kind === 'NoModificationAllowedError' || kind === 'InvalidStateError')
      throw new InUse(`“${path}” can't be written: another program has it open. Close it there and try again.`);
    throw error;
  }
}
