/**
 * Every weight of the reading, in one table. They are log-odds by size: 1 is a hint, 3 is strong, 5 decides unless much speaks against it.
 * Set by hand; `npm run reader -- learn` shows what moving one does on drafts with known readings.
 */
export const W = {
  // ── what a line's own words are worth ──
  qWord: 4, // "Question 4:"
  qTurn: 3, // "Q:"
  qBonus: 4.5, // "Bonus:"
  qNumber: 1.8, // "4."
  qRoman: 0.9, // "IV."
  qRomanLow: -1.2, // "iv)"
  qLetter: -0.9, // "C."
  qApart: 2.2, // the number alone on its line, the words below
  oApart: 2.5,
  qLoose: -1.2, // "4 What": a number and one blank
  qLooseLetter: -2.5,
  qWide: -0.4, // wide space and no sign behind the label
  qDecimal: 0.2, // "2.1"
  qPrefix: 1.5, // a line to write on or a key in front of the number
  qBrief: -0.8, // one or two words and no question mark
  qEmpty: -1.2, // nothing behind the label
  asks: 0.9, // ends in a question mark
  hasGap: 0.6, // has a blank to fill
  endsColon: 0.3,
  headingLabel: 1, // a heading that is a label
  boldLabel: 0.6,
  bulletQuestion: -0.4,
  boxedQuestion: -2.5,
  qPlain: -1.6, // a question without a label
  qPlainGap: 0.8,
  qPlainTight: -0.5,
  plainAsking: 1.2, // "how hot is a hot oven roughly"
  plainAsks: 1.2,
  plainHead: 1.5, // "Stem:", "Question:"
  card: 4.6, // a question and its answer on one line, times the share of such lines
  cardAsks: 1,
  answerBehind: 2.4, // "1. Which herb goes into pesto? Basil", as most have
  keyNumbered: 2.4, // "3 is B" below question 3
  keyLooseNumber: 1.3, // "5 false" below question 5
  braces: 9, // "{=right ~wrong}"
  keyBelow: 3.4, // one line, set in deeper, below each question
  keyReply: 4.2, // an unquoted line below a quoted question
  keyArrow: 1.8, // an arrow in front of the answer, below its question
  keyArrows: 1.6, // … and many such lines
  wideInside: -1.3, // wide space inside, or capitals throughout: a heading more than a question
  exclaims: -1.2, // ends in an exclamation mark
  questionIsPart: 2, // "Exercise 3" counts parts more often than questions
  groupAsks: 1.6, // stands over lines that the grouping of the draft makes options
  groupOption: 1.7,
  outerBullet: 4.5, // a bullet with deeper bullets below it, as others have
  rowLike: -3.6, // two labelled sides, as on the lines around: a row of a matching task
  plainAmongNumbered: -0.9, // no number, where lines with numbers are many
  onGroup: -1.4, // goes on into a line that the grouping makes an option
  utterance: -5, // a line that somebody else says goes on from nothing
  firstHead: 1.4, // the first line, over numbered questions
  bracedText: 4, // a text with answers in braces in their places
  arrowBelow: 3, // an arrow with the answer stands below it, as below the others
  truthBehind: 2.4, // a statement with its truth value behind it
  asksForMore: 1.6, // "Explain …"
  truthNote: 1.6, // "True or false:"
  boxedPlain: -2,
  plainDespiteNumber: -2.5, // a label that this reading would leave unexplained
  plainDespiteLetter: -2,
  withOptions: 0.6, // options stand behind it on the line
  moreOnLine: 0.85, // each option of several on a line
  sub: -0.5, // "a) …" as a question of its own
  subListed: 3, // … and a list of keys says what belongs to each letter
  subWrites: 1.2, // lettered lines one below the other, each with a line to write on behind
  subAsks: 1.2,
  subPoints: 2.2,
  subKeyed: 1,
  rowKeyed: 2, // "( c ) 1. whisk   a) to slice"
  rowHeads: -5, // a row of a task that heads a part
  optionForStatement: -3, // "True or false?" alone, and a statement
  subTruths: 3, // a letter below "True or false?"
  plainRequired: 1.5, // a form's star behind it
  stemBelowTopic: 1.5, // "Prompt:" below "Question 2 – Hygiene"
  passageChoices: -4, // words to choose from, one of them marked
  plainScored: 2.5, // points on the line below, as other questions have
  bareAfterLines: -5, // a bare line apart behind a line to write on
  subForStep: -3, // a letter below a question that asks for an order
  subNamed: 3, // a key list has an entry "2b"
  subTicked: -4, // a mark behind it makes it an option
  oLetter: 1.5,
  oNumber: 0.2,
  oRoman: -0.2,
  oLoose: -1.4,
  oBoxed: 1,
  oAsks: -0.6,
  oAsksAgain: -3,
  oEmpty: -1,
  oGap: -0.9,
  oHeading: -2,
  oJudged: 5.5, // "Wrong: rice", among others
  oBoxes: 3,
  oLeadWords: -0.8, // words stand in front of the first option on the line
  oLeadNumber: -3,
  oBox: 1.4,
  oBullet: 0.3,
  oLineInFront: -0.4,
  oTicked: -0.2,
  oBulletDespiteLabel: -2.5,
  oBare: -0.8,
  oQuoted: 3, // a quoted line among others below one that is not, where that comes again
  oTruth: 2.6,
  /** Behind a word that names them: "Options: rye, oat, spelt". */
  oNamed: 6,
  oStrokes: 1.2,
  oCells: 0.4,
  bareAsks: -1.5,
  bareLong: -1.5,
  bareMarked: 1, // a mark in front
  bareDespiteNumber: -3,
  bareDespiteLetter: -2,
  moreOption: -0.3,
  moreAsks: -0.6,
  moreDespiteNumber: -2.4,
  moreDespiteLetter: -1.8,
  bulletGoesOn: -1.8,
  lowerGoesOn: 0.8,
  stemAsks: 0.5,
  stemGap: 0.3,
  stemFormula: 2,
  stemDespiteNumber: -1.6,
  stemDespiteRoman: -0.5,
  stemDespiteLetter: -1.1,
  headingStem: -1.5,
  headingPlain: -0.8,
  headingPassage: -2.5,
  lowerStart: -1.5,
  fewWords: -1.3,
  saysKey: -4, // a line that announces a key read as something else
  saysField: -3,
  saysChat: -1.5,
  saysPart: -2,
  key: 5,
  keyLearnt: 4.2,
  keyTick: 1,
  keyAlone: 2.6,
  field: 4.5,
  fieldBare: 2.6, // "Explanation" alone, its words below
  fieldPicture: 2,
  fieldLearnt: 2.8,
  reasonLearnt: 3.6,
  fieldQuoted: 1.8,
  noteArrow: 3.5,
  noteDash: -0.5,
  noteListed: 2,
  setField: 7,
  /** Another field of the set or the part right below. */
  setFieldBeside: 4,
  choiceNote: 2.5, // "Check all that apply." right below a question
  instruction: -1.3,
  saysKind: 1.3,
  pointsEach: 1.5,
  orders: 1.4, // "Circle …", "Write …"
  overNumber: 0.9, // stands between questions with numbers, right over one
  instructionLabel: -2.5,
  instructionAsks: -2,
  part: -1.6,
  partWord: 3.2,
  headingPart: 2.4,
  boldPart: 0.9,
  capitals: 1.4,
  rangeHead: 1.5,
  passageHead: 1.5,
  partLong: -1.6,
  partAsks: -2.4,
  partTight: -0.9,
  partNumber: -1.6,
  partRoman: 0.3,
  partLetter: -0.3,
  partChain: 3, // letters or Roman numbers that rise once, each over numbered questions
  partCounts: 4.5, // "Slide 12", "Slide 13"
  partOverDecimals: 8, // "2" over "2.1"
  emptyStem: -4,
  taskUnderLabel: -2, // a task right below a label that stood alone is that label's
  splitLabel: 0.4, // "1. (a) …"
  splitLabelPoints: 2,
  task: 1.6, // "Match …": the question of the rows below
  passage: -1.4,
  longLine: 1,
  passageLabel: -1.8,
  passageAsks: -1,
  listHeading: 3,
  listRow: 2.2,
  listLetters: 3,
  listGroup: 0.6,
  listGroupInside: 2, // … and not the one key of one question
  listGroupLetters: 3.2,
  listRowLetters: 2.4,
  listMore: -0.2,
  rowBare: -1,
  bank: 2.4,
  bankRow: 1.2,
  rule: 6,
  page: 5,
  foot: 3.2,
  nameLine: 3,
  writeOn: 4,
  repeated: 3.5,
  chat: 2.6,
  aside: -1.6,
  asidePerLetter: 0.008,
  asideIdle: 1.5,

  taught: 20, // a person said what a line of the same series is
  taughtLooks: 4, // … a line of the same looks

  // ── how lines follow one another ──
  next: 3, // the number that is due
  nextOtherSign: 1.2, // due, but written in another way
  nextSub: 2,
  restartUnderHead: 0.9,
  restart: -2.6,
  restartBelowWord: -2.8, // "Exercise 3" with nothing to answer, and 1 below it
  jump: -0.7, // each number left out
  jumpStart: 0.6,
  repeat: -0.8,
  backward: -2.4,
  otherSeries: -1.8, // another series of labels than the questions before
  firstIsOne: 1.2,
  firstIsNot: -0.35, // for each number in front of the first
  plainAmongNumbers: -1.9,
  plainMost: 1.6, // most questions have no label
  plainFew: -1.2,
  plainInTruths: 1.2, // a line under a heading that says true or false
  plainTight: -1.4, // a new question right under the stem of one
  plainAfterOpen: -1.2, // the question above has neither options nor key
  deeper: -1.4,
  habitMost: 1.3,
  habitSome: 0.4,
  habitNone: -1.2,
  habitIdle: -5, // numbers of clauses or steps, beside questions with answers
  questionInList: -4, // "I. …", "II. …" below "Consider these statements:"
  restartsOften: -1.2,
  risesOnce: 0.5,
  stemTight: 0.35,
  stemWrapped: 1.5, // the line above is long and its sentence goes on
  stemAfterAsk: -0.8,
  stemGapAfterAsk: -1.6,
  stemGapOpen: -0.9,
  stemAfterLines: -1.6, // behind lines to write on
  stemGapPlain: -1.2, // … of a question without a label
  titleWord: 1.2, // "quiz", "test" in the first line
  stemIsCard: -2.5, // a line that holds a question and its answer, as most do
  stemShortLines: -0.7,
  stemColumn: -3, // a column of lines, farther in than the words of the question
  stemUnderAnswer: -2.5, // the question has its answer behind it, and its words would go on below
  stemBehindKey: -2.2, // the key stood behind the stem, on its line
  stemUnderLabel: 3, // the label stood alone
  optionFirst: 1.2,
  optionNotFirst: -3,
  questionForStep: -3, // what stands right below "Put … in order" is a step
  stepNotFirst: 0.4, // shuffled steps whose numbers say the order
  stepShuffled: 2.4,
  optionNext: 3.2,
  optionNextNumber: 3.6,
  optionJump: -0.2,
  optionRepeat: -0.8,
  optionArticle: -4, // "a fungus", "a plant": with a blank only behind it, the same letter again is a word
  optionFillsHole: 2.4, // columns that were read down: A, C, B, D
  optionRestart: -4,
  optionOther: -2.2,
  optionHabit: 1.4,
  optionNewHabit: -0.8,
  optionAfterKey: -4,
  optionSameAsQuestion: -3,
  optionUnlabelled: 2.2, // one more bullet or box like the one above
  stemAfterList: 0.2, // the stem goes on behind a list of its own
  optionListInStem: -0.6, // what were options become a list of the stem
  bareOtherHabit: 0.9, // without labels, but on lines of their own or side by side where the others are not
  bareDeeper: 1.8, // set in deeper than the question
  bareColumn: 1.2, // … far deeper, and the next line as deep
  bareFirstAsk: 0.6,
  bareFirstOpen: 0,
  bareFirstClosed: -1.3,
  bareNext: 1.5,
  bareGap: -1.8,
  bareMany: -0.5,
  bareMost: 1.6, // most questions have options without labels
  bareFew: -2,
  bareAmongLabels: -2.5,
  arrowUnderOption: -3,
  keyAgain: -2.2,
  keyResolves: 1.4,
  keyUnresolved: -2,
  keyOverOptions: -7,
  ahead: 1, // keys and notes that stand above their questions throughout
  keyIsList: -3.2, // entries for several questions behind one
  closeSingle: -3, // a question with one option
  closeSameCount: 0.7,
  closeOtherCount: -0.2,
  closeNothing: -0.6, // neither options nor key where others have them
  closeUnkeyed: -0.7,
  closePlainUnkeyed: -2.5, // no number, no options and no key, where the others have keys
  closeUnasked: -2.4, // a plain question that asks nothing and has neither options nor key
  closeBrief: -2.8, // a word or two with a number in front, and neither options nor key
  closeTask: -3.2, // a matching task without rows
  closeLongList: -0.35,
  headAfterOpen: -0.8,
  headTight: -1.9,
  afterList: -4.5,
  afterListHead: -2,
  listFirst: -3.2,
  listFirstTight: -1.4,
  listUnderTask: -1.5, // a row of keys right below a matching task is its key
  listNext: 2.8,
  listRestart: 0.2,
  listJump: 0.5,
  listBack: -1.3,
  listNoQuestions: -3,
  listAsk: -4,
  listAllKeys: 2, // several numbers of questions, each with nothing but a key
  keyTableApart: 1.5, // a table of keys behind a blank line, without a heading
  keyTableTight: -2,
  sentenceInList: -2, // a sentence is no heading within a list of keys
  listFull: -3, // a line of words behind a row that has the keys of all
  listGoesOn: -2,
  listMoreGap: -2.2,
  moreBehindTalk: -4, // a name below "Best wishes,"
  listMoreDeeper: 1.2,
  moreOpen: 0.8,
  moreGap: -2.6,
  moreUnderWord: 3.5, // "Answer:" alone, its value below
  moreFold: 1.8,
  passageMore: 2.2,
  passageStart: -0.8,
  passageUnderHead: 1.4,
  passageOverTight: -3,
  rowPair: 3.6,
  rowNumbered: 4.8,
  rowBothLabelled: 5.6, // "a) gazpacho   1) cold"
  rowOtherSeries: -3.2,
  rowOutOfOrder: -2.2,
  rowGap: -1,
  rowAsksForMore: -2, // "Describe …" is no side of a pair
  tableTask: 5,
  tableQuestion: 7.5, // each row under a header that names its columns
  tableKeys: 7, // each row of numbers and keys
  tableBare: 5,
  tableRow: 2.2, // each row that a table explains
  barRow: -2.5, // a row between bars read as anything else than a row of a table
};
