import { parentPort } from 'node:worker_threads';
import { perform, returned, type Task } from './tasks.ts';

async function answer(task: Task): Promise<void> {
  try {
    const result = await perform(task);
    parentPort?.postMessage({ result }, returned(task, result));
  } catch (error) {
    parentPort?.postMessage({ failure: error instanceof Error ? error.message : String(error) });
  }
}

parentPort?.on('message', (task: Task) => void answer(task));
