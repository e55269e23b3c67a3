/** What a push computes: the package that goes out, and the rehearsal of what arrived. Large sets are left to a thread of their own. */
import {
  coreFormats,
  destinations,
  fitSet,
  type FitNote,
  type Profile,
  profileOf,
  type QuizSet,
  type Rehearsal,
  rehearse,
  writeQtiPackage,
} from '@zakuska/core';
import { inWorker } from '../platform/inWorker.js';

function profile(service: string): Profile {
  const destination = destinations.find((d) => d.id === service);
  if (!destination) throw new Error(`there is no destination called ${service}`);
  return profileOf(destination);
}

/** One row a task; a task is pure and its input and output can be sent to a thread. */
export const tasks = {
  package: ({ service, set }: { service: string; set: QuizSet }): { bytes: Uint8Array; name: string } => {
    const { bytes, name } = writeQtiPackage(set, '2.1', profile(service));
    return { bytes, name };
  },
  rehearse: async ({ service, set, bytes }: { service: string; set: QuizSet; bytes: Uint8Array }): Promise<Rehearsal> =>
    rehearse((await coreFormats.play(bytes, 'arrived.zip')).played, set, profile(service)),
  notes: ({ service, set }: { service: string; set: QuizSet }): FitNote[] => fitSet(set, profile(service)).fits.flatMap((f) => f.notes),
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
