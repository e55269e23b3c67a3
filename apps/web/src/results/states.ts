/** How marks look and read in the tables of Results. */
import { say } from '../words/say.js';
export const SIGNS = { right: '✓', partly: '½', wrong: '·', unanswered: '–', 'by-hand': '¶' } as const;
export const LOOKS = {
  right: 'bg-dill-soft text-dill',
  partly: 'bg-amber-soft text-amber',
  wrong: 'bg-brick-soft text-brick',
  unanswered: 'bg-brick-soft text-brick',
  'by-hand': 'bg-paper text-ink-2',
} as const;
export const WORDS = {
  right: say('right'),
  partly: say('partly right'),
  wrong: say('wrong'),
  unanswered: say('no answer'),
  'by-hand': say('marked by hand'),
} as const;
