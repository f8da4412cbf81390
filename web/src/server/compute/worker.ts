import { parentPort } from 'node:worker_threads';
import { bytesOf, perform, returned, type Task } from './tasks.ts';

async function answer(task: Task): Promise<void> {
  try {
    // The engine for PDF is loaded by the first document.
    const { needsPdf, preparePdf } = await import('@ovrel/core/node');
    if (bytesOf(task).some(needsPdf)) await preparePdf();
    const result = await perform(task, (progress) => parentPort?.postMessage({ progress }));
    parentPort?.postMessage({ result }, returned(task, result));
  } catch (error) {
    parentPort?.postMessage({ failure: error instanceof Error ? error.message : String(error) });
  }
}

parentPort?.on('message', (task: Task) => void answer(task));
