/** Runs a heavy task in a thread of its own. */
import { parentPort, workerData } from 'node:worker_threads';
import { type Task, tasks } from './heavy.js';

const { task, input } = workerData as { task: Task; input: never };
parentPort?.postMessage(await tasks[task](input));
