/** From lines to questions as they stand: surface, signs, search, links. */
import type { Line } from './lines.js';
import { Assembly } from './links/assemble.js';
import type { Outline, Role } from './outline.js';
import { search, type Reading } from './search/search.js';
import type { Ground } from './search/step.js';
import { Series, type Habits } from './series/series.js';
import { tableSigns } from './signs/index.js';
import { SignMemory } from './signs/memory.js';
import type { Sign } from './signs/sign.js';
import { Lessons, SIGNS_OF, signsSaying } from './teach.js';
import { W } from './search/weights.js';
import { fencesOf } from './surface/fences.js';
import { tablesOf } from './surface/tables.js';

export interface Layout {
  outline: Outline;
  reading: Reading;
  series: Series;
}

/** Lines that the habits of a draft are learnt from: more say no more. */
const SAMPLE = 3000;

/** Reads the lines into questions. `overrides` says by line number what a person has said the line is. */
export function layout(lines: readonly Line[], overrides: ReadonlyMap<number, Role>, memory = new SignMemory()): Layout {
  const series = new Series(lines);
  const lessons = new Lessons(series.units, overrides);
  series.learnKeyWords(lessons.keyWords(series.units));
  const ground: Ground = { units: series.units, series };
  const fences = fencesOf(lines);
  const tables = tablesOf(lines);
  const barRows = new Set<number>();
  for (const t of tables.values()) if (t.sign === '|') for (let i = t.first; i <= t.last; i++) barRows.add(i);
  /** How many lines with text there are from a place to a line of the draft. */
  const upTo = (place: number, last: number): number => {
    let n = 1;
    for (let u = series.units[place + n]; u && u.line.index <= last; u = series.units[place + n]) n++;
    return n;
  };
  const signsAt = (place: number): readonly Sign[] => {
    const u = series.units[place];
    if (!u) return [];
    const index = u.line.index;
    if (fences.marks.has(index)) return [{ role: 'aside', sort: 'rule', weight: 6, why: 'A fence around code.', at: 0 }];
    const codeTo = fences.blocks.get(index);
    if (codeTo !== undefined) {
      return [{ role: 'code', weight: 4, why: 'Code inside a question.', at: 0, to: codeTo, take: upTo(place, codeTo) }];
    }
    const inBars = barRows.has(index) ? W.barRow : 0;
    const signs = memory.signsAt(series.units, place, series).map((s) => {
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
    const table = tables.get(index);
    if (table) signs.push(...tableSigns(table, upTo(place, table.last)));
    const said = overrides.get(index);
    if (said) return obeying(signs, said, u.facts.start);
    lessons.apply(u, series.units[place - 1], signs);
    return signs;
  };
  const certainAt = (place: number): boolean => overrides.has(series.units[place]?.line.index ?? -1);
  memory.begin(series);
  let reading = search(series.units.length > SAMPLE ? { units: series.units.slice(0, SAMPLE), series } : ground, signsAt, certainAt);
  series.habits = habitsOf(reading, series.units.length <= SAMPLE);
  memory.begin(series);
  reading = search(ground, signsAt, certainAt);
  return { outline: new Assembly(lines, series.units, series, reading), reading, series };
}

const SAID = { why: 'You said so.', said: true } as const;
/** The signs that say what a person said; what they said is certain. */
function obeying(signs: readonly Sign[], role: Role, start: number): Sign[] {
  const wanted = signs.filter((s) => SIGNS_OF[role].includes(s.role));
  const found: Sign[] = wanted.map((s) => ({ ...s, weight: Math.max(s.weight, 8), ...SAID }));
  for (const made of signsSaying(role, start)) found.push({ ...made, weight: 7, ...SAID });
  // where it cannot be that, the line is set aside and nothing else
  found.push({ role: 'aside', weight: -20, ...SAID, at: start });
  return found;
}

/** What a first reading says of the draft's habits. */
function habitsOf(reading: Reading, whole: boolean): Habits {
  const question = new Map<string, number>();
  const option = new Map<string, number>();
  const sizes = new Map<number, number>();
  let questions = 0;
  let plain = 0;
  let withOptions = 0;
  let keyed = 0;
  const bySeries = new Map<string, { all: number; answered: number; asks: number }>();
  const end = (s: Reading['path'][number]['state'] | undefined): void => {
    if (s && s.qSig) {
      const n = bySeries.get(s.qSig) ?? { all: 0, answered: 0, asks: 0 };
      n.all++;
      if (s.oCount > 1 || s.keyed || s.rowLeft) n.answered++;
      if (s.stemEnd === 1 || s.gaps || s.ask || s.subSig) n.asks++;
      bySeries.set(s.qSig, n);
    }
    if (!s?.oSig) return;
    option.set(s.oSig, (option.get(s.oSig) ?? 0) + 1);
    sizes.set(s.oCount, (sizes.get(s.oCount) ?? 0) + 1);
    withOptions++;
    if (s.keyed) keyed++;
  };
  let last: Reading['path'][number]['state'] | undefined;
  for (const { sign, state } of reading.path) {
    if (sign.role === 'question' || sign.role === 'sub') {
      end(last);
      questions++;
      if (!sign.label) plain++;
      else question.set(sign.label.sig, (question.get(sign.label.sig) ?? 0) + 1);
    } else if (!state.inQuestion && last) {
      end(last);
    }
    last = state.inQuestion ? state : undefined;
  }
  end(last);
  const main = [...bySeries.values()].some((n) => n.all >= 2 && n.answered >= n.all * 0.6);
  const idle = new Set(
    [...bySeries]
      .filter(([sig, n]) => main && /^(?:num|dec)/.test(sig) && n.all >= 3 && n.answered <= n.all * 0.2 && n.asks <= n.all * 0.1)
      .map(([sig]) => sig),
  );
  const [size, n] = [...sizes].sort((a, b) => b[1] - a[1])[0] ?? [0, 0];
  return { questions, whole, question, plain, idle, option, keyed: withOptions ? keyed / withOptions : 0, size, sizeShare: withOptions ? n / withOptions : 0 };
}
