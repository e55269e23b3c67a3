/** Groups of items that ask nearly the same, in a thread: among many thousands it takes seconds. */
import { type Item, nearGroups } from '@zakuska/core';
import { workerTask } from '../platform/workerTask.js';

await workerTask(({ items }: { items: Item[] }) => nearGroups(items));
