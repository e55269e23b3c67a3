/** The notation as a format, and Markdown for paper, which is written alike. */
import { fitSet } from '../../fit/fit.js';
import { allHeld, everything, type HeldField, holding, type Profile, type Step } from '../../fit/profile.js';
import { isMarkup, richFromPlain, richToPlain } from '../../item/richText.js';
import { partsOf } from '../../item/strip.js';
import { utf8 } from '../encoding.js';
import { fileName, type Format } from '../format.js';
import { writeNotation } from './notation.js';

/** Every item of a text has a number in front of it, which it keeps when it comes back. */
const numbered: Step = (item, set) => {
  if (item.label !== undefined) return null;
  const label = String(set.items.findIndex((i) => i.id === item.id) + 1);
  return { item: { ...item, label }, fit: 'adapted', brief: 'numbered', message: `bears the number ${label} there`, minor: true };
};
/** The notation writes gaps into lines of text: lists, tables and looks around them become such lines. */
const gapsInLines: Step = (item) =>
  item.kind === 'cloze' && isMarkup(item.stem)
    ? {
        item: { ...item, stem: richFromPlain(partsOf(richToPlain(item.stem), '\n').filter(Boolean).join(' ')) },
        fit: 'lost',
        brief: 'plain text',
        message: 'the text around its gaps becomes one plain line there',
      }
    : null;
/** What a text says of the set. */
const IN_WORDS = ['title', 'description', 'language'] as const;
/** The notation says everything but feedback of single typed answers. */
export const notationProfile: Profile = {
  ...everything,
  holds: holding(allHeld.filter((f) => f !== 'answerFeedback' && f !== 'language')),
  ofSet: IN_WORDS,
  furtherSteps: [numbered, gapsInLines],
};

/** What stands on paper: what a learner reads and what the person needs who marks. Pictures of the set are no part of the text that comes back. */
const ON_PAPER: readonly HeldField[] = [
  'label',
  'points',
  'lines',
  'unit',
  'wordBank',
  'modelAnswer',
  'rubric',
  'gapPoints',
  'section.title',
  'section.instructions',
  'section.passage',
];
/** What paper holds. */
export const paperProfile: Profile = { ...everything, holds: holding(ON_PAPER), ofSet: IN_WORDS, pictures: false, furtherSteps: [numbered, gapsInLines] };

/** The rows of the registry. */
export const notationFormats: readonly Format[] = [
  {
    id: 'text',
    name: 'Text in the notation',
    extension: '.txt',
    mediaType: 'text/plain',
    write: (set) => ({ bytes: utf8(writeNotation(fitSet(set, notationProfile).set)), name: fileName(set.title, '.txt') }),
    profile: notationProfile,
    anonymous: true,
  },
  {
    id: 'markdown',
    name: 'Markdown, questions and key',
    extension: '.md',
    mediaType: 'text/markdown',
    write: (set) => ({ bytes: utf8(writeNotation(fitSet(set, paperProfile).set)), name: fileName(set.title, '.md') }),
    profile: paperProfile,
    anonymous: true,
  },
];
