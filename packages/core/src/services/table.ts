/** The services by their words: what screens say of them. Light: what talks with them is in files of their own. */

/** Something that a person may set for a new container: one of several, or yes and no. */
export interface Setting {
  id: string;
  name: string;
  /** Empty for yes and no. */
  choices: readonly { value: string; name: string }[];
  usual: string | boolean;
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
  settings: readonly Setting[];
}

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
  lms: { id: 'lms', name: 'Course LMS', what: 'QTI 2.1, pushed', container: { one: 'quiz', many: 'quizzes' }, settings: [] },
} satisfies Record<string, ServiceRow>;
