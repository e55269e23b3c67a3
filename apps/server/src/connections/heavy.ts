/** What a push computes: what goes, the file in which it goes, and the rehearsal of what arrived. Large sets are left to a thread of their own. */
import { asSent, piecesOf, type QuizSet, type Rehearsal, rehearse, type Service, serviceOf, type Settings } from '@zakuska/core';
import { meansFor } from './means.js';
import { inWorker } from '../platform/inWorker.js';

function known(id: string): Service {
  const service = serviceOf(id);
  if (!service) throw new Error(`there is no service called ${id}`);
  return service;
}

/** A set on its way to a service. */
interface Going {
  service: string;
  /** Id of the set, for the addresses of its pictures. */
  setId: string;
  set: QuizSet;
  settings: Settings;
}

/** One row a task; a task is pure and its input and output can be sent to a thread. */
export const tasks = {
  pieces: ({ service, set, settings }: Going): ReturnType<typeof piecesOf> => piecesOf(set, known(service), settings),
  prepare: async (going: Going): Promise<Uint8Array | undefined> => {
    const service = known(going.service);
    return service.prepare?.(asSent(going.set, service, going.settings), meansFor(going.setId));
  },
  rehearse: async ({ bytes, pieces, ...going }: Going & { bytes: Uint8Array; pieces: [string, string][] }): Promise<Rehearsal> => {
    const service = known(going.service);
    const { played } = await service.play(bytes, new Map(pieces), meansFor(going.setId));
    return rehearse(played, asSent(going.set, service, going.settings), service.profile);
  },
} as const;
export type Task = keyof typeof tasks;
type Input<T extends Task> = Parameters<(typeof tasks)[T]>[0];
type Output<T extends Task> = Awaited<ReturnType<(typeof tasks)[T]>>;

/** A set of this many items is computed at once; what takes longer may not hold up requests. */
const AT_ONCE = 100;
const LIMITS = { seconds: 120, megabytes: 1024 };

/** @throws WorkStopped where it takes too long; ReadError where what arrived cannot be read */
export async function heavy<T extends Task>(task: T, input: Input<T>): Promise<Output<T>> {
  if (input.set.items.length <= AT_ONCE) return (tasks[task] as (i: Input<T>) => Output<T> | Promise<Output<T>>)(input);
  return inWorker<{ task: T; input: Input<T> }, Output<T>>('connections/heavy.worker.js', { task, input }, LIMITS);
}
