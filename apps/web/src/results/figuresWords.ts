/** Remarks of Results as they are written. */
import { type Item, type ItemAnalysis, type ItemRemark, letterOf } from '@zakuska/core';
import { minutes } from '../show/showing.js';
import { percent } from '../ui/figures.js';
import { say } from '../words/say.js';

/** What an option is called: its letter; true and false as they are. */
export function optionName(item: Item, id: string): string {
  if (!('options' in item)) return id;
  return letterOf(item.options.findIndex((o) => o.id === id));
}

/** What is worth a look, in one sentence; of idle options in one for all of them. */
export function remarkWords({ item, remarks }: ItemAnalysis): string[] {
  const idle = remarks.flatMap((r) => (r.kind === 'idle' ? [optionName(item, r.option)] : []));
  return [
    ...remarks.flatMap((r) => {
      const words = WORDS[r.kind];
      return words ? [words(item, r as never)] : [];
    }),
    ...(idle.length ? [say('Next to nobody chose {idle}.', { idle: idle.join(', ') })] : []),
  ];
}
const WORDS: { [K in ItemRemark['kind']]?: (item: Item, r: Extract<ItemRemark, { kind: K }>) => string } = {
  'likely-key': (item, r) => say('Learners with high scores chose {option}: the key may be wrong.', { option: optionName(item, r.option) }),
  against: () => say('Learners with high scores did worse here than others. Read the item and its key again.'),
  'too-hard': () => say('Next to nobody got this right.'),
  'too-easy': () => say('Nearly everybody got this right: it tells learners hardly apart.'),
  'left-out': (_, r) => say('{percent} gave no answer.', { percent: percent(r.share) }),
  'not-reached': (_, r) => say('{percent} did not come so far: what it says of others rests on the faster ones.', { percent: percent(r.share) }),
};

/** Why somebody has fewer points than their answers earned. @param kept share of them */
export const takenOff = (kept: number): string => say('handed in late, {percent} off', { percent: percent(1 - kept) });

/** Seconds as people say them: 42 s, 3:05 min. */
export const duration = (seconds: number): string => {
  const whole = Math.round(seconds);
  return whole < 60 ? `${whole}\u00a0s` : `${minutes(whole)}\u00a0min`;
};
