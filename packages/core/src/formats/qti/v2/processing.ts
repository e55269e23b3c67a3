/**
 * Response processing of QTI 2.x and 3.0: declarations, standard templates and rules; expressions are in expressions.ts.
 * Names and meanings: 1EdTech QTI Assessment, Section and Item Information Model 2.1, "Response Processing".
 */
import { minus, plus } from '../../../language/decimal.js';
import { textsOfPattern } from './pattern.js';
import { childrenOf, childOf, descendants, textOf, withoutTextBetween, type XmlNode } from '../../xmlTree.js';
import { OWN_TOOL } from '../ownTool.js';
import type { Answers, Outcome, Scorer } from '../scoring.js';
import { evaluate, type Scope } from './expressions.js';
import { type Container, container, float, matches, MIRROR, NUMERIC, numberOr, type Scalar, scalar, single, type Value } from './values.js';

interface Mapping {
  entries: { key: string; value: number; caseSensitive: boolean }[];
  dflt: number;
  lower: number;
  upper: number;
}
interface Declaration {
  cardinality: Container['cardinality'];
  base: string;
  correct: Value;
  dflt: Value;
  mapping: Mapping | null;
  table: XmlNode | null;
}

const valuesOf = (n: XmlNode | undefined): string[] => (n ? childrenOf(n, 'value').map(textOf) : []);

function declarationOf(n: XmlNode): Declaration {
  const cardinality = (n.attributes['cardinality'] ?? 'single') as Container['cardinality'];
  const base = n.attributes['baseType'] ?? 'identifier';
  const value = (texts: string[]): Value =>
    container(
      cardinality,
      base,
      texts.flatMap((t) => scalar(t, base) ?? []),
    );
  const mapping = childOf(n, 'mapping');
  return {
    cardinality,
    base,
    correct: value(valuesOf(childOf(n, 'correctResponse'))),
    dflt: value(valuesOf(childOf(n, 'defaultValue'))),
    mapping: mapping
      ? {
          entries: childrenOf(mapping, 'mapEntry').map((e) => ({
            key: e.attributes['mapKey'] ?? '',
            value: numberOr(e.attributes['mappedValue'], 0),
            // the standard's default is true; 2.1 exporters that leave it out mean so too
            caseSensitive: e.attributes['caseSensitive'] !== 'false',
          })),
          dflt: numberOr(mapping.attributes['defaultValue'], 0),
          lower: numberOr(mapping.attributes['lowerBound'], Number.NEGATIVE_INFINITY),
          upper: numberOr(mapping.attributes['upperBound'], Number.POSITIVE_INFINITY),
        }
      : null,
    table: childOf(n, 'matchTable') ?? childOf(n, 'interpolationTable') ?? null,
  };
}

class Exit extends Error {}
/** Rules loop only by nesting, so this many steps are never reached by a sane item. */
const MAX_STEPS = 100_000;

/** One run of the rules over one answer. */
class Run {
  readonly outcomes = new Map<string, Value>();
  private steps = 0;
  private readonly scope: Scope = {
    value: (n) => this.value(n),
    variable: (id) => (this.outcomes.has(id) ? (this.outcomes.get(id) ?? null) : (this.responses.get(id) ?? null)),
    correct: (id) => this.of.responses.get(id)?.correct ?? null,
    dflt: (id) => (this.of.responses.get(id) ?? this.of.outcomes.get(id))?.dflt ?? null,
    mapResponse: (id) => this.map(id),
  };
  constructor(
    private readonly of: Processing,
    private readonly responses: ReadonlyMap<string, Value>,
    private readonly unbounded: boolean,
  ) {
    for (const [id, d] of of.outcomes) this.outcomes.set(id, d.dflt ?? (NUMERIC.has(d.base) && d.cardinality === 'single' ? single(d.base, 0) : null));
  }

  rules(nodes: readonly XmlNode[]): void {
    for (const n of nodes) this.rule(n);
  }

  private rule(n: XmlNode): void {
    if (++this.steps > MAX_STEPS) throw new Exit();
    switch (n.name) {
      case 'responseCondition': {
        for (const branch of childrenOf(n)) {
          const [test, ...then] = childrenOf(branch);
          if (branch.name === 'responseElse') return this.rules(childrenOf(branch));
          if (test && this.isTrue(test)) return this.rules(then);
        }
        return;
      }
      case 'setOutcomeValue': {
        const id = n.attributes['identifier'] ?? '';
        const e = childrenOf(n)[0];
        const v = e ? this.value(e) : null;
        const d = this.of.outcomes.get(id);
        const base = d?.base ?? v?.base ?? 'float';
        this.outcomes.set(
          id,
          v ? { cardinality: d?.cardinality ?? v.cardinality, base, items: base === 'integer' ? v.items.map((i) => Math.round(Number(i))) : v.items } : null,
        );
        return;
      }
      case 'lookupOutcomeValue': {
        const id = n.attributes['identifier'] ?? '';
        const e = childrenOf(n)[0];
        const table = this.of.outcomes.get(id)?.table;
        const x = e ? this.number(e) : null;
        if (!table) return;
        const dflt = numberOr(table.attributes['defaultValue'], 0);
        if (x === null) return void this.outcomes.set(id, float(dflt));
        const hit =
          table.name === 'matchTable'
            ? childrenOf(table).find((r) => Number(r.attributes['sourceValue']) === x)
            : childrenOf(table).find((r) => {
                const at = Number(r.attributes['sourceValue']);
                return r.attributes['includeBoundary'] === 'false' ? x > at : x >= at;
              });
        this.outcomes.set(id, float(numberOr(hit?.attributes['targetValue'], dflt)));
        return;
      }
      case 'responseProcessingFragment':
        return this.rules(childrenOf(n));
      case 'exitResponse':
        throw new Exit();
      default:
        this.of.strange.add(n.name);
    }
  }

  private isTrue(n: XmlNode): boolean {
    return this.value(n)?.items[0] === true;
  }
  private number(n: XmlNode): number | null {
    const v = this.value(n)?.items[0];
    const x = typeof v === 'number' ? v : typeof v === 'string' && v.trim() !== '' ? Number(v) : Number.NaN;
    return Number.isNaN(x) ? null : x;
  }

  private value(n: XmlNode): Value {
    if (++this.steps > MAX_STEPS) throw new Exit();
    const v = evaluate(n, this.scope);
    if (v === undefined) this.of.strange.add(n.name);
    return v ?? null;
  }

  map(id: string): Value {
    const d = this.of.responses.get(id);
    const m = d?.mapping;
    const v = this.responses.get(id);
    if (!d || !m) return null;
    if (!v) return float(this.unbounded ? 0 : Math.min(m.upper, Math.max(m.lower, 0)));
    let sum = 0;
    const seen = new Set<Scalar>();
    for (const i of v.items) {
      // in a container each value counts once (QTI 2.1, mapResponse)
      if (seen.has(i)) continue;
      seen.add(i);
      const text = String(i);
      const hit =
        m.entries.find((e) => e.key === text || (NUMERIC.has(d.base) && Number(e.key) === i) || (d.base === 'pair' && e.key === MIRROR(text))) ??
        (d.base === 'string' ? m.entries.find((e) => !e.caseSensitive && e.key.toLowerCase() === text.toLowerCase()) : undefined) ??
        (d.base === 'directedPair' ? m.entries.find((e) => e.key.trim().split(/\s+/).join(' ') === text) : undefined);
      sum += hit ? hit.value : m.dflt;
    }
    return float(this.unbounded ? sum : Math.min(m.upper, Math.max(m.lower, sum)));
  }
}

const TEMPLATE = /(match_correct|map_response_point|map_response)(\.xml)?$/;

/** The scoring of one `assessmentItem`. */
export class Processing implements Scorer {
  readonly responses: ReadonlyMap<string, Declaration>;
  readonly outcomes: ReadonlyMap<string, Declaration>;
  readonly strange = new Set<string>();
  readonly scores: boolean;
  readonly declares = true;
  private readonly rules: readonly XmlNode[];
  private readonly template: string | null;
  /** Feedback elements: the outcome that shows them, its value, and whether it shows or hides. */
  readonly feedback: readonly { id: string; outcome: string; identifier: string; hide: boolean; node: XmlNode }[];
  private readonly scoreId: string;
  private readonly byCorrect: boolean;
  /** Whether a mapping has bounds that an answer may run into. */
  private readonly bounded: boolean;

  constructor(item: XmlNode) {
    const declared = (name: string): Map<string, Declaration> =>
      new Map(childrenOf(item, name).map((n) => [n.attributes['identifier'] ?? '', declarationOf(n)]));
    this.responses = declared('responseDeclaration');
    this.outcomes = declared('outcomeDeclaration');
    this.bounded = [...this.responses.values()].some(({ mapping: m }) => m && (Number.isFinite(m.lower) || Number.isFinite(m.upper)));
    const processing = childOf(item, 'responseProcessing');
    this.rules = processing ? childrenOf(withoutTextBetween(processing)) : [];
    const named = processing?.attributes['template'] ?? processing?.attributes['templateLocation'];
    this.template = named ? (TEMPLATE.exec(named)?.[1] ?? null) : null;
    if (named && !this.template) this.strange.add(`template ${named}`);
    if (this.template === 'map_response_point') this.strange.add('map_response_point');
    const floats = [...this.outcomes].filter(([, d]) => NUMERIC.has(d.base)).map(([id]) => id);
    // where no rule sets SCORE, the number that the rules set is the score, whatever it is called
    const written = new Set(
      this.rules
        .flatMap((r) => [...(r.name === 'setOutcomeValue' ? [r] : []), ...descendants(r, 'setOutcomeValue')])
        .map((r) => r.attributes['identifier'] ?? ''),
    );
    const candidates = floats.filter((f) => !this.rules.length || written.has(f));
    this.scoreId =
      this.outcomes.has('SCORE') && (candidates.includes('SCORE') || !candidates.length)
        ? 'SCORE'
        : (candidates.find((f) => /score|punkt|mark/i.test(f) && !/max/i.test(f)) ?? (candidates.length === 1 ? (candidates[0] ?? 'SCORE') : 'SCORE'));
    this.scores = this.template !== null || this.rules.length > 0;
    // Files of the field leave the processing out or empty and mean that the correct response counts. Ours never do.
    this.byCorrect = !this.scores && !(processing && item.attributes['toolName'] === OWN_TOOL);
    this.feedback = descendants(item, 'modalFeedback', 'feedbackInline', 'feedbackBlock').map((node) => {
      const outcome = node.attributes['outcomeIdentifier'] ?? '';
      const identifier = node.attributes['identifier'] ?? '';
      return { id: `${outcome}/${identifier}`, outcome, identifier, hide: node.attributes['showHide'] === 'hide', node };
    });
  }

  get unknown(): readonly string[] {
    return [...this.strange];
  }

  /** The outcome of answers by the item's response processing; `unbounded` without the bounds of mappings. */
  score(answers: Answers, unbounded = false): Outcome {
    const key = JSON.stringify([answers, unbounded && this.bounded]);
    const before = this.scored.get(key);
    if (before) return before;
    const outcome = this.outcome(answers, unbounded);
    this.scored.set(key, outcome);
    return outcome;
  }
  /** Outcomes by answer: whoever asks what an item counts asks for the same answers again and again. */
  private readonly scored = new Map<string, Outcome>();

  private outcome(answers: Answers, unbounded: boolean): Outcome {
    const responses = new Map<string, Value>();
    for (const [id, d] of this.responses) {
      const given = (answers[id] ?? []).flatMap((t) => scalar(t, d.base) ?? []);
      responses.set(id, given.length === 1 && d.base === 'string' && given[0] === '' ? null : container(d.cardinality, d.base, given));
    }
    const run = new Run(this, responses, unbounded);
    try {
      if (this.rules.length) run.rules(this.rules);
      else if (this.template === 'match_correct' || (this.byCorrect && [...this.responses.values()].some((d) => d.correct))) this.matchCorrect(run, responses);
      else if (this.template === 'map_response') {
        const sum = [...this.responses.keys()].map((id) => this.mapped(run, id)).reduce((s, x) => s + x, 0);
        run.outcomes.set(this.scoreId, float(sum));
      }
    } catch (e) {
      if (!(e instanceof Exit)) throw e;
    }
    const score = Number(run.outcomes.get(this.scoreId)?.items[0] ?? 0);
    const shown = new Set<string>();
    for (const f of this.feedback) {
      const holds = run.outcomes.get(f.outcome)?.items.some((i) => String(i) === f.identifier) ?? false;
      if (holds !== f.hide) shown.add(f.id);
    }
    return { score: Number.isFinite(score) ? score : 0, shown };
  }

  /** The standard template speaks of RESPONSE alone; where an item has several variables, all must match. */
  private matchCorrect(run: Run, responses: ReadonlyMap<string, Value>): void {
    const ids = this.responses.has('RESPONSE') ? ['RESPONSE'] : [...this.responses.keys()];
    const right = ids.every((id) => {
      const correct = this.responses.get(id)?.correct;
      const given = responses.get(id);
      return correct && given ? matches(given, correct) : false;
    });
    run.outcomes.set(this.scoreId, float(right ? 1 : 0));
  }
  private mapped(run: Run, id: string): number {
    return Number(run.map(id)?.items[0] ?? 0);
  }

  /** The declared correct response of a variable; empty where there is none. */
  correct(variable: string): string[] {
    return (this.responses.get(variable)?.correct?.items ?? []).map(String);
  }

  /** The values that the processing compares a variable with. */
  literals(variable: string): string[] {
    const d = this.responses.get(variable);
    const out = new Set<string>((d?.mapping?.entries ?? []).map((e) => e.key));
    for (const c of this.correct(variable)) out.add(c);
    const others = [...this.responses.keys()].filter((k) => k !== variable);
    const walk = (n: XmlNode): void => {
      // an expression that speaks of another variable only holds that one's values
      const named = n.name === 'variable' || n.name === 'mapResponse' ? [n] : descendants(n, 'variable', 'mapResponse');
      const ids = new Set(named.map((v) => v.attributes['identifier'] ?? ''));
      const comparing = childrenOf(n).some((c) => c.name === 'variable') || n.name === 'patternMatch';
      if (comparing && !ids.has(variable) && others.some((o) => ids.has(o))) return;
      if (n.name === 'baseValue' && n.attributes['baseType'] !== 'boolean') out.add(textOf(n));
      if (n.name === 'patternMatch' && ids.has(variable)) for (const w of textsOfPattern(n.attributes['pattern'] ?? '') ?? []) out.add(w);
      if ((n.name === 'equal' || n.name === 'equalRounded') && ids.has(variable)) for (const b of boundsOf(n, (id) => this.correct(id)[0])) out.add(b);
      for (const c of childrenOf(n)) if (c.name !== 'setOutcomeValue') walk(c);
    };
    for (const r of this.rules) walk(r);
    return [...out];
  }

  /** The value that an outcome has before any rule: MAXSCORE is declared so. */
  declared(outcome: string): number | null {
    const v = this.outcomes.get(outcome)?.dflt?.items[0];
    return v === undefined ? null : Number(v);
  }
}

/**
 * Figures at which an `equal` or `equalRounded` may begin or cease to hold: the value it is compared with, and the ends of the
 * interval around it. Which operand the interval lies around differs from file to file, so the ends for both are given.
 */
function boundsOf(n: XmlNode, correct: (identifier: string) => string | undefined): string[] {
  const operand = childrenOf(n).find((c) => c.name === 'baseValue' || c.name === 'correct');
  const v = Number((operand?.name === 'correct' ? correct(operand.attributes['identifier'] ?? '') : operand && textOf(operand)) ?? Number.NaN);
  if (Number.isNaN(v)) return [];
  const figures = (list: readonly number[]): string[] => list.filter(Number.isFinite).map(String);
  if (n.name === 'equalRounded') {
    const places = Number(n.attributes['figures'] ?? 0);
    const unit = n.attributes['roundingMode'] === 'significantFigures' ? 10 ** (Math.floor(Math.log10(Math.abs(v) || 1)) + 1 - places) : 10 ** -places;
    const middle = Math.round(v / unit) * unit;
    return figures([v, middle - unit / 2, middle + unit / 2]);
  }
  const given = (n.attributes['tolerance'] ?? '').split(/[\s,]+/).filter(Boolean);
  const [t0 = Number.NaN, t1 = t0] = given.map(Number);
  if (n.attributes['toleranceMode'] === 'relative')
    return figures([v, ...[t0, t1].flatMap((t) => [v * (1 - t / 100), v * (1 + t / 100), v / (1 - t / 100), v / (1 + t / 100)])]);
  return figures([v, ...[t0, t1].filter(Number.isFinite).flatMap((t) => [minus(v, t), plus(v, t)])]);
}
