import { parentPort } from 'node:worker_threads';
import { perform, returned, type Task } from './tasks.ts';

parentPort?.on('message', (task: Task) => {
  try {
    const result = perform(task);
    parentPort?.postMessage({ result }, returned(task, result));
  } catch (error) {
    parentPort?.postMessage({ failure: error instanceof Error ? error.message : String(error) });
  }
});
