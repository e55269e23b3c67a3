/** Sets what takes long in a thread of its own. */
import { parentPort, workerData } from 'node:worker_threads';
import { type PrintOrder, type ReportOrder, setInPrint, setReport } from './setInPrint.js';

const order = workerData as PrintOrder | ReportOrder;
parentPort?.postMessage('report' in order ? setReport(order) : await setInPrint(order));
