/** Reads pictures of answer sheets away from the page. */
import { expose } from 'comlink';
import { reading } from './reading.js';

export type Remote = typeof reading;
expose(reading);
