/** What papers hold that are written by libraries of their own. */
import { everything, type Profile } from '../../fit/profile.js';
import { trueFalseAsChoice } from '../../fit/recast.js';
import { paperProfile } from '../notation/formats.js';

/** What printed papers hold: as other paper, pictures, and in the key what is said to answers. */
export const printedProfile: Profile = {
  ...paperProfile,
  holds: {
    ...paperProfile.holds,
    bonus: true,
    'feedback.correct': true,
    'feedback.incorrect': true,
    'feedback.general': true,
    optionFeedback: true,
    answerFeedback: true,
  },
  ofSet: ['title'],
  pictures: true,
  furtherSteps: [],
};

/** What a plain document for importers holds: choices, one line each. */
export const importProfile: Profile = {
  ...everything,
  kinds: ['multiple-choice', 'multiple-response'],
  recast: { 'true-false': trueFalseAsChoice },
  holds: { label: true },
  ofSet: [],
  passageInFront: true,
  rich: false,
  pictures: false,
};
