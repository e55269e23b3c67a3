/** What both generations of scoring rules have in common: an answer in the file's own variables gives a score and the feedback shown. */

/** Response variable → identifiers or typed texts, as a player would hand them in. */
export type Answers = Readonly<Record<string, readonly string[]>>;

/** The outcome variables of a response: its score and the feedback that shows. */
export interface Outcome {
  score: number;
  /** Ids of the feedback texts that are shown (see `Asked.feedback`). */
  shown: ReadonlySet<string>;
}

/** Scores responses by what the file says. */
export interface Scorer {
  /**
   * Scores an answer by the file's rules alone.
   * @param unbounded leaves out lower and upper bounds, to see what each option counts
   */
  score(answers: Answers, unbounded?: boolean): Outcome;
  /** Everything that the rules compare a variable's value with. */
  literals(variable: string): string[];
  /** The answer that the file calls correct, for one variable; where it `declares` none, what its first rewarding rule asks for. */
  correct(variable: string): string[];
  /** Whether the correct answer stands beside the rules, and so could contradict them. */
  readonly declares: boolean;
  /** Whether the file says how to score at all. */
  readonly scores: boolean;
  /** Rules or expressions that are not known here, by name. */
  readonly unknown: readonly string[];
}

/** Scores that differ by less than this are one: files write thirds with few decimals. */
export const SCORE_SLACK = 1e-4;
