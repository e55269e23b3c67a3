/** Tables of answers marked away from the page, so that only what is shown of them crosses over. */
import { expose } from 'comlink';
import { marking } from './marking.js';

expose(marking);
