/** What each screen is for, what is done there first, and one example: the help, and the tour, say it from here. */
import { say } from '../words/say.js';

/** Help on one screen. */
export interface StageHelp {
  /** Which addresses it is of. */
  at: RegExp;
  name: string;
  /** What it is for, in one or two sentences. */
  what: string;
  /** What one does there, in order. */
  steps: readonly string[];
  /** One example: what is there, and what becomes of it. */
  example: { before: string; after: string };
  /** A stop of the tour. */
  tour?: true;
}

export const STAGES: readonly StageHelp[] = [
  {
    at: /^\/sets\/[^/]+\/draft/,
    name: say('Draft'),
    tour: true,
    what: say('Text becomes items here: paste what you have, in whatever layout it is, or drop a file. Every line says in the margin what it was read as.'),
    steps: [
      say('Paste or type the questions, with their keys where you have them.'),
      say('Look at the margin: “key C”, “option B ✓”. What was not sure is underlined, and the doubt beside it has its fix.'),
      say('One correction teaches the rest: change what one line is, and lines like it follow.'),
      say('Take the items to Check. The draft stays, and more can be taken later.'),
    ],
    example: {
      before: '4. Which cut gives small cubes?\n- julienne\n- brunoise *\n- chiffonade',
      after: say('A multiple choice with three options; the star makes B the key.'),
    },
  },
  {
    at: /^\/sets\/[^/]+\/check/,
    name: say('Check'),
    tour: true,
    what: say('Each item is looked at once by somebody who knows the answer, so that no wrong key goes out. What looks wrong to Zakuska stands beside it.'),
    steps: [
      say('Go from item to item with J and K. Press a digit to change the key, E to edit.'),
      say('Mark it as checked with C; the next one comes. Leave out what you do not want with X.'),
      say('Read the findings: the source says otherwise, two options say the same, the key is the longest option.'),
      say('Set points, time and what is required for many items in one step. Add an item by hand with I.'),
    ],
    example: {
      before: say('The notes say “fed twice a day”, the key says once a day.'),
      after: say('The finding names the sentence and the option that agrees with it; one press changes the key.'),
    },
  },
  {
    at: /^\/sets\/[^/]+\/arrange/,
    name: say('Arrange'),
    tour: true,
    what: say('Order, parts and versions: what comes first, what belongs together, and which of several versions somebody gets.'),
    steps: [
      say('Drag items into the order that you want, or move them by keyboard.'),
      say('Make parts with a heading, instructions or a text that several items are about.'),
      say('Draw versions: other orders, or other items from a pool, by a plan that you can see.'),
    ],
    example: { before: say('24 items, 8 of each of three outcomes'), after: say('Versions A and B with 4 of each, as hard as one another.') },
  },
  {
    at: /^\/sets\/[^/]+\/deliver/,
    name: say('Deliver'),
    tour: true,
    what: say(
      'Where the items go: a quiz of your own by link, an online form, a course, a game, paper, slides, or a file. Before anything goes it is said what each place can hold.',
    ),
    steps: [
      say('Choose a column. A cell that is not “fits” says what changes there, and often how to mend it.'),
      say('Publish, push or download. What was written is read again and answered: the rehearsal says that every key marks as it should.'),
      say('For the own quiz, choose who comes in, when it is due, and what learners see.'),
    ],
    example: {
      before: say('A number with a unit, to a service that has no units'),
      after: say('“no unit” in its cell: the unit is put into the question, and you see it before it goes.'),
    },
  },
  {
    at: /^\/sets\/[^/]+\/results/,
    name: say('Results'),
    tour: true,
    what: say('Answers come in here, from the own quiz, from services, from tables and from photographed sheets, and say how learners and items did.'),
    steps: [
      say('Look at the grid: most missed first. An item that is picked shows who chose what.'),
      say('Mark what a person has to mark, whole groups of answers at once.'),
      say('Change a key or leave an item out, and see what it changes for whom before it counts.'),
      say('Talk over what was missed, draw a retake of it, hand the scores over.'),
    ],
    example: {
      before: say('“colour” and “color” are both typed by learners'),
      after: say('One decision accepts the second for everybody who typed it, and says whose points change.'),
    },
  },
  {
    at: /^\/bank/,
    name: say('Bank'),
    what: say('All items of your sets in one place, with what they are about and how they did, to be taken into other sets.'),
    steps: [
      say('Search by words, outcome, kind, or how hard they were.'),
      say('Take what you want into a set; it keeps where it came from.'),
      say('Items that are nearly the same are found, and one is kept.'),
    ],
    example: { before: say('A retake on hygiene is needed'), after: say('Items of that outcome that half of the learners missed, taken into a new set.') },
  },
  {
    at: /^\/table/,
    name: say('Mark a table'),
    what: say('A table of answers from elsewhere is marked here, by a set or by one of its own rows.'),
    steps: [
      say('Drop or paste the table.'),
      say('Say what each column is, where it was not seen by itself.'),
      say('Choose the key: a set, a row, or what you type.'),
      say('Look at the scores, and keep them with a set if you like.'),
    ],
    example: { before: say('A sheet with a row called KEY'), after: say('Everybody marked by that row, with mean and what was missed most.') },
  },
  {
    at: /.*/,
    name: say('Sets'),
    what: say('A set holds the questions of one quiz, from the first draft to the results. It goes through five stages, which stand in a line at its top.'),
    steps: [
      say('Make a new set, or drop a file anywhere on the page.'),
      say('Courses and folders keep sets apart; find one by its words.'),
      say('What is put into the bin can be taken back.'),
    ],
    example: { before: say('A document with twenty questions'), after: say('Dropped on the page, it is a set with its draft, and twenty items to take.') },
  },
];

/** The help of the screen at an address. */
export const helpAt = (path: string): StageHelp => STAGES.find((s) => s.at.test(path)) as StageHelp;
