/** Finds the main text of a page, in a thread of its own. */
import { workerTask } from '../platform/workerTask.js';
import { mainText } from './mainText.js';

await workerTask(mainText);
