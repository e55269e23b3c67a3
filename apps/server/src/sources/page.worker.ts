/** Finds the main text of a page, in a thread of its own. */
import { parentPort, workerData } from 'node:worker_threads';
import { mainText } from './mainText.js';

parentPort?.postMessage(mainText(workerData as Parameters<typeof mainText>[0]));
