/** Draft help: requests to assistants, and what becomes of their replies. */
export {
  type Addition,
  additionNames,
  additions,
  askedKinds,
  composeAgain,
  type Composed,
  composeRequest,
  firstWish,
  type Measured,
  measure,
  type Wish,
  wish as wishSchema,
  wishProblem,
} from './request.js';
export { phraseLanguages } from './phrases.js';
export {
  type Aim as ReworkAim,
  aimNames,
  aims,
  type AimName,
  composeRework,
  editedProposal,
  type Rewording,
  proposalText,
  type Reworked,
  reworked,
  takeAsTranslations,
  takeProposals,
} from './rework.js';
export { answersIn, composeOpinion, mayBeAsked, type Opinion, opinionFindings, opinionsOf } from './opinion.js';
export { compareDrafts, type ComparedDraft, type DraftFigures } from './compare.js';
export { composeNotation, takeVerbatim, verbatimOf, type Verbatim, type VerbatimResult } from './verbatim.js';
