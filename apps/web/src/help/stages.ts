/** What each screen is for, what is done there first, and one example: the help, and the tour, say it from here. */

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
    name: 'Draft',
    tour: true,
    what: 'Text becomes items here: paste what you have, in whatever layout it is, or drop a file. Every line says in the margin what it was read as.',
    steps: [
      'Paste or type the questions, with their keys where you have them.',
      'Look at the margin: “key C”, “option B ✓”. What was not sure is underlined, and the doubt beside it has its fix.',
      'One correction teaches the rest: change what one line is, and lines like it follow.',
      'Take the items to Check. The draft stays, and more can be taken later.',
    ],
    example: {
      before: '4. Which cut gives small cubes?\n- julienne\n- brunoise *\n- chiffonade',
      after: 'A multiple choice with three options; the star makes B the key.',
    },
  },
  {
    at: /^\/sets\/[^/]+\/check/,
    name: 'Check',
    tour: true,
    what: 'Each item is looked at once by somebody who knows the answer, so that no wrong key goes out. What looks wrong to Zakuska stands beside it.',
    steps: [
      'Go from item to item with J and K. Press a digit to change the key, E to edit.',
      'Mark it as checked with C; the next one comes. Leave out what you do not want with X.',
      'Read the findings: the source says otherwise, two options say the same, the key is the longest option.',
      'Set points, time and what is required for many items in one step. Add an item by hand with I.',
    ],
    example: {
      before: 'The notes say “fed twice a day”, the key says once a day.',
      after: 'The finding names the sentence and the option that agrees with it; one press changes the key.',
    },
  },
  {
    at: /^\/sets\/[^/]+\/arrange/,
    name: 'Arrange',
    tour: true,
    what: 'Order, parts and versions: what comes first, what belongs together, and which of several versions somebody gets.',
    steps: [
      'Drag items into the order that you want, or move them by keyboard.',
      'Make parts with a heading, instructions or a text that several items are about.',
      'Draw versions: other orders, or other items from a pool, by a plan that you can see.',
    ],
    example: { before: '24 items, 8 of each of three outcomes', after: 'Versions A and B with 4 of each, as hard as one another.' },
  },
  {
    at: /^\/sets\/[^/]+\/deliver/,
    name: 'Deliver',
    tour: true,
    what: 'Where the items go: a quiz of your own by link, an online form, a course, a game, paper, slides, or a file. Before anything goes it is said what each place can hold.',
    steps: [
      'Choose a column. A cell that is not “fits” says what changes there, and often how to mend it.',
      'Publish, push or download. What was written is read again and answered: the rehearsal says that every key marks as it should.',
      'For the own quiz, choose who comes in, when it is due, and what learners see.',
    ],
    example: {
      before: 'A number with a unit, to a service that has no units',
      after: '“no unit” in its cell: the unit is put into the question, and you see it before it goes.',
    },
  },
  {
    at: /^\/sets\/[^/]+\/results/,
    name: 'Results',
    tour: true,
    what: 'Answers come in here, from the own quiz, from services, from tables and from photographed sheets, and say how learners and items did.',
    steps: [
      'Look at the grid: most missed first. An item that is picked shows who chose what.',
      'Mark what a person has to mark, whole groups of answers at once.',
      'Change a key or leave an item out, and see what it changes for whom before it counts.',
      'Talk over what was missed, draw a retake of it, hand the scores over.',
    ],
    example: {
      before: '“colour” and “color” are both typed by learners',
      after: 'One decision accepts the second for everybody who typed it, and says whose points change.',
    },
  },
  {
    at: /^\/bank/,
    name: 'Bank',
    what: 'All items of your sets in one place, with what they are about and how they did, to be taken into other sets.',
    steps: [
      'Search by words, outcome, kind, or how hard they were.',
      'Take what you want into a set; it keeps where it came from.',
      'Items that are nearly the same are found, and one is kept.',
    ],
    example: { before: 'A retake on hygiene is needed', after: 'Items of that outcome that half of the learners missed, taken into a new set.' },
  },
  {
    at: /^\/table/,
    name: 'Mark a table',
    what: 'A table of answers from elsewhere is marked here, by a set or by one of its own rows.',
    steps: [
      'Drop or paste the table.',
      'Say what each column is, where it was not seen by itself.',
      'Choose the key: a set, a row, or what you type.',
      'Look at the scores, and keep them with a set if you like.',
    ],
    example: { before: 'A sheet with a row called KEY', after: 'Everybody marked by that row, with mean and what was missed most.' },
  },
  {
    at: /.*/,
    name: 'Sets',
    what: 'A set holds the questions of one quiz, from the first draft to the results. It goes through five stages, which stand in a line at its top.',
    steps: [
      'Make a new set, or drop a file anywhere on the page.',
      'Courses and folders keep sets apart; find one by its words.',
      'What is put into the bin can be taken back.',
    ],
    example: { before: 'A document with twenty questions', after: 'Dropped on the page, it is a set with its draft, and twenty items to take.' },
  },
];

/** The help of the screen at an address. */
export const helpAt = (path: string): StageHelp => STAGES.find((s) => s.at.test(path)) as StageHelp;
