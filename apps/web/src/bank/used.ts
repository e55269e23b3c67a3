import type { Schemas } from '../api/client.js';
import { locale, say } from '../words/say.js';

/** How an item did, in a few words. */
export function usedWords({ answers, share, at, sets }: Schemas['UseView']): string {
  const copies = sets > 1 ? say('in {sets} sets, ', { sets }) : '';
  if (!answers) return say('{copies}not used yet', { copies });
  const when =
    at === undefined ? '' : say(', last {what}', { what: new Date(at).toLocaleDateString(locale(), { day: 'numeric', month: 'short', year: 'numeric' }) });
  return `${copies}${say('{answers, plural, one {# answer} other {# answers}}', { answers })}${share === undefined ? '' : say(', {round} % earned', { round: Math.round(share * 100) })}${when}`;
}
