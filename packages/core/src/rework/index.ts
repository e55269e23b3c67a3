/** Replies of assistants put together with the items that they are about. */
export { type Merged, type MergedPair, mergeReply } from './merge.js';
