/**
 * Response processing of QTI 2.x and 3.0: declarations, standard templates, rules and the expressions that real items use.
 * Names and meanings: 1EdTech QTI Assessment, Section and Item Information Model 2.1, "Response Processing" and "Expressions".
 */
import { childrenOf, childOf, descendants, textOf, type XmlNode } from '../../xmlTree.js';
import { OWN_TOOL } from '../ownTool.js';
import type { Answers, Outcome, Scorer } from '../scoring.js';

type Scalar = string | number | boolean;
interface Container {
  cardinality: 'single' | 'multiple' | 'ordered' | 'record';
  base: string;
  items: readonly Scalar[];
}
/** NULL of the standard is null here. */
type Value = Container | null;

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

const NUMERIC = new Set(['integer', 'float', 'duration']);
const numberOr = (text: string | undefined, other: number): number => {
  const n = text === undefined || text.trim() === '' ? Number.NaN : Number(text);
  return Number.isNaN(n) ? other : n;
};

/** A text as a value of a base type; undefined where it is none. */
function scalar(text: string, base: string): Scalar | undefined {
  if (NUMERIC.has(base)) {
    const t = text.trim();
    const n = t === '' ? Number.NaN : Number(t);
    return Number.isFinite(n) && (base !== 'integer' || Number.isInteger(n)) ? n : undefined;
  }
  if (base === 'boolean') return text.trim() === 'true' || text.trim() === '1';
  if (base === 'directedPair' || base === 'pair') return text.trim().split(/\s+/).join(' ');
  return base === 'string' ? text : text.trim();
}

const container = (cardinality: Container['cardinality'], base: string, items: readonly Scalar[]): Value =>
  items.length ? { cardinality, base, items } : null;
const single = (base: string, item: Scalar): Container => ({ cardinality: 'single', base, items: [item] });
const bool = (b: boolean): Container => single('boolean', b);
const float = (n: number): Value => (Number.isFinite(n) ? single('float', n) : null);

const valuesOf = (n: XmlNode | undefined): string[] => (n ? childrenOf(n, 'value').map(textOf) : []);
const MIRROR = (pair: string): string => pair.split(' ').reverse().join(' ');
const sameScalar = (a: Scalar, b: Scalar, base: string): boolean => a === b || (base === 'pair' && a === MIRROR(String(b)));

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

  /** Numbers of all operands; null where one is NULL. Containers give all their values, as `sum` and `max` take them. */
  private numbers(nodes: readonly XmlNode[]): number[] | null {
    const out: number[] = [];
    for (const n of nodes) {
      const v = this.value(n);
      if (!v) return null;
      for (const i of v.items) {
        const x = Number(i);
        if (Number.isNaN(x)) return null;
        out.push(x);
      }
    }
    return out;
  }
  private fold(nodes: readonly XmlNode[], f: (numbers: number[]) => number): Value {
    const x = this.numbers(nodes);
    return x?.length ? float(f(x)) : null;
  }
  private compare(nodes: readonly XmlNode[], f: (a: number, b: number) => boolean): Value {
    const [a, b] = nodes.map((n) => this.number(n));
    return a === null || b === null || a === undefined || b === undefined ? null : bool(f(a, b));
  }
  /** A tolerance or a count written as a number or as the name of a variable. */
  private figure(text: string): number {
    const n = Number(text);
    if (!Number.isNaN(n)) return n;
    return Number(this.outcomes.get(text)?.items[0] ?? this.responses.get(text)?.items[0] ?? Number.NaN);
  }

  private value(n: XmlNode): Value {
    if (++this.steps > MAX_STEPS) throw new Exit();
    const c = childrenOf(n);
    const a = n.attributes;
    const id = a['identifier'] ?? '';
    switch (n.name) {
      case 'baseValue': {
        const base = a['baseType'] ?? 'string';
        const s = scalar(textOf(n), base);
        return s === undefined ? null : single(base, s);
      }
      case 'variable':
        return this.outcomes.has(id) ? (this.outcomes.get(id) ?? null) : (this.responses.get(id) ?? null);
      case 'correct':
        return this.of.responses.get(id)?.correct ?? null;
      case 'default':
        return (this.of.responses.get(id) ?? this.of.outcomes.get(id))?.dflt ?? null;
      case 'null':
        return null;
      case 'mapResponse':
        return this.map(id);
      case 'isNull': {
        const v = c[0] ? this.value(c[0]) : null;
        return bool(v === null || v.items.length === 0 || (v.base === 'string' && v.cardinality === 'single' && v.items[0] === ''));
      }
      case 'not': {
        const v = c[0] ? this.value(c[0]) : null;
        return v ? bool(v.items[0] !== true) : null;
      }
      // NULL counts as false where a decision is asked for, which the standard's tables come to for conditions
      case 'and':
        return bool(c.every((x) => this.isTrue(x)));
      case 'or':
        return bool(c.some((x) => this.isTrue(x)));
      case 'anyN': {
        const true_ = c.filter((x) => this.isTrue(x)).length;
        return bool(true_ >= this.figure(a['min'] ?? '0') && true_ <= this.figure(a['max'] ?? String(c.length)));
      }
      case 'match': {
        const [x, y] = c.map((e) => this.value(e));
        return x && y ? bool(this.matches(x, y)) : null;
      }
      case 'stringMatch': {
        const [x, y] = c.map((e) => this.value(e));
        if (!x || !y) return null;
        const fold = (v: Container): string => (a['caseSensitive'] === 'false' ? String(v.items[0]).toLowerCase() : String(v.items[0]));
        return bool(a['substring'] === 'true' ? fold(x).includes(fold(y)) : fold(x) === fold(y));
      }
      case 'substring': {
        const [x, y] = c.map((e) => this.value(e));
        if (!x || !y) return null;
        const fold = (v: Container): string => (a['caseSensitive'] === 'false' ? String(v.items[0]).toLowerCase() : String(v.items[0]));
        return bool(fold(y).includes(fold(x)));
      }
      case 'patternMatch': {
        const x = c[0] ? this.value(c[0]) : null;
        if (!x) return null;
        return bool(safePattern(a['pattern'] ?? '')?.test(String(x.items[0]).slice(0, 1000)) ?? false);
      }
      case 'equal': {
        const [x, y] = c.map((e) => this.number(e));
        if (x === null || y === null || x === undefined || y === undefined) return null;
        const [t0 = 0, t1 = t0] = (a['tolerance'] ?? '')
          .split(/[\s,]+/)
          .filter(Boolean)
          .map((t) => this.figure(t));
        const mode = a['toleranceMode'] ?? 'exact';
        if (mode === 'exact') return bool(x === y);
        // x is the first operand: the standard's interval lies around it
        const lower = mode === 'relative' ? x * (1 - t0 / 100) : x - t0;
        const upper = mode === 'relative' ? x * (1 + t1 / 100) : x + t1;
        const [lo, hi] = lower <= upper ? [lower, upper] : [upper, lower];
        return bool((a['includeLowerBound'] === 'false' ? y > lo : y >= lo - 1e-12) && (a['includeUpperBound'] === 'false' ? y < hi : y <= hi + 1e-12));
      }
      case 'equalRounded': {
        const figures = this.figure(a['figures'] ?? '0');
        return this.compare(c, (x, y) => rounded(x, a['roundingMode'], figures) === rounded(y, a['roundingMode'], figures));
      }
      case 'lt':
        return this.compare(c, (x, y) => x < y);
      case 'gt':
        return this.compare(c, (x, y) => x > y);
      case 'lte':
        return this.compare(c, (x, y) => x <= y);
      case 'gte':
        return this.compare(c, (x, y) => x >= y);
      case 'sum':
        return this.fold(c, (x) => x.reduce((s, y) => s + y, 0));
      case 'product':
        return this.fold(c, (x) => x.reduce((s, y) => s * y, 1));
      case 'min':
        return this.fold(c, (x) => Math.min(...x));
      case 'max':
        return this.fold(c, (x) => Math.max(...x));
      case 'subtract':
        return this.fold(c, ([x = Number.NaN, y = Number.NaN]) => x - y);
      case 'divide':
        return this.fold(c, ([x = Number.NaN, y = Number.NaN]) => x / y);
      case 'power':
        return this.fold(c, ([x = Number.NaN, y = Number.NaN]) => x ** y);
      case 'integerDivide':
        return this.fold(c, ([x = Number.NaN, y = Number.NaN]) => Math.floor(x / y));
      case 'integerModulus':
        return this.fold(c, ([x = Number.NaN, y = Number.NaN]) => x - y * Math.floor(x / y));
      case 'round':
        return this.fold(c, ([x = Number.NaN]) => Math.floor(x + 0.5));
      case 'truncate':
        return this.fold(c, ([x = Number.NaN]) => Math.trunc(x));
      case 'roundTo': {
        const figures = this.figure(a['figures'] ?? '0');
        return this.fold(c, ([x = Number.NaN]) => rounded(x, a['roundingMode'], figures));
      }
      case 'integerToFloat':
        return c[0] ? this.value(c[0]) : null;
      case 'mathConstant':
        return float(a['name'] === 'pi' ? Math.PI : a['name'] === 'e' ? Math.E : Number.NaN);
      case 'multiple':
      case 'ordered': {
        const parts = c.flatMap((e) => this.value(e) ?? []);
        return container(
          n.name,
          parts[0]?.base ?? 'identifier',
          parts.flatMap((p) => p.items),
        );
      }
      case 'containerSize':
        return single('integer', (c[0] ? this.value(c[0]) : null)?.items.length ?? 0);
      case 'member': {
        const [x, y] = c.map((e) => this.value(e));
        return x && y ? bool(y.items.some((i) => sameScalar(i, x.items[0] as Scalar, y.base))) : null;
      }
      case 'contains': {
        const [x, y] = c.map((e) => this.value(e));
        if (!x || !y) return null;
        if (x.cardinality === 'ordered') return bool(x.items.some((_, at) => y.items.every((i, k) => x.items[at + k] === i)));
        const left = [...x.items];
        return bool(
          y.items.every((i) => {
            const at = left.findIndex((l) => sameScalar(l, i, x.base));
            if (at >= 0) left.splice(at, 1);
            return at >= 0;
          }),
        );
      }
      case 'delete': {
        const [x, y] = c.map((e) => this.value(e));
        return x && y
          ? container(
              y.cardinality,
              y.base,
              y.items.filter((i) => !sameScalar(i, x.items[0] as Scalar, y.base)),
            )
          : null;
      }
      case 'index': {
        const v = c[0] ? this.value(c[0]) : null;
        const i = v?.items[this.figure(a['n'] ?? '1') - 1];
        return v && i !== undefined ? single(v.base, i) : null;
      }
      default:
        this.of.strange.add(n.name);
        return null;
    }
  }

  matches(x: Container, y: Container): boolean {
    if (x.items.length !== y.items.length) return false;
    if (x.cardinality === 'ordered' || y.cardinality === 'ordered') return x.items.every((i, k) => sameScalar(i, y.items[k] as Scalar, x.base));
    const left = [...y.items];
    return x.items.every((i) => {
      // a number in a string variable, as some exporters declare it, still equals that number
      const at = left.findIndex((l) => sameScalar(l, i, x.base) || (typeof l !== typeof i && String(l) === String(i)));
      if (at >= 0) left.splice(at, 1);
      return at >= 0;
    });
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

/** A number to some figures, halves away from nothing: 3.175 is 3.18, although a computer holds a little less than it. */
function rounded(x: number, mode: string | undefined, figures: number): number {
  const full = x * (1 + 1e-12);
  if (mode === 'significantFigures') return Number(full.toPrecision(Math.min(15, Math.max(1, figures))));
  return Number(full.toFixed(Math.min(15, Math.max(0, figures))));
}

/** A pattern of a file as a regular expression; undefined where it is none or could take very long. */
function safePattern(pattern: string): RegExp | undefined {
  // nested repeats are what makes matching explode
  if (pattern.length > 500 || /[+*}]\s*\)[+*{]/.test(pattern)) return undefined;
  try {
    return new RegExp(`^(?:${pattern})$`, 'u');
  } catch {
    return undefined;
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

  constructor(item: XmlNode) {
    const declared = (name: string): Map<string, Declaration> =>
      new Map(childrenOf(item, name).map((n) => [n.attributes['identifier'] ?? '', declarationOf(n)]));
    this.responses = declared('responseDeclaration');
    this.outcomes = declared('outcomeDeclaration');
    const processing = childOf(item, 'responseProcessing');
    this.rules = processing ? childrenOf(processing) : [];
    const named = processing?.attributes['template'] ?? processing?.attributes['templateLocation'];
    this.template = named ? (TEMPLATE.exec(named)?.[1] ?? null) : null;
    if (named && !this.template) this.strange.add(`template ${named}`);
    if (this.template === 'map_response_point') this.strange.add('map_response_point');
    const floats = [...this.outcomes].filter(([, d]) => NUMERIC.has(d.base)).map(([id]) => id);
    this.scoreId = this.outcomes.has('SCORE') ? 'SCORE' : (floats.find((f) => /score|punkt|mark/i.test(f) && !/max/i.test(f)) ?? 'SCORE');
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

  /** The outcome of answers by the item's response processing; `unbounded` without normalMinimum and normalMaximum. */
  score(answers: Answers, unbounded = false): Outcome {
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
      return correct && given ? run.matches(given, correct) : false;
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
      if (n.name === 'patternMatch' && ids.has(variable)) for (const w of wordsOfPattern(n.attributes['pattern'] ?? '')) out.add(w);
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

/** The words that a pattern of plain alternatives takes ("csv|\.csv"); none where it says more than that. */
const wordsOfPattern = (pattern: string): string[] => {
  const bare = pattern.replace(/^\^?\(?\??:?|\)?\$?$/g, '');
  return /[[\]*+?{}^$]|\\[a-z]/i.test(bare) ? [] : bare.split('|').map((w) => w.replace(/\\(.)/g, '$1'));
};

/**
 * Figures at which an `equal` or `equalRounded` may begin or cease to hold: the value it is compared with, and the ends of the
 * interval around it. Which operand the interval lies around differs from file to file, so the ends for both are given.
 */
function boundsOf(n: XmlNode, correct: (identifier: string) => string | undefined): string[] {
  const operand = childrenOf(n).find((c) => c.name === 'baseValue' || c.name === 'correct');
  const v = Number((operand?.name === 'correct' ? correct(operand.attributes['identifier'] ?? '') : operand && textOf(operand)) ?? Number.NaN);
  if (Number.isNaN(v)) return [];
  const figures = (list: readonly number[]): string[] => list.filter(Number.isFinite).map((x) => String(Number(x.toPrecision(12))));
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
  return figures([v, v - t0, v + t0, v - t1, v + t1]);
}
