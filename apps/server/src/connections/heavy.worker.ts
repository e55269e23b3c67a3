/** Runs a heavy task in a thread of its own. */
import { workerTask } from '../platform/workerTask.js';
import { type Task, tasks } from './heavy.js';

await workerTask(({ task, input }: { task: Task; input: never }) => tasks[task](input));
