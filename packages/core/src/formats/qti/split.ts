/** One item of a file that asks several things, one below the other, as several items: each with its question, its part of the scoring and of what is shown. */
import { richOfXhtml } from './content.js';
import type { AssessmentItem, Interaction } from './assessmentItem.js';
import { type Answers, SCORE_SLACK, type Scorer } from './scoring.js';

/** What stands around one thing to answer in the text of its item, as XHTML: what is ahead of it, and its own prompt. */
export interface Around {
  before: string;
  prompt: string;
}

/** Response variables that a thing to answer is handed in by. */
const variablesOf = (part: Interaction): string[] =>
  part.type === 'match' ? [...new Set(part.rows.flatMap((r, n) => r.options.map((o) => part.answer(n, o)[0])))] : [part.variable];

/** The last block of a text, and what is ahead of it. */
function lastBlock(xhtml: string): { ahead: string; last: string } {
  const blocks = xhtml.split(/(?<=<\/(?:p|h[1-6]|ul|ol|table|pre|blockquote)>)/).filter((b) => b.trim());
  return { ahead: blocks.slice(0, -1).join(''), last: blocks[blocks.length - 1] ?? '' };
}

/** The rules for one thing while all others are answered as the file calls it correct. */
class PartScorer implements Scorer {
  private readonly own: readonly string[];
  /** What is shown whatever is answered here. */
  private readonly always: ReadonlySet<string>;
  private readonly base: number;
  constructor(
    private readonly whole: Scorer,
    part: Interaction,
    private readonly others: Answers,
  ) {
    this.own = variablesOf(part);
    const tried = [{}, ...('options' in part ? part.options.map((o) => ({ [part.variable]: [o.identifier] })) : [this.correctly()])];
    const shown = tried.map((a) => whole.score({ ...others, ...a }).shown);
    this.always = new Set([...(shown[0] ?? [])].filter((id) => shown.every((s) => s.has(id))));
    this.base = whole.score(others).score;
  }
  private correctly(): Answers {
    return Object.fromEntries(this.own.map((v) => [v, this.whole.correct(v)]));
  }
  score(answers: Answers, unbounded?: boolean): { score: number; shown: ReadonlySet<string> } {
    const { score, shown } = this.whole.score({ ...this.others, ...answers }, unbounded);
    return { score: score - this.base, shown: new Set([...shown].filter((id) => !this.always.has(id))) };
  }
  literals(variable: string): string[] {
    return this.whole.literals(variable);
  }
  correct(variable: string): string[] {
    return this.whole.correct(variable);
  }
  get declares(): boolean {
    return this.whole.declares;
  }
  get scores(): boolean {
    return this.whole.scores;
  }
  get unknown(): readonly string[] {
    return this.whole.unknown;
  }
}

/** Kinds that stand by themselves below a question; gaps are in a text together. */
const ALONE: ReadonlySet<Interaction['type']> = new Set(['choice', 'order', 'match', 'extended']);

/**
 * The things that an item asks, an item each; the item itself where it asks one, or where they stand in one text.
 * @param around of each thing what stands around it
 * @param rest what stands behind the last one
 */
export function apart(asked: AssessmentItem, around: readonly Around[], rest: string): AssessmentItem[] {
  const { parts, scorer, unsupported } = asked;
  const variables = parts.flatMap(variablesOf);
  if (unsupported || parts.length < 2 || parts.length !== around.length || !parts.every((p) => ALONE.has(p.type))) return [asked];
  if (new Set(variables).size < variables.length) return [asked];
  const right = new Map(variables.map((v) => [v, scorer.correct(v)]));
  const full = scorer.score(Object.fromEntries(right)).score;
  const scorers = parts.map((part) => {
    const own = new Set(variablesOf(part));
    return new PartScorer(scorer, part, Object.fromEntries([...right].filter(([v]) => !own.has(v))));
  });
  const each = parts.map((p, n) => scorers[n]?.score(Object.fromEntries(variablesOf(p).map((v) => [v, right.get(v) ?? []]))).score ?? 0);
  // where points are there for all of them together only, each has its share of them
  const together = Math.abs(each.reduce((a, b) => a + b, 0) - full) > SCORE_SLACK;
  const total = asked.scaled && asked.points !== null ? asked.points : full;
  const first = around[0] as Around;
  const opening = first.prompt ? { ahead: first.before, last: '' } : lastBlock(first.before);
  const passage = `${asked.passage ?? ''}${richOfXhtml(opening.ahead)}`;
  return parts.map((part, n) => {
    const { before, prompt } = n ? (around[n] as Around) : { before: opening.last, prompt: first.prompt };
    const { label: _label, modelAnswer, rubric, ...more } = asked.more;
    const essay = part.type === 'extended';
    return {
      ...asked,
      identifier: `${asked.identifier}/${n + 1}`,
      stem: richOfXhtml(`${before}${prompt}${n === parts.length - 1 ? rest : ''}`),
      parts: [part],
      scorer: scorers[n] as Scorer,
      points: together ? total / parts.length : asked.scaled && full > 0 ? (total * (each[n] ?? 0)) / full : null,
      scaled: together || asked.scaled,
      ...(passage && { passage }),
      more: { ...more, ...(essay && modelAnswer && { modelAnswer }), ...(essay && rubric && { rubric }) },
      apart: { at: n + 1, of: parts.length, together },
    };
  });
}
