/** The services by their words: what screens say of them. Light: what talks with them is in files of their own. */

/** Something that a person may set for a new container: one of several, or yes and no. */
export interface Setting {
  id: string;
  name: string;
  /** Empty for yes and no. */
  choices: readonly { value: string; name: string }[];
  usual: string | boolean;
  /** Changes what goes, so it is asked for every push; else only for something new. */
  everyPush?: boolean;
}
/** Settings as a person chose them, by their ids. */
export type Settings = Readonly<Record<string, string | boolean>>;

/** What screens say of a service. */
export interface ServiceRow {
  /** Also of the setting with its address: `forms` is found at FORMS_URL. */
  id: string;
  name: string;
  /** What arrives there, in a few words. */
  what: string;
  /** What its containers are called. */
  container: { one: string; many: string };
  /** What the parts of a container are for, where new items do not simply go into one. */
  parts?: { label: string; none: string };
  settings: readonly Setting[];
}

/** Seconds that the game service lets a round last. */
export const GAME_TIMES: readonly number[] = [10, 20, 30, 45, 60, 90, 120, 180];

/** All services, in the order of the screens. */
export const serviceRows = {
  forms: {
    id: 'forms',
    name: 'Online form',
    what: 'quiz form, pushed',
    container: { one: 'form', many: 'forms' },
    settings: [
      {
        id: 'shows',
        name: 'After sending, a person sees',
        choices: [
          { value: 'score', name: 'the score' },
          { value: 'answers', name: 'the score and each answer' },
          { value: 'nothing', name: 'that it has arrived' },
        ],
        usual: 'score',
      },
      {
        id: 'asks',
        name: 'Who answers gives',
        choices: [
          { value: 'name', name: 'a name' },
          { value: 'mail', name: 'a mail address' },
          { value: 'nobody', name: 'nothing' },
        ],
        usual: 'name',
      },
      { id: 'once', name: 'One response for each person', choices: [], usual: false },
      { id: 'shuffle', name: 'Questions in another order for each person', choices: [], usual: false },
    ],
  },
  games: {
    id: 'games',
    name: 'Class game',
    what: 'sheet of rounds, pushed',
    container: { one: 'game', many: 'games' },
    settings: [
      {
        id: 'time',
        name: 'Time for a question',
        choices: [
          { value: 'own', name: 'its own time limit, else by its length' },
          { value: 'length', name: 'by its length' },
          ...GAME_TIMES.map((s) => ({ value: String(s), name: `${s} seconds for all` })),
        ],
        usual: 'own',
        everyPush: true,
      },
      { id: 'quick', name: 'Quick right answers earn more', choices: [], usual: true },
      { id: 'shuffle', name: 'Choices in another order for each player', choices: [], usual: false },
    ],
  },
  lms: {
    id: 'lms',
    name: 'Course LMS',
    what: 'QTI 2.1, pushed',
    container: { one: 'quiz', many: 'quizzes' },
    parts: { label: 'For', none: 'everybody in the course' },
    settings: [],
  },
} satisfies Record<string, ServiceRow>;
