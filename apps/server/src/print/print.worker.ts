/** Sets what takes long in a thread of its own. */
import { workerTask } from '../platform/workerTask.js';
import { type PrintOrder, type ReportOrder, setInPrint, setReport } from './setInPrint.js';

await workerTask((order: PrintOrder | ReportOrder) => ('report' in order ? setReport(order) : setInPrint(order)));
