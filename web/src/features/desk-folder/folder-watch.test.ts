import type { Glimpse } from '@ovrel/core/settling';
import { FolderWatch, type KnownFile } from './folder-watch.ts';
import { hashOf } from './hashing.ts';

/** A folder in memory, with a clock that the test turns. */
class Folder {
  now = 0;
  readonly files = new Map<string, File>();
  readonly known = new Map<string, KnownFile>();
  readonly watch = new FolderWatch(
    {
      glimpses: () =>
        Promise.resolve(new Map([...this.files].map(([path, file]): [string, Glimpse] => [path, glimpseOf(file)]))),
      read: (path) => Promise.resolve(this.files.get(path)),
      fileAt: (path) => this.known.get(path),
    },
    2000,
  );

  write(path: string, text: string): void {
    this.files.set(path, new File([text], path, { lastModified: this.now }));
  }

  /** Looks each second for so long; gives what was saved, as text. */
  async watched(seconds: number): Promise<string[]> {
    const found: string[] = [];
    for (let second = 0; second < seconds; second++) {
      for (const { path, content } of await this.watch.look(this.now)) found.push(`${path}: ${await content.text()}`);
      this.now += 1000;
    }
    return found;
  }
}
const glimpseOf = ({ size, lastModified: at }: File): Glimpse => ({ size, at, inode: 0 });
const fileOf = (...hashes: readonly string[]): KnownFile => ({ fileId: 'plan', base: 'v1', hashes });

test('one save of a program is one save, once it is settled; what was there before is none', async () => {
  const folder = new Folder();
  folder.known.set('plan.svg', fileOf());
  folder.write('plan.svg', 'as it was');
  expect(await folder.watched(5)).toEqual([]);
  folder.write('plan.svg', 'half');
  expect(await folder.watched(1)).toEqual([]);
  folder.write('plan.svg', 'the whole of it');
  expect(await folder.watched(5)).toEqual(['plan.svg: the whole of it']);
  expect(await folder.watched(5)).toEqual([]);
});

test('what Ovrel put there itself is no save, nor is what it does not know, nor scratch files', async () => {
  const folder = new Folder();
  folder.known.set('plan.svg', fileOf(await hashOf(new Blob(['the newest']))));
  folder.known.set('plan.svg.tmp', fileOf());
  await folder.watched(1);
  folder.write('plan.svg', 'the newest');
  folder.write('unknown.svg', 'who is this');
  folder.write('plan.svg.tmp', 'half of it');
  expect(await folder.watched(6)).toEqual([]);
  folder.write('plan.svg', 'another');
  expect(await folder.watched(6)).toEqual(['plan.svg: another']);
});

test('a file that is written again in the moment in which it is read is waited for', async () => {
  const folder = new Folder();
  folder.known.set('plan.svg', fileOf());
  await folder.watched(1);
  folder.write('plan.svg', 'first');
  await folder.watched(2);
  // Between the look at the folder and the reading of the file.
  const { files } = folder;
  const get = files.get.bind(files);
  let isFirst = true;
  files.get = (path) => {
    if (isFirst) folder.write('plan.svg', 'second, longer');
    isFirst = false;
    return get(path);
  };
  expect(await folder.watched(6)).toEqual(['plan.svg: second, longer']);
});

test('going back to what Ovrel has, while the save before is on its way, is a save; once it has arrived, too', async () => {
  const folder = new Folder();
  const hash = (text: string): Promise<string> => hashOf(new Blob([text]));
  folder.known.set('plan.svg', fileOf(await hash('as it was')));
  folder.write('plan.svg', 'as it was');
  await folder.watched(1);
  folder.write('plan.svg', 'a try');
  expect(await folder.watched(5)).toEqual(['plan.svg: a try']);
  folder.write('plan.svg', 'as it was');
  expect(await folder.watched(5)).toEqual(['plan.svg: as it was']);
  folder.known.set('plan.svg', fileOf(await hash('as it was')));
  folder.write('plan.svg', 'a try');
  expect(await folder.watched(5)).toEqual(['plan.svg: a try']);
});
