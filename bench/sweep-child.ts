/** One sweep of a project, to be killed while it is at it (sweeps.ts). */
import { closePools } from '../web/src/server/db/pool.ts';
import { sweep } from '../web/src/server/keeping/sweep.ts';

process.stdout.write('begun\n');
await sweep(process.argv[2], async () => undefined);
await closePools();
