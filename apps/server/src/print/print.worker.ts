/** Sets what takes long in a thread of its own. */
import { parentPort, workerData } from 'node:worker_threads';
import { type PrintOrder, setInPrint } from './setInPrint.js';

parentPort?.postMessage(await setInPrint(workerData as PrintOrder));
