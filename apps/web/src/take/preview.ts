/** The learner's page inside a teacher's page of the same origin, which holds the keys and marks what is handed in. */
import type { AttemptState, Keeper, Outcome } from './server.js';

export type FromPage = { type: 'preview-ready' } | { type: 'preview-submit'; responses: AttemptState['responses'] };
export type ToPage = { type: 'preview'; attempt: AttemptState; place: number } | { type: 'preview-outcome'; outcome: Outcome };

const say = (message: FromPage): void => window.parent.postMessage(message, location.origin);
function next<T extends ToPage['type']>(type: T): Promise<Extract<ToPage, { type: T }>> {
  return new Promise((resolve) => {
    const hear = (e: MessageEvent<ToPage>): void => {
      if (e.origin !== location.origin || e.source !== window.parent || e.data.type !== type) return;
      removeEventListener('message', hear);
      resolve(e.data as Extract<ToPage, { type: T }>);
    };
    addEventListener('message', hear);
  });
}

/** Asks the teacher's page for the items as a learner may see them. */
export async function previewed(): Promise<{ attempt: AttemptState; place: number } & Keeper> {
  const given = next('preview');
  say({ type: 'preview-ready' });
  const { attempt, place } = await given;
  return {
    attempt,
    place,
    note: 'preview',
    keptNote: 'preview',
    keep: () => Promise.resolve(null),
    submit: async (_id, _token, { responses }) => {
      const told = next('preview-outcome');
      say({ type: 'preview-submit', responses });
      return (await told).outcome;
    },
  };
}
