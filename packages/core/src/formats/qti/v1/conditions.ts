/**
 * Response conditions of QTI 1.2: `resprocessing` with `respcondition`, `conditionvar`, `setvar` and `displayfeedback`.
 * Names and meanings: IMS QTI ASI Information Model and XML Binding 1.2, from memory; where files of the field disagree with
 * the letter, the field's meaning is taken and said beside it.
 */
import { childOf, childrenOf, descendants, textOf, type XmlNode } from '../../xmlTree.js';
import type { Answers, Outcome, Scorer } from '../scoring.js';
import { partsOf } from '../../../item/strip.js';

const yes = (text: string | undefined): boolean => /^(yes|true|1)$/i.test(text ?? '');
const RESPONSES = ['response_lid', 'response_str', 'response_num', 'response_grp', 'response_xy'] as const;
const COMPARING = ['varequal', 'varsubset', 'varsubstring', 'vargt', 'vargte', 'varlt', 'varlte'] as const;

/** A declared outcome variable with its bounds (QTI 1.2 ASI, decvar). */
export interface Decvar {
  name: string;
  dflt: number;
  min: number;
  max: number;
}

const figure = (text: string | undefined, other: number): number => {
  const n = text === undefined || text.trim() === '' ? Number.NaN : Number(text.replace(',', '.'));
  return Number.isNaN(n) ? other : n;
};

/** The scoring of one QTI 1.2 `item`. */
export class Conditions implements Scorer {
  private readonly conditions: readonly XmlNode[];
  readonly decvars: readonly Decvar[];
  readonly scoreName: string;
  readonly unknown: readonly string[];
  readonly scores: boolean;
  readonly declares = false;
  private readonly idents: readonly string[];

  /** @param letter whether `continue` is taken by the letter: in files that are known to say it where it is meant */
  constructor(
    private readonly item: XmlNode,
    private readonly letter = false,
  ) {
    this.idents = descendants(item, ...RESPONSES).map((r) => r.attributes['ident'] ?? '');
    const processing = childrenOf(item, 'resprocessing');
    this.conditions = processing.flatMap((p) => childrenOf(p, 'respcondition'));
    this.decvars = processing
      .flatMap((p) => descendants(p, 'decvar'))
      .map((d) => ({
        name: d.attributes['varname'] ?? 'SCORE',
        dflt: figure(d.attributes['defaultval'], 0),
        min: figure(d.attributes['minvalue'], Number.NEGATIVE_INFINITY),
        max: figure(d.attributes['maxvalue'], Number.POSITIVE_INFINITY),
      }));
    const set = this.conditions.flatMap((c) => childrenOf(c, 'setvar')).map((s) => s.attributes['varname'] ?? 'SCORE');
    const names = [...this.decvars.map((d) => d.name), ...set];
    this.scoreName = names.find((n) => n === 'SCORE') ?? names.find((n) => /score/i.test(n) && !/max/i.test(n)) ?? names[0] ?? 'SCORE';
    this.scores = set.length > 0;
    this.unknown = [...new Set(this.conditions.flatMap((c) => descendants(c, 'varinside', 'durequal', 'durlt', 'durgte', 'var_extension').map((n) => n.name)))];
  }

  /** The outcome of answers; `unbounded` without the variable's own minimum and maximum. */
  score(answers: Answers, unbounded = false): Outcome {
    const vars = new Map(this.decvars.map((d) => [d.name, d.dflt]));
    const shown = new Set<string>();
    let any = false;
    for (const c of this.conditions) {
      const test = childOf(c, 'conditionvar');
      if (test && !this.holds(test, answers, any)) continue;
      const sets = childrenOf(c, 'setvar');
      for (const s of sets) {
        const name = s.attributes['varname'] ?? 'SCORE';
        const now = vars.get(name) ?? 0;
        const x = figure(textOf(s), 0);
        const action = (s.attributes['action'] ?? 'Set').toLowerCase();
        vars.set(name, action === 'add' ? now + x : action === 'subtract' ? now - x : action === 'multiply' ? now * x : action === 'divide' ? now / x : x);
      }
      for (const f of childrenOf(c, 'displayfeedback')) shown.add(f.attributes['linkrefid'] ?? '');
      any = any || test !== undefined;
      // By the letter a condition that holds ends the processing unless it says `continue`. Files that add up their scores, or only
      // show feedback, leave it out and mean to go on.
      const adds = !this.letter && sets.every((s) => !/^set$/i.test(s.attributes['action'] ?? 'Set'));
      if (!yes(c.attributes['continue']) && !adds) break;
    }
    const d = this.decvars.find((v) => v.name === this.scoreName);
    const raw = vars.get(this.scoreName) ?? 0;
    return { score: unbounded || !d ? raw : Math.min(d.max, Math.max(d.min === Number.NEGATIVE_INFINITY ? Math.min(0, raw) : d.min, raw)), shown };
  }

  private holds(n: XmlNode, answers: Answers, any: boolean): boolean {
    switch (n.name) {
      case 'conditionvar': {
        const tests = childrenOf(n);
        // Several comparisons of one typed answer with different values, side by side, cannot all hold: alternatives are meant.
        const equals = tests.filter((t) => t.name === 'varequal');
        const single = equals.length > 1 && equals.length === tests.length && new Set(equals.map((t) => this.respident(t))).size === 1;
        if (single && !equals.some((t) => t.attributes['index']) && !this.isMultiple(this.respident(equals[0] as XmlNode)))
          return tests.some((t) => this.holds(t, answers, any));
        return tests.every((t) => this.holds(t, answers, any));
      }
      case 'and':
        return childrenOf(n).every((t) => this.holds(t, answers, any));
      case 'or':
        return childrenOf(n).some((t) => this.holds(t, answers, any));
      case 'not':
        return !childrenOf(n).every((t) => this.holds(t, answers, any));
      case 'other':
        return !any;
      case 'unanswered':
        return (answers[this.respident(n)] ?? []).every((a) => a === '');
      default:
        return this.compares(n, answers);
    }
  }

  private compares(n: XmlNode, answers: Answers): boolean {
    const given = answers[this.respident(n)] ?? [];
    const want = textOf(n).trim();
    const index = n.attributes['index'];
    const among = index === undefined ? given : given.slice(Number(index) - 1, Number(index));
    // the default of `case` is No in the 1.2 binding
    const fold = (t: string): string => (yes(n.attributes['case']) ? t.trim() : t.trim().toLowerCase());
    const number = (f: (x: number, y: number) => boolean): boolean =>
      among.some((a) => {
        const x = a.trim() === '' ? Number.NaN : Number(a);
        return f(x, Number(want));
      });
    switch (n.name) {
      case 'varequal':
        return among.some((a) => fold(a) === fold(want) || (a !== '' && want !== '' && this.isNumber(this.respident(n)) && Number(a) === Number(want)));
      case 'varsubset':
        // a pair of a group is one value with a comma
        return given.includes(partsOf(want, ',').join(',')) || partsOf(want, ',').every((w) => given.includes(w));
      case 'varsubstring':
        return among.some((a) => fold(a).includes(fold(want)));
      case 'vargt':
        return number((x, y) => x > y);
      case 'vargte':
        return number((x, y) => x >= y);
      case 'varlt':
        return number((x, y) => x < y);
      case 'varlte':
        return number((x, y) => x <= y);
      default:
        return false;
    }
  }

  /** The response that a condition names: as it stands, in another case, or, where it names none that is there, the only one. */
  private respident(n: XmlNode): string {
    const named = n.attributes['respident']?.trim() ?? '';
    if (this.idents.includes(named)) return named;
    const alike = this.idents.filter((i) => i.toLowerCase() === named.toLowerCase());
    return alike.length === 1 ? (alike[0] ?? named) : !named && this.idents.length === 1 ? (this.idents[0] ?? named) : named;
  }

  private readonly multiple = new Map<string, boolean>();
  private isMultiple(ident: string): boolean {
    return this.about(this.multiple, ident, (r) => /multiple/i.test(r.attributes['rcardinality'] ?? '') || /ordered/i.test(r.attributes['rcardinality'] ?? ''));
  }
  private readonly numbers = new Map<string, boolean>();
  /** Whether a variable is answered with a number: by its own declaration, or because the rules compare it by size. */
  isNumber(ident: string): boolean {
    return this.about(
      this.numbers,
      ident,
      (r) =>
        r.name === 'response_num' ||
        descendants(r, 'render_fib').some((f) => /^(decimal|integer|scientific|float)/i.test(f.attributes['fibtype'] ?? '')) ||
        this.conditions.some((c) => descendants(c, 'vargt', 'vargte', 'varlt', 'varlte').some((v) => this.respident(v) === ident)),
    );
  }
  private about(known: Map<string, boolean>, ident: string, f: (response: XmlNode) => boolean): boolean {
    const had = known.get(ident);
    if (had !== undefined) return had;
    const response = descendants(this.item, ...RESPONSES).find((r) => r.attributes['ident'] === ident);
    const is = response ? f(response) : false;
    known.set(ident, is);
    return is;
  }

  /** Variables in the order of an `index`, as a sequence is keyed; else what the first condition that scores asks for, `not` left out. */
  correct(variable: string): string[] {
    for (const c of this.conditions) {
      const scores = childrenOf(c, 'setvar').some((s) => figure(textOf(s), 0) > 0);
      const test = childOf(c, 'conditionvar');
      if (!scores || !test) continue;
      const denied = new Set(descendants(test, 'not').flatMap((n) => descendants(n, 'varequal')));
      const wanted = descendants(test, 'varequal').filter((v) => this.respident(v) === variable && !denied.has(v));
      if (!wanted.length) continue;
      return [...wanted].sort((a, b) => Number(a.attributes['index'] ?? 0) - Number(b.attributes['index'] ?? 0)).map((v) => textOf(v).trim());
    }
    return [];
  }

  /** The values that conditions compare a variable with. */
  literals(variable: string): string[] {
    // those that score first: their order is that of the accepted answers
    const scoring = (c: XmlNode): boolean => childOf(c, 'setvar') !== undefined;
    const conditions = [...this.conditions.filter(scoring), ...this.conditions.filter((c) => !scoring(c))];
    const all = conditions.flatMap((c) => descendants(c, ...COMPARING)).filter((v) => this.respident(v) === variable);
    return [...new Set(all.map((v) => textOf(v).trim()))];
  }
}
