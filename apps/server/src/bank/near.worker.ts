/** Groups of items that ask nearly the same, in a thread: among many thousands it takes seconds. */
import { parentPort, workerData } from 'node:worker_threads';
import { type Item, nearGroups } from '@zakuska/core';

parentPort?.postMessage(nearGroups((workerData as { items: Item[] }).items));
