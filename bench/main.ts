import { rmSync } from 'node:fs';
import { dataFolder, freePort } from '../bin/lib/cluster.ts';
import { startInstance } from '../bin/lib/instance.ts';
import { benchBrowser } from './browser.ts';
import { benchCheckIn } from './checkin.ts';
import { benchCompare } from './compare.ts';
import { signInTo } from './target.ts';

const only = process.argv.slice(2);
const wants = (name: string): boolean => only.length === 0 || only.includes(name);

if (wants('compare')) await benchCompare();
if (wants('checkin') || wants('browser')) {
  const folder = dataFolder(undefined, '.ovrel-bench');
  rmSync(folder, { recursive: true, force: true });
  const instance = await startInstance({ port: await freePort(), demo: true, data: () => folder });
  try {
    const target = await signInTo(instance.address, instance.serverPid);
    if (wants('browser')) await benchBrowser(target);
    if (wants('checkin')) await benchCheckIn(target);
  } finally {
    await instance.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
process.exit(0);
