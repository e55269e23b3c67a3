import type { Scoring } from '@zakuska/core';
import { say } from '../words/say.js';

/** How several keys are marked, in words. */
export const SCORING: Record<Scoring, string> = {
  'all-or-nothing': say('all or nothing'),
  'per-option': say('each option counts'),
  'right-minus-wrong': say('right minus wrong'),
  weights: say('by weight'),
};
