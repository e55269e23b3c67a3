/**
 * Makes an item of the model of what a QTI file shows and how it scores. The key is found by answering: every option, every text
 * and number that the rules speak of is handed to the file's own scoring, and what it earns is its credit. So the same code reads
 * response conditions, templates, mappings and explicit rules.
 */
import { counted } from '../../language/counted.js';
import { middleOf } from '../../language/decimal.js';
import { stableId } from '../../item/ids.js';
import { gapMarks, keyProblem, nameOf } from '../../item/kinds.js';
import { defaultMatch, type Gap, type Item, type MatchRule, type NumberAnswer, type Option, type TextAnswer } from '../../item/model.js';
import { richToPlain } from '../../item/richText.js';
import { gapShares, ruleFor, runsOf, settledRanges, tidyRich } from '../../item/sameness.js';
import { scoringFor } from '../../item/scoring.js';
import { truth } from '../../language/truths.js';
import { asGap } from '../blank.js';
import { joinRich } from './content.js';
import type { AssessmentItem, Choice, Interaction } from './assessmentItem.js';
import { SCORE_SLACK, type Answers } from './scoring.js';
import { partsOf } from '../../item/strip.js';

/** What could not be taken over, or not as it was; told with the item. */
export interface Remark {
  code: string;
  severity: 'error' | 'warning' | 'info';
  message: string;
}
/** An item of the model, null where the file asks for what the model has not; with remarks on what was guessed or left out. */
export interface Made {
  item: Item | null;
  remarks: Remark[];
  /** The score that earns all of the item's points. */
  full: number;
}

/** A text that no rule of a file speaks of. */
const JUNK = 'zq7 no such answer';
const FAR = 1e15;

const round = (n: number): number => Math.round(n * 1e6) / 1e6;
const whole = (n: number): number => (Math.abs(n - Math.round(n)) < 1e-3 ? Math.round(n) : Math.round(n * 1e4) / 1e4);
/** A credit from a score: thirds and the like are written with few decimals. */
function share(score: number, full: number): number {
  const c = score / full;
  for (const d of [1, 2, 3, 4, 5, 6, 7, 8, 9, 12])
    if (Math.abs(c * d - Math.round(c * d)) < 2e-3 && Math.abs(c - Math.round(c * d) / d) < SCORE_SLACK) return round(Math.round(c * d) / d);
  return round(c);
}
const clamp = (c: number): number => Math.max(-1, Math.min(1, c));

/** One answer to the whole item, with the feedback that shows for it. */
interface Probe {
  /** Earns everything. */
  full: boolean;
  /** Earns nothing although something is answered. */
  none: boolean;
  shown: ReadonlySet<string>;
}

class Maker {
  readonly remarks: Remark[] = [];
  constructor(private readonly asked: AssessmentItem) {}

  private tell(severity: Remark['severity'], code: string, message: string): void {
    this.remarks.push({ severity, code, message });
  }
  private score(answers: Answers): number {
    return this.asked.scorer.score(answers).score;
  }
  /** The score that is everything: what the file says where it is ours, else the most that can be earned. */
  private scale(full: number): number {
    return this.asked.fullScore ?? full;
  }
  full = 1;
  private base(full: number): { id: string; stem: string; points: number } & Partial<Item> {
    const a = this.asked;
    if (full > 0) this.full = full;
    const { label, hints, tags, outcomes, level, timeLimit, required, bonus } = a.more;
    const scaled = a.scaled && a.points !== null;
    const points = scaled ? (a.points ?? 1) : full > 0 ? full : (a.points ?? 1);
    return {
      id: idOf(a),
      stem: a.stem,
      points: Math.max(0, whole(points)),
      ...(label && { label }),
      ...(a.title && { title: a.title }),
      ...(hints?.length && { hints }),
      ...(tags?.length && { tags }),
      ...(outcomes?.length && { outcomes }),
      ...(level && { level }),
      ...(bonus && { bonus }),
      ...(required !== undefined && { required }),
      ...(timeLimit && { timeLimit }),
    };
  }

  make(): Item | null {
    const { parts, more, unsupported } = this.asked;
    if (unsupported) return null;
    if (!parts.length) {
      const general = texts(this.asked.scorer.score({}).shown, this.asked);
      return { ...this.base(0), kind: 'information', points: 0, ...(general && { feedback: { general } }) };
    }
    const [part] = parts as [Interaction];
    if (parts.every((p) => p.type === 'typed' || p.type === 'gap')) {
      const only = parts.length === 1 && part.type === 'typed' ? (this.asked.exact && this.asked.inline ? null : standsAlone(this.asked.stem)) : null;
      return only !== null && part.type === 'typed'
        ? this.asked.exact
          ? this.typed(part, only)
          : asGap(this.typed(part, only))
        : this.cloze(parts as (Interaction & { type: 'typed' | 'gap' })[]);
    }
    if (parts.length > 1) return null;
    switch (part.type) {
      case 'choice':
        return this.choice(part);
      case 'extended': {
        const shown = [this.asked.scorer.score({ [part.variable]: [JUNK] }).shown];
        const feedback = this.asked.feedback.size ? texts(shown[0] as ReadonlySet<string>, this.asked) : '';
        return {
          ...this.base(0),
          kind: 'essay',
          points: this.asked.points ?? 1,
          ...(feedback && { feedback: { general: feedback } }),
          ...(more.modelAnswer && { modelAnswer: more.modelAnswer }),
          ...(more.rubric && { rubric: more.rubric }),
          ...(part.lines && { lines: part.lines }),
        };
      }
      case 'order':
        return this.ordering(part);
      case 'match':
        return this.matching(part);
      default:
        return null;
    }
  }

  // ── choice ──

  private choice(part: Extract<Interaction, { type: 'choice' }>): Item {
    const { scorer } = this.asked;
    const named = new Map(part.options.map((o, i) => [o.identifier, i]));
    const answer = (chosen: readonly number[]): Answers => ({ [part.variable]: chosen.map((k) => part.options[k]?.identifier ?? '') });
    const singles = part.options.map((_, k) => scorer.score(answer([k]), true));
    const declared = scorer.declares ? scorer.correct(part.variable) : [];
    const strangers = declared.filter((d) => !named.has(d));
    const keyed = declared.flatMap((d) => named.get(d) ?? []);
    const raw = singles.map((s) => s.score);
    if (!part.several) {
      const full = this.scale(Math.max(0, ...raw));
      const best = raw.flatMap((r, k) => (r > SCORE_SLACK && r >= full - SCORE_SLACK ? [k] : []));
      const conflict = best.length > 0 && keyed.some((k) => !best.includes(k));
      if (conflict) this.tell('error', 'key-conflict', 'the answer that the file calls correct is not the one that its scoring rewards');
      else if (!best.length) this.noKey(strangers);
      const options = part.options.map((o, k) => this.option(o, k, best.length && !conflict ? clamp(share(raw[k] ?? 0, full)) : 0));
      const shown = part.options.map((_, k) => ({ shown: scorer.score(answer([k])).shown, full: best.includes(k), none: !best.includes(k) }));
      return this.trueFalse(options, shown, full) ?? this.withFeedback({ ...this.base(full), kind: 'multiple-choice', options, ...shuffleOf(part) }, shown);
    }
    const all = part.options.map((_, k) => k);
    const positive = all.filter((k) => (raw[k] ?? 0) > SCORE_SLACK);
    const unbounded = (chosen: readonly number[]): number => scorer.score(answer(chosen), true).score;
    // an option counts for the answer if leaving it out of everything costs something
    const everything = unbounded(all);
    const marginal = all.filter((k) => everything - unbounded(all.filter((x) => x !== k)) > SCORE_SLACK);
    const asked = scorer.declares ? [] : scorer.correct(part.variable).flatMap((d) => named.get(d) ?? []);
    // single options say nothing where only the whole key is rewarded: the set that earns most is the key
    const sets = [keyed, marginal, positive, asked].filter((s) => s.length > 0).map((keys) => ({ keys, score: this.score(answer(keys)) }));
    // rules that ask for some options and forbid others: all combinations of few options are tried, the fewest first
    if (!sets.some((s) => s.score > SCORE_SLACK) && all.length <= MOST_TRIED)
      sets.push(
        ...Array.from({ length: (1 << all.length) - 1 }, (_, n) => all.filter((k) => (n + 1) & (1 << k)))
          .sort((a, b) => a.length - b.length)
          .map((keys) => ({ keys, score: this.score(answer(keys)) })),
      );
    let full = Math.max(0, ...sets.map((s) => s.score));
    let keys = sets.find((s) => s.score >= full - SCORE_SLACK)?.keys ?? [];
    if (!(full > SCORE_SLACK)) {
      this.noKey(strangers);
      keys = [];
      full = 0;
    } else if (keyed.length && this.score(answer(keyed)) < full - SCORE_SLACK) {
      this.tell('error', 'key-conflict', 'the options that the file calls correct are not the ones that its scoring rewards');
      keys = [];
    }
    if (full > 0) full = this.scale(full);
    const isKey = (k: number): boolean => keys.includes(k);
    let options = part.options.map((o, k) => this.option(o, k, !keys.length ? 0 : clamp(share(raw[k] ?? 0, full))));
    let scoring: Extract<Item, { kind: 'multiple-response' }>['scoring'] = 'all-or-nothing';
    if (keys.length) {
      // the weights as they stand where they mark the keys, else the keys alone
      const weighted = options.every((o, k) => o.credit > 0 === isKey(k)) ? options : options.map((o, k) => ({ ...o, credit: isKey(k) ? 1 : 0 }));
      const settled = scoringFor(weighted, (chosen) => this.score(answer(chosen)) / full, SCORE_SLACK * 5);
      if (settled) ({ scoring, options } = settled);
      else {
        options = options.map((o, k) => ({ ...o, credit: isKey(k) ? ((raw[k] ?? 0) > 0 ? o.credit : 1) : Math.min(0, o.credit) }));
        scoring = raw.some((r) => r !== 0) ? 'weights' : 'all-or-nothing';
        this.tell('warning', 'scoring-adapted', 'the file scores combinations of options in a way of its own; the points of single options were kept');
      }
    }
    // where only so many may be chosen, choosing all cannot earn everything
    if (keys.length && part.most !== undefined && part.most < all.length && options.every((o) => o.credit >= 0) && scoring !== 'all-or-nothing') {
      const earning = options.filter((o) => o.credit > 0);
      if (earning.length < options.length || part.most < earning.length) {
        scoring = 'right-minus-wrong';
        options = options.map((o) => ({ ...o, credit: o.credit > 0 ? 1 : 0 }));
        this.tell(
          'warning',
          'choices-limited',
          `the file lets ${part.most} be chosen; here any number can be, and a wrong choice takes what a right one gives`,
        );
      }
    }
    const probe = (chosen: readonly number[]): Probe => {
      const { score, shown } = scorer.score(answer(chosen));
      return { shown, full: full > 0 && score >= full - SCORE_SLACK, none: score <= SCORE_SLACK };
    };
    return this.withFeedback(
      { ...this.base(full), kind: 'multiple-response', scoring, options, ...shuffleOf(part) },
      all.map((k) => probe([k])),
      [probe(all.filter(isKey)), probe(all.filter((k) => !isKey(k)))],
    );
  }

  private option(o: Choice, k: number, credit: number): Option {
    return {
      id: stableId(`${idOf(this.asked)}/${k}`),
      content: o.content,
      credit,
      ...(o.feedback && { feedback: o.feedback }),
      ...(o.pinned && { pinned: true }),
    };
  }

  private noKey(strangers: readonly string[]): void {
    const { scorer, parts } = this.asked;
    const ids = new Set(parts.flatMap((p) => ('options' in p ? p.options.map((o) => o.identifier) : [])));
    const variable = parts[0] && 'variable' in parts[0] ? parts[0].variable : '';
    const unknown = [...new Set([...strangers, ...scorer.literals(variable).filter((l) => l !== '' && !ids.has(l))])];
    if (unknown.length) this.tell('error', 'key-unknown-option', `the key names “${unknown.join('”, “')}”, which is no option`);
    else this.tell('error', 'key-missing', 'nothing in the file says which answer is right');
  }

  private trueFalse(options: readonly Option[], shown: readonly Probe[], full: number): Item | null {
    if (options.length !== 2 || options.some((o) => o.pinned)) return null;
    const values = options.map((o) => truth(richToPlain(o.content), false));
    const [a, b] = values;
    if (a == null || b == null || a === b) return null;
    const credits = options.map((o) => o.credit);
    if (!credits.every((c) => c === 0 || c === 1) || credits.filter((c) => c === 1).length > 1) return null;
    const key = credits.indexOf(1);
    const made = this.withFeedback({ ...this.base(full), kind: 'multiple-choice', options: [...options] }, shown);
    if (made.kind !== 'multiple-choice') return null;
    const of = (t: boolean): string | undefined => made.options[values.indexOf(t)]?.feedback;
    const optionFeedback = { ...(of(true) && { true: of(true) }), ...(of(false) && { false: of(false) }) };
    const { options: _options, shuffle: _shuffle, ...rest } = made;
    return {
      ...rest,
      kind: 'true-false',
      answer: key < 0 ? null : (values[key] ?? null),
      ...(Object.keys(optionFeedback).length && { optionFeedback }),
    } as Item;
  }

  /** Gives every feedback text its place: for right, for wrong, always, or at single options. */
  private withFeedback<T extends Extract<Item, { options: Option[] }>>(item: T, byOption: readonly Probe[], more: readonly Probe[] = []): T {
    if (!this.asked.feedback.size) return item;
    // without a wrong option only no answer at all shows what is said to wrong ones
    const none = { shown: this.asked.scorer.score({}).shown, full: false, none: true };
    const probes = [...byOption, ...more, ...(byOption.some((p) => p.none) ? [] : [none])];
    const options = item.options.map((o) => ({ ...o }));
    const feedback: NonNullable<Item['feedback']> = {};
    const put = (field: 'correct' | 'incorrect' | 'general', text: string): void => {
      feedback[field] = feedback[field] ? joinRich([feedback[field], text], ' ') : text;
    };
    for (const [id, text] of this.asked.feedback) {
      const shows = (p: Probe): boolean => p.shown.has(id);
      if (!probes.some(shows)) continue;
      const at = byOption.flatMap((p, k) => (shows(p) ? [k] : []));
      const hint = /option/i.test(id)
        ? 'option'
        : /general/i.test(id) && !/incorrect/i.test(id)
          ? 'general'
          : /incorrect|wrong|negative/i.test(id)
            ? 'incorrect'
            : /correct|right|positive/i.test(id)
              ? 'correct'
              : null;
      const onlyRight = probes.every((p) => p.full || !shows(p));
      const onlyWrong = probes.every((p) => !p.full || !shows(p));
      // a text that shows for one option alone is that option's, unless its name says that it is for all that are right or wrong
      if (probes.every(shows) && (hint === 'general' || hint === null)) put('general', text);
      else if (onlyRight && (hint === 'correct' || (hint === null && more.some(shows) && at.length !== 1))) put('correct', text);
      else if (onlyWrong && (hint === 'incorrect' || (hint === null && at.length > 1 && probes.every((p) => !p.none || shows(p))))) put('incorrect', text);
      else
        for (const k of at) {
          const o = options[k];
          if (o) o.feedback = o.feedback ? joinRich([o.feedback, text], ' ') : text;
        }
    }
    return { ...item, options, ...(Object.keys(feedback).length && { feedback }) };
  }

  // ── typed ──

  private typed(part: Extract<Interaction, { type: 'typed' }>, { stem, unit: behind }: { stem: string; unit?: string }): Item {
    const probe = (text: string): { score: number; shown: ReadonlySet<string> } => this.asked.scorer.score({ [part.variable]: [text] });
    if (part.number) {
      const { answers, full, junk } = this.ranges(part.variable, probe);
      if (!answers.some((a) => a.credit >= 1)) this.noTyped();
      const general = this.wholeFeedback(
        answers.filter((a) => a.credit >= 1).map((a) => probe(String(middleOf(a))).shown),
        [junk],
      );
      const own = answers.map((a) => (a.feedback ? a : { ...a, ...feedbackFrom(general.rest(probe(String(middleOf(a))).shown), this.asked) }));
      const unit = this.asked.more.unit ?? behind;
      return { ...this.base(full), stem, kind: 'numeric', answers: own, ...general.feedback, ...(unit && { unit }) };
    }
    const { answers, full, match, junk } = this.accepted(part.variable, probe);
    if (!answers.some((a) => a.credit >= 1)) this.noTyped();
    const general = this.wholeFeedback(
      answers.filter((a) => a.credit >= 1).map((a) => probe(a.text).shown),
      [junk],
    );
    const own = answers.map((a) => ({ ...a, ...feedbackFrom(general.rest(probe(a.text).shown), this.asked) }));
    return { ...this.base(full), stem, kind: 'short-answer', answers: own.filter((a) => a.credit !== 0 || a.feedback), match, ...general.feedback };
  }
  private noTyped(): void {
    this.tell('error', 'key-missing', 'nothing in the file says which answer is right');
  }

  /** Feedback of the whole item, where the texts that stand for single answers are left over. */
  private wholeFeedback(
    right: readonly ReadonlySet<string>[],
    wrong: readonly ReadonlySet<string>[],
  ): { feedback: { feedback?: Item['feedback'] }; rest(shown: ReadonlySet<string>): Set<string> } {
    const every = (id: string, sets: readonly ReadonlySet<string>[]): boolean => sets.length > 0 && sets.every((s) => s.has(id));
    const fb: NonNullable<Item['feedback']> = {};
    const placed = new Set<string>();
    for (const [id, text] of this.asked.feedback) {
      const r = every(id, right);
      const w = every(id, wrong);
      const field = r && w ? 'general' : w ? 'incorrect' : r && !id.includes('ANSWER') ? 'correct' : null;
      if (!field) continue;
      placed.add(id);
      fb[field] = fb[field] ? joinRich([fb[field], text], ' ') : text;
    }
    return {
      feedback: Object.keys(fb).length ? { feedback: fb } : {},
      rest: (shown) => new Set([...shown].filter((id) => !placed.has(id))),
    };
  }

  /** Accepted texts of a variable and what each earns. */
  private accepted(
    variable: string,
    probe: (text: string) => { score: number; shown: ReadonlySet<string> },
    baseline = 0,
  ): { answers: TextAnswer[]; full: number; match: MatchRule; junk: ReadonlySet<string> } {
    const literals = this.asked.scorer.literals(variable).filter((t) => t.trim() !== '');
    const junk = probe(JUNK);
    const scored = literals.map((text) => ({ text, ...probe(text) }));
    const full = Math.max(0, ...scored.map((s) => s.score - baseline));
    if (junk.score - baseline > SCORE_SLACK)
      this.tell('warning', 'scoring-adapted', 'the file rewards answers that it does not name; only those it names were taken');
    const counts = (x: { score: number; shown: ReadonlySet<string> }): boolean => x.score - baseline > SCORE_SLACK || without(x.shown, junk.shown).size > 0;
    const lettered = scored.filter((x) => counts(x) && x.text.toLowerCase() !== x.text.toUpperCase());
    const sensitive = lettered.map((x) => {
      const other = probe(swapped(x.text));
      return other.score < x.score - SCORE_SLACK || (x.score - baseline <= SCORE_SLACK && !counts(other));
    });
    const caseSensitive = sensitive.length > 0 && sensitive.every(Boolean);
    if (!caseSensitive && sensitive.some(Boolean))
      this.tell('warning', 'match-adapted', 'capital letters count for some of its answers and not for others; here they do not count');
    const inside = lettered.find((s) => probe(`${JUNK} ${s.text}`).score >= s.score - SCORE_SLACK && s.score > junk.score + SCORE_SLACK);
    if (inside) this.tell('warning', 'match-adapted', `the file accepts any answer in which “${inside.text}” occurs; here it has to be the whole answer`);
    const seen = new Set<string>();
    const answers = scored.flatMap(({ text, score, shown }) => {
      const same = caseSensitive ? text.trim() : text.trim().toLowerCase();
      const specific = [...shown].some((id) => !junk.shown.has(id));
      if (seen.has(same) || (score - baseline <= SCORE_SLACK && !specific)) return [];
      seen.add(same);
      return [{ text: text.trim(), credit: full > 0 ? clamp(share(score - baseline, full)) : 0 }];
    });
    const match: MatchRule = { ...defaultMatch, caseSensitive, numbersAsValues: false, anyOrder: false };
    return {
      answers,
      full,
      match: ruleFor(
        match,
        answers.map((a) => ({ ...a, credit: 1 })),
      ),
      junk: junk.shown,
    };
  }

  /** Accepted ranges of a variable: the scoring is constant between the figures that the rules name. */
  private ranges(
    variable: string,
    probe: (text: string) => { score: number; shown: ReadonlySet<string> },
    baseline = 0,
  ): { answers: NumberAnswer[]; full: number; junk: ReadonlySet<string> } {
    const figures = [...new Set(this.asked.scorer.literals(variable).map((l) => Number(l.trim().replace(',', '.'))))]
      .filter(Number.isFinite)
      .sort((a, b) => a - b);
    const first = figures[0] ?? 0;
    const last = figures[figures.length - 1] ?? 0;
    const junk = probe(String(last + 1017 + Math.abs(last)));
    // figures and the stretches between them, in turn
    const points = figures.flatMap((f, i) => (i ? [middleOf({ min: figures[i - 1] ?? f, max: f }), f] : [f]));
    const outside = [first - 1017 - Math.abs(first), last + 1017 + Math.abs(last)].map((x) => probe(String(x)).score - baseline);
    const earned = points.map((x) => probe(String(x)).score - baseline);
    const full = Math.max(0, ...earned);
    if (Math.max(...outside) > SCORE_SLACK && figures.length) this.tell('warning', 'scoring-adapted', 'the file accepts numbers without a limit to one side');
    // where single answers have feedback of their own, each stretch is an answer; else ranges may lie in one another
    const own = points.map((x) => this.ownFeedback(without(probe(String(x)).shown, junk.shown)));
    if (own.some(Boolean)) {
      const signs = points.map((_, i) => ((earned[i] ?? 0) > SCORE_SLACK || own[i] ? JSON.stringify([share(earned[i] ?? 0, full), own[i]]) : ''));
      const answers = runsOf(signs, figures).map(({ from, min, max }) => ({
        min,
        max,
        credit: share(earned[from] ?? 0, full),
        ...(own[from] && { feedback: own[from] }),
      }));
      // of the same credit they stay in the order in which the first one counts
      return { answers: answers.sort((a, b) => b.credit - a.credit), full, junk: junk.shown };
    }
    const answers: NumberAnswer[] = [];
    for (const level of [...new Set(earned)].filter((e) => e > SCORE_SLACK).sort((a, b) => b - a)) {
      let from: number | null = null;
      for (let i = 0; i <= points.length; i++) {
        const in_ = i < points.length && (earned[i] ?? 0) >= level - SCORE_SLACK;
        if (in_ && from === null) from = i;
        if (!in_ && from !== null) {
          const to = i - 1;
          // odd places are the open stretches: their ends are the figures beside them
          const min = from === 0 && (outside[0] ?? 0) >= level - SCORE_SLACK ? -FAR : figures[from >> 1];
          const max = to === points.length - 1 && (outside[1] ?? 0) >= level - SCORE_SLACK ? FAR : figures[(to + 1) >> 1];
          answers.push({ min: min ?? 0, max: max ?? 0, credit: share(level, full) });
          from = null;
        }
      }
    }
    return { answers: settledRanges(answers), full, junk: junk.shown };
  }

  /** Feedback that is said to single answers: what is not for all right or all wrong ones. */
  private ownFeedback(shown: ReadonlySet<string>): string {
    return texts(new Set([...shown].filter((id) => /ANSWER/.test(id))), this.asked);
  }

  // ── gaps ──

  private cloze(parts: readonly Extract<Interaction, { type: 'typed' | 'gap' }>[]): Item {
    const { scorer } = this.asked;
    const right: string[] = parts.map((p) => this.bestOf(p));
    const answersWith = (values: readonly (string | null)[]): Answers => {
      const out: Record<string, string[]> = {};
      parts.forEach((p, i) => {
        const v = values[i];
        if (v !== null && v !== undefined) (out[p.variable] ??= []).push(v);
      });
      return out;
    };
    const none = parts.map(() => null);
    const at = (i: number, v: string, others: readonly (string | null)[]): Answers => answersWith(others.map((o, k) => (k === i ? v : o)));
    const all = this.score(answersWith(right));
    const singles = parts.map((_, i) => this.score(at(i, right[i] ?? '', none)));
    // where the gaps only count together, one is tried among right ones
    const together = parts.length > 1 && Math.abs(singles.reduce((s, x) => s + x, 0) - all) > SCORE_SLACK * Math.max(1, all);
    const around = together ? right : none;
    const worth: number[] = [];
    const gaps: Gap[] = parts.map((p, i) => {
      const probe = (text: string): { score: number; shown: ReadonlySet<string> } => scorer.score(at(i, text, around));
      const baseline = together ? probe(p.type === 'gap' ? '' : JUNK).score : 0;
      const id = String(i + 1);
      if (p.type === 'gap') {
        const raw = p.options.map((o) => probe(o.identifier).score - baseline);
        const full = Math.max(0, ...raw);
        worth.push(full);
        const credits = raw.map((r) => (full > SCORE_SLACK ? clamp(share(r, full)) : 0));
        // a list in which every entry is right is a list of accepted words
        if (full > SCORE_SLACK && p.options.length && credits.every((c) => c > 0))
          return { id, kind: 'text', points: 1, answers: p.options.map((o, k) => ({ text: richToPlain(o.content).trim(), credit: credits[k] ?? 1 })) };
        return {
          id,
          kind: 'choice',
          points: 1,
          options: p.options.map((o, k) => ({
            id: stableId(`${idOf(this.asked)}/${i}/${k}`),
            content: o.content,
            credit: credits[k] ?? 0,
            ...(o.feedback && { feedback: o.feedback }),
          })),
        };
      }
      if (p.number) {
        const r = this.ranges(p.variable, probe, baseline);
        worth.push(r.full);
        return { id, kind: 'number', points: 1, answers: r.answers };
      }
      const t = this.accepted(p.variable, probe, baseline);
      worth.push(t.full);
      const { match } = t;
      const usual = JSON.stringify(match) === JSON.stringify(defaultMatch);
      const answers = t.answers.map((a) => ({ ...a, ...feedbackFrom(without(probe(a.text).shown, t.junk), this.asked, /ANSWER/) }));
      return { id, kind: 'text', points: 1, answers: answers.filter((a) => a.credit !== 0 || a.feedback), ...(!usual && { match }) };
    });
    if (together && all > SCORE_SLACK) this.tell('warning', 'scoring-adapted', 'the file marks the gaps only as a whole; here each gap earns its part');
    const shares = gapShares(worth);
    const stem = this.asked.inline ? this.asked.stem : `${this.asked.stem} ${parts.map((_, i) => `[[${i + 1}]]`).join(' ')}`;
    const order = new Set(gapMarks(stem));
    const kept = gaps.map((g, i) => ({ ...g, points: shares[i] || 1 })).filter((g) => order.has(g.id));
    if (kept.some((g) => (g.kind === 'choice' ? g.options.every((o) => o.credit < 1) : g.answers.every((a) => a.credit < 1))))
      this.tell('error', 'gap-without-answer', 'a gap has no accepted answer');
    const whole_ = this.wholeFeedback(
      [scorer.score(answersWith(right)).shown],
      [scorer.score(answersWith(parts.map((p) => (p.type === 'gap' ? wrongOf(p, right[parts.indexOf(p)] ?? '') : p.number ? String(FAR / 10) : JUNK)))).shown],
    );
    const bank = this.asked.more.wordBank;
    return { ...this.base(all), stem, kind: 'cloze', gaps: kept, ...whole_.feedback, ...(bank?.length && { wordBank: bank }) };
  }

  /** The answer of a gap that the file calls correct, else the one that earns most by itself. */
  private bestOf(p: Extract<Interaction, { type: 'typed' | 'gap' }>): string {
    const { scorer } = this.asked;
    const declared = scorer.correct(p.variable);
    if (p.type === 'gap') {
      const d = declared.find((x) => p.options.some((o) => o.identifier === x));
      if (d) return d;
    } else if (declared.length === 1) return declared[0] ?? '';
    const candidates = p.type === 'gap' ? p.options.map((o) => o.identifier) : scorer.literals(p.variable);
    const scored = candidates.map((c) => ({ c, s: this.score({ [p.variable]: [c] }) }));
    return scored.sort((a, b) => b.s - a.s)[0]?.c ?? declared[0] ?? '';
  }

  // ── order and pairs ──

  private ordering(part: Extract<Interaction, { type: 'order' }>): Item {
    const { scorer } = this.asked;
    const correct = scorer.correct(part.variable);
    const byId = new Map(part.options.map((o) => [o.identifier, o]));
    const answer = { [part.variable]: correct };
    const full = this.score(answer);
    const known = correct.flatMap((c) => byId.get(c) ?? []);
    if (known.length < 2 || known.length < correct.length) {
      if (correct.length > known.length) this.tell('error', 'key-unknown-option', 'the sequence names a piece that is not there');
      else this.tell('error', 'key-missing', 'nothing in the file says which order is right');
      const pieces = `<ul>${part.options.map((o) => `<li>${o.content}</li>`).join('')}</ul>`;
      return { ...this.base(full), stem: joinRich([this.asked.stem, pieces]), kind: 'ordering', sequence: [] };
    }
    const turned = { [part.variable]: [...correct].reverse() };
    const fb = this.wholeFeedback([scorer.score(answer).shown], [scorer.score(turned).shown]);
    const swap = [...correct];
    [swap[0], swap[1]] = [swap[1] ?? '', swap[0] ?? ''];
    if (correct.length > 2 && this.score({ [part.variable]: swap }) > SCORE_SLACK)
      this.tell('warning', 'scoring-adapted', 'the file gives points for parts of the order; here the whole order counts');
    return { ...this.base(full), kind: 'ordering', sequence: known.map((o) => o.content), ...fb.feedback, ...shuffleOf(part) };
  }

  private matching(part: Extract<Interaction, { type: 'match' }>): Item {
    const { scorer } = this.asked;
    const rights = new Map<string, string>();
    for (const r of part.rows) for (const o of r.options) if (!rights.has(tidyRich(o.content))) rights.set(tidyRich(o.content), o.content);
    const declared = part.rows.map((r, i) => r.options.find((o) => isIn(scorer.correct(part.answer(i, o)[0]), part.answer(i, o)[1])) ?? null);
    const single = part.rows.map((r, i) =>
      r.options.map((o) => {
        const [v, a] = part.answer(i, o);
        return scorer.score({ [v]: [a] }, true).score;
      }),
    );
    const additive = single.some((row) => row.some((s) => s > SCORE_SLACK));
    if (single.some((row) => row.some((s) => s < -SCORE_SLACK)))
      this.tell('warning', 'scoring-adapted', 'the file takes points off for wrong pairs; here they earn nothing');
    const chosen = part.rows.map((r, i) => {
      const row = single[i] ?? [];
      const best = Math.max(0, ...row);
      const at = row.flatMap((s, k) => (s > SCORE_SLACK && s >= best - SCORE_SLACK ? [k] : []));
      if (!additive) return declared[i] ?? null;
      if (at.length > 1 && declared[i]) return declared[i];
      return r.options[at[0] ?? -1] ?? null;
    });
    const given = (pick: readonly (Choice | null)[]): Answers => {
      const out: Record<string, string[]> = {};
      pick.forEach((o, i) => {
        if (!o) return;
        const [v, a] = part.answer(i, o);
        (out[v] ??= []).push(a);
      });
      return out;
    };
    const full = this.score(given(chosen));
    const pairs = part.rows.map((r, i) => ({ left: r.content, right: chosen[i]?.content ?? '' }));
    const used = new Set(chosen.flatMap((c) => (c ? [tidyRich(c.content)] : [])));
    const extraRights = [...rights].filter(([k]) => !used.has(k)).map(([, content]) => content);
    const missing = chosen.filter((c) => !c).length;
    if (missing === chosen.length) this.tell('error', 'key-missing', 'nothing in the file says what belongs together');
    else if (missing) this.tell('warning', 'match-unbalanced', `${counted(missing, 'left side has', 'left sides have')} no partner`);
    const wrong = part.rows.map((r, i) => r.options.find((o) => tidyRich(o.content) !== tidyRich(chosen[i]?.content ?? '')) ?? null);
    const fb = this.wholeFeedback([scorer.score(given(chosen)).shown], [scorer.score(given(wrong)).shown]);
    if (full > SCORE_SLACK && chosen.length > 1 && !missing) {
      const one = this.score(given(chosen.map((c, i) => (i ? null : c))));
      if (!additive) this.tell('info', 'scoring-adapted', 'the file marks the pairs only as a whole; here each pair earns its part');
      else if (Math.abs(one * chosen.length - full) > SCORE_SLACK * chosen.length)
        this.tell('warning', 'scoring-adapted', 'the file gives the pairs points of their own; here each earns the same part');
    }
    return { ...this.base(full), kind: 'matching', pairs, extraRights, ...fb.feedback, ...shuffleOf(part) };
  }
}

/** Options of which every combination is answered. */
const MOST_TRIED = 8;

/** Takes the key out of an item, in place. */
function leaveKeyOpen(item: Item): void {
  if ('options' in item) for (const o of item.options) o.credit = 0;
  if (item.kind === 'true-false') item.answer = null;
  if (item.kind === 'short-answer' || item.kind === 'numeric') item.answers = [];
  if (item.kind === 'matching') for (const p of item.pairs) p.right = '';
  if (item.kind === 'cloze')
    for (const g of item.gaps)
      if (g.kind === 'choice') for (const o of g.options) o.credit = 0;
      else g.answers = [];
}

/** A text with every letter that has one in its other case. */
const swapped = (t: string): string =>
  Array.from(t, (c) => {
    const other = c === c.toLowerCase() ? c.toUpperCase() : c.toLowerCase();
    return other.length === c.length && other.toLowerCase() === c.toLowerCase() ? other : c;
  }).join('');
const isIn = (list: readonly string[], value: string): boolean => list.some((x) => x === value || partsOf(x, ',').join(',') === value);
const without = (shown: ReadonlySet<string>, other: ReadonlySet<string>): Set<string> => new Set([...shown].filter((id) => !other.has(id)));
const shuffleOf = (part: { shuffle?: boolean }): { shuffle?: true } => (part.shuffle ? { shuffle: true } : {});
const wrongOf = (p: Extract<Interaction, { type: 'gap' }>, right: string): string => p.options.find((o) => o.identifier !== right)?.identifier ?? '';
const texts = (shown: ReadonlySet<string>, asked: AssessmentItem): string =>
  joinRich(
    [...asked.feedback].filter(([id]) => shown.has(id)).map(([, t]) => t),
    ' ',
  );
function feedbackFrom(shown: ReadonlySet<string>, asked: AssessmentItem, only?: RegExp): { feedback?: string } {
  const text = texts(only ? new Set([...shown].filter((id) => only.test(id))) : shown, asked);
  return text ? { feedback: text } : {};
}

/** A typed answer's blank that stands alone behind the question: the stem without it and the unit behind it; null where it stands inside a text. */
function standsAlone(stem: string): { stem: string; unit?: string } | null {
  if (!gapMarks(stem).length) return { stem };
  const blank = stem.lastIndexOf('[[1]]');
  const before = stem.slice(0, Math.max(0, blank)).trimEnd();
  const behind = stem.slice(blank + '[[1]]'.length);
  const inParagraph = before.endsWith('<p>') ? /^([^<]{0,24})<\/p>$/.exec(behind) : null;
  if (blank < 0 || (!inParagraph && !(before.endsWith('<br/>') && !behind))) return null;
  const question = before.slice(0, before.lastIndexOf('<'));
  if (!question.trim()) return null;
  const unit = richToPlain(`<p>${inParagraph?.[1] ?? ''}</p>`).trim();
  return { stem: tidyRich(question), ...(unit && !/^[.?!:;]$/.test(unit) && { unit }) };
}

/** The id of an item: ours stand behind a word, since an identifier may not begin with a digit; foreign ones give the same id each time. */
function idOf({ identifier, stem }: Pick<AssessmentItem, 'identifier' | 'stem'>): string {
  const own = /^item-(.+)$/.exec(identifier)?.[1];
  return own ?? stableId(`${identifier}/${stem}`);
}

/** The item of one question of a file; null where the model has no kind for it. Every item without a complete key has an error that says why. */
export function itemOf(asked: AssessmentItem): Made {
  const maker = new Maker(asked);
  const item = maker.make();
  if (!item) {
    const what = asked.unsupported ?? 'several different interactions in one item';
    return {
      full: 1,
      item: null,
      remarks: [{ severity: 'error', code: 'kind-unsupported', message: `an item of a sort that is not held here (${what}) was left out` }],
    };
  }
  if (asked.drawn) {
    leaveKeyOpen(item);
    maker.remarks.length = 0;
    maker.remarks.push({
      severity: 'error',
      code: 'key-drawn',
      message: 'the file draws question and key anew for each learner (templateProcessing), which is not held here; the key is left open',
    });
  }
  const { title } = item;
  if (title && (tidyRich(title) === nameOf({ ...item, title: undefined } as Item) || /^(question|item|untitled)?\s*\d*$/i.test(title))) delete item.title;
  if (keyProblem(item) && !maker.remarks.some((r) => r.severity === 'error'))
    maker.remarks.push({ severity: 'error', code: keyProblem(item)?.code ?? 'key-missing', message: `it has ${keyProblem(item)?.message ?? 'no key'}` });
  if (asked.scorer.unknown.length)
    maker.remarks.push({
      severity: 'warning',
      code: 'scoring-adapted',
      message: `scoring of a sort that is not read here: ${asked.scorer.unknown.join(', ')}`,
    });
  return { item, remarks: maker.remarks, full: maker.full };
}
