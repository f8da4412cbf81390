import { demoPeople, demoPassword } from '../demo/people.ts';
import { startInstance } from './lib/instance.ts';
import { Stop } from './lib/stop.ts';

const port = Number(process.env['PORT'] ?? 3000);

try {
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Stop(`PORT is “${process.env['PORT']}”, which is not a port number.`);
  let stopping = false;
  let interrupted: (() => void) | undefined;
  const interruption = new Promise<void>((done) => {
    interrupted = done;
  });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
    process.on(signal, () => {
      stopping = true;
      interrupted?.();
    });
  }
  const instance = await startInstance({ port, demo: !process.argv.includes('--empty') });
  console.log(`\nOvrel is at ${instance.address}`);
  if (instance.withDemo) {
    console.log(`\nThe demo's people, all with the password ${demoPassword}:`);
    for (const person of demoPeople) console.log(`  ${person.email.padEnd(28)} ${person.name}, ${person.role}`);
  } else console.log('Open it in a browser and sign in; a new installation asks for its first administrator.');
  console.log('\nCtrl-C stops it.');
  const code = await Promise.race([interruption.then(() => 0), instance.ended]);
  if (stopping) console.log('\nStopping …');
  await instance.stop();
  process.exit(code);
} catch (error) {
  console.error(error instanceof Stop ? error.message : error);
  process.exit(1);
}
