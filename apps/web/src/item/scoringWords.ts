import type { Scoring } from '@zakuska/core';

/** How several keys are marked, in words. */
export const SCORING: Record<Scoring, string> = {
  'all-or-nothing': 'all or nothing',
  'per-option': 'each option counts',
  'right-minus-wrong': 'right minus wrong',
  weights: 'by weight',
};
