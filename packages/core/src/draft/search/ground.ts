/** What a search goes over: the lines with text, what they could be, and what the draft does throughout. */
import type { Line } from '../surface/lines.js';
import type { Role } from '../model/outline.js';
import { W } from '../model/weights.js';
import { Series } from '../series/series.js';
import type { Unit } from '../signatures/unit.js';
import { tableSigns } from '../signs/index.js';
import type { SignMemory, LineSigns } from '../signs/memory.js';
import type { Sign } from '../signs/sign.js';
import { fencesOf, type Fences } from '../surface/fences.js';
import { tablesOf, type TableBlock } from '../surface/tables.js';
import { Lessons, SIGNS_OF, signsSaying } from '../signs/lessons.js';

const NOTHING_ASKED: ReadonlyMap<string, number> = new Map();
const alone = (...signs: Sign[]): LineSigns => ({ signs, asked: NOTHING_ASKED });

export class Ground {
  readonly units: readonly Unit[];
  readonly series: Series;
  private readonly overrides: ReadonlyMap<number, Role>;
  private readonly lessons: Lessons;
  private readonly fences: Fences;
  private readonly tables: ReadonlyMap<number, TableBlock>;
  private readonly barRows = new Set<number>();

  /** @param overrides what a person has said that lines are, by line number */
  constructor(
    lines: readonly Line[],
    overrides: ReadonlyMap<number, Role>,
    private readonly memory: SignMemory,
  ) {
    // the next reading compares with what was said now
    this.overrides = new Map(overrides);
    this.series = new Series(lines);
    this.units = this.series.units;
    this.lessons = new Lessons(this.units, overrides);
    this.series.learnKeyWords(this.lessons.keyWords(this.units));
    this.fences = fencesOf(lines);
    this.tables = tablesOf(lines);
    for (const t of this.tables.values()) if (t.sign === '|') for (let i = t.first; i <= t.last; i++) this.barRows.add(i);
  }

  /** Is called before each search: what the draft does throughout, as far as signs and steps look at it, in one text to compare. */
  begin(): string {
    this.memory.begin(this.series);
    return `${this.series.manner}${this.series.course}${this.lessons.sign}`;
  }
  /** Whether a person has said what the line at a place is. */
  certainAt(place: number): boolean {
    return this.overrides.has(this.index(place));
  }
  private index(place: number): number {
    return this.units[place]?.line.index ?? -1;
  }

  /** Whether a line and what is known of its place are the same as in another reading. */
  alike(place: number, other: Ground, there: number): boolean {
    const [a, b] = [this.units[place], other.units[there]];
    if (!a || !b || a.facts !== b.facts || a.gap !== b.gap || a.folded !== b.folded || !this.series.alike(place, other.series, there)) return false;
    const [i, k] = [a.line.index, b.line.index];
    if (this.overrides.get(i) !== other.overrides.get(k) || this.barRows.has(i) !== other.barRows.has(k)) return false;
    // tables and code know the numbers of their lines, and braces may open and close lines away
    return !this.startsBlock(i) && !other.startsBlock(k) && !this.series.braces;
  }
  /** Whether a line of the draft is a fence, or starts a block of code or a table. */
  private startsBlock(index: number): boolean {
    return this.fences.marks.has(index) || this.fences.blocks.has(index) || this.tables.has(index);
  }

  /** What the line with text at a place could be; never empty. */
  toldAt(place: number): LineSigns {
    const { units, series, lessons } = this;
    const u = units[place];
    if (!u) return alone();
    const { index } = u.line;
    if (this.fences.marks.has(index)) return alone({ role: 'aside', sort: 'rule', weight: 6, why: 'A fence around code.', at: 0 });
    const codeTo = this.fences.blocks.get(index);
    if (codeTo !== undefined) return alone({ role: 'code', weight: 4, why: 'Code inside a question.', at: 0, to: codeTo, take: this.upTo(place, codeTo) });
    const inBars = this.barRows.has(index) ? W.barRow : 0;
    const { signs: found, asked } = this.memory.at(units, place, series);
    const signs = found.map((s) => {
      const habit = s.habit === 'question' ? series.asQuestion(s.label?.sig ?? '') : s.habit === 'option' ? series.asOption(s.sig ?? '') : 0;
      return habit || inBars ? { ...s, weight: s.weight + habit + inBars } : lessons.any ? { ...s } : s;
    });
    const { number } = u.facts;
    if (number && series.habits?.idle.has(number.sig))
      signs.push({
        role: 'aside',
        sort: 'idle',
        weight: W.asideIdle,
        why: 'A clause or step: it asks nothing, and the questions have numbers of their own.',
        at: u.facts.start,
      });
    const table = this.tables.get(index);
    if (table) signs.push(...tableSigns(table, this.upTo(place, table.last)));
    const said = this.overrides.get(index);
    if (said) return { signs: obeying(signs, said, u.facts.start), asked };
    lessons.apply(u, units[place - 1], signs);
    return { signs, asked };
  }
  /** How many lines with text there are from a place to a line of the draft. */
  private upTo(place: number, last: number): number {
    let n = 1;
    while ((this.units[place + n]?.line.index ?? Number.POSITIVE_INFINITY) <= last) n++;
    return n;
  }
}

const SAID = { why: 'You said so.', said: true } as const;
/** The signs that say what a person said; what they said is certain. */
function obeying(signs: readonly Sign[], role: Role, start: number): Sign[] {
  // what goes on from above may go on from a key, and would be no feedback then
  const wanted = signs.filter((s) => SIGNS_OF[role].includes(s.role) && !(role === 'feedback' && s.role === 'more'));
  const found: Sign[] = wanted.map((s) => ({ ...s, weight: Math.max(s.weight, 8), ...SAID }));
  for (const made of signsSaying(role, start)) found.push({ ...made, weight: 7, ...SAID });
  // where it cannot be that, the line is set aside and nothing else
  found.push({ role: 'aside', weight: -20, ...SAID, at: start });
  return found;
}
