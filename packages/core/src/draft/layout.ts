/** From lines to questions as they stand: surface, signs, search, links. */
import { Ground } from './search/ground.js';
import type { Line } from './surface/lines.js';
import { Assembly } from './links/assemble.js';
import type { Outline, Role } from './model/outline.js';
import { search, type Again, type Reading } from './search/search.js';
import { habitsOf } from './search/habitsOf.js';
import type { Series, Texts } from './series/series.js';
import { SignMemory, type LineSigns } from './signs/memory.js';

/** What stands in a draft: the path through its lines, the outline that it makes, and what it was found by. */
export interface Layout {
  outline: Outline;
  reading: Reading;
  series: Series;
}

/** Lines that the habits of a draft are learnt from: more say no more. */
const SAMPLE = 3000;

/** One search, and what it went over. */
interface Pass {
  ground: Ground;
  manner: string;
  told: (LineSigns | undefined)[];
  reading: Reading;
}

/** What one reading of a draft leaves for the next. */
export class LayoutMemory {
  /** @param most drafts of more lines are read anew each time: to remember so much costs more than it saves */
  constructor(readonly most = 100_000) {}

  signs = new SignMemory();
  /** The search that learns the habits, and the one that knows them. */
  passes: [Pass?, Pass?] = [];

  /** Forgets all readings: the next one is of an unknown draft. */
  forget(): void {
    this.passes = [];
    this.signs = new SignMemory();
  }
}

/** Reads the lines into questions. `overrides` says by line number what a person has said the line is. */
export function layout(lines: readonly Line[], overrides: ReadonlyMap<number, Role>, memory = new LayoutMemory()): Layout {
  const remember = lines.length <= memory.most;
  if (!remember) memory.forget();
  const ground = new Ground(lines, overrides, remember ? memory.signs : new SignMemory(false));
  const { series, units } = ground;
  const first = pass(ground, Math.min(SAMPLE, units.length), memory.passes[0], remember);
  series.habits = habitsOf(first.reading, units.length <= SAMPLE);
  const second = pass(ground, units.length, memory.passes[1], remember);
  if (remember) memory.passes = [first, second];
  return { outline: new Assembly(lines, units, series, second.reading), reading: second.reading, series };
}

/** Searches the first lines with text; what stands before and behind an edit is taken from the same search in the reading before. */
function pass(ground: Ground, count: number, before: Pass | undefined, remember: boolean): Pass {
  const manner = ground.begin();
  const kept = before && before.manner === manner ? sameIn(ground, count, before) : undefined;
  const told: (LineSigns | undefined)[] = [];
  if (before && kept) {
    for (let i = 0; i < kept.head; i++) told[i] = before.told[i];
    for (let i = kept.tail; i < count; i++) told[i] = before.told[i - kept.shift];
  }
  const signsAt = (place: number): LineSigns['signs'] => {
    const known = told[place] ?? ground.toldAt(place);
    if (remember) told[place] = known;
    return known.signs;
  };
  const terrain = count < ground.units.length ? { units: ground.units.slice(0, count), series: ground.series } : ground;
  const reading = search(terrain, signsAt, (place) => ground.certainAt(place), kept && before && { ...kept, before: before.reading });
  return { ground, manner, told, reading };
}

/** A step looks at so many lines ahead that are no furniture, and signs at so many. */
const STEPS_AHEAD = 4;
const SIGNS_AHEAD = 2;
/** Signs look at the line above, and at what the series say of it. */
const SIGNS_BEHIND = 2;

/** What of a search holds still: the lines whose signs are the same at its start and at its end. */
function sameIn(ground: Ground, count: number, before: Pass): Omit<Again, 'before'> & { head: number } {
  const { units, series } = ground;
  const old = before.ground;
  const shift = units.length - old.units.length;
  const oldCount = before.told.length;
  const shorter = Math.min(count, oldCount);
  let head = 0;
  while (head < shorter && ground.alike(head, old, head) && stillSays(before.told[head], series.texts)) head++;
  let tail = units.length;
  while (tail > Math.max(head, head + shift) && ground.alike(tail - 1, old, tail - 1 - shift)) tail--;
  for (let i = count - 1; i >= tail; i--) if (i - shift >= oldCount || !stillSays(before.told[i - shift], series.texts)) tail = Math.max(tail, i + 1);
  // steps look ahead over page ends
  let from = head;
  for (let n = 0; from > 0 && n < STEPS_AHEAD; from--) if (!units[from - 1]?.facts.furniture) n++;
  return { head: Math.max(0, head - SIGNS_AHEAD), from, tail: Math.min(count, tail + SIGNS_BEHIND), shift };
}
const stillSays = (told: LineSigns | undefined, texts: Texts): boolean => told !== undefined && texts.stillSay(told.asked);
