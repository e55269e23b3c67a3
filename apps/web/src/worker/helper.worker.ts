/** Does chores of others, one after the other. */
import { doChore } from '@zakuska/core/chores';
import { expose } from 'comlink';

const remote = { do: doChore };
export type HelpingWorker = typeof remote;
expose(remote);
