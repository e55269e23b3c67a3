/**
 * Remembers the signs of lines from one reading to the next, and from the first to the second search of one. A line's signs are found anew
 * only where something differs that they look at: the line, its neighbours, its place in the series, what the draft does throughout, or
 * what it answered when they asked whether other lines say the same.
 */
import type { LineText } from '../surface/lines.js';
import type { Series } from '../series/series.js';
import type { Unit } from '../signatures/unit.js';
import type { Sign } from './sign.js';
import type { Facts } from '../signatures/facts.js';
import { signsOf, viewAt } from './index.js';

/** What a line could be, and what was asked of the other lines of the draft to tell it, with the answers. */
export interface LineSigns {
  signs: readonly Sign[];
  asked: ReadonlyMap<string, number>;
}

interface Known extends LineSigns {
  manner: string;
  /** What the series say of the place, and the gaps around it. */
  at: string;
  facts: readonly (Facts | undefined)[];
}

/** One reading searches twice, before and after it knows the habits. */
const SEARCHES = 2;

/** The signs of lines, by their text and all that they were found by. */
export class SignMemory {
  private readonly known = new WeakMap<LineText, Known[]>();
  private manner = '';

  /** @param lasting whether what was found is kept for the next reading */
  constructor(private readonly lasting = true) {}

  /** Is told once for each search, before any line is asked for. */
  begin(series: Series): void {
    this.manner = series.manner;
  }

  /** What the line with text at a place could be, without what the habits of the draft say of its labels. */
  at(units: readonly Unit[], place: number, series: Series): LineSigns {
    const u = units[place] as Unit;
    const own = u.line.own;
    const at = series.placeOf(place);
    const facts = [units[place - 1]?.facts, u.facts, units[place + 1]?.facts, units[place + 2]?.facts];
    // braces may open and close lines away
    const all = series.braces ? [] : (this.known.get(own) ?? []);
    for (const k of all) if (k.manner === this.manner && k.at === at && k.facts.every((f, i) => f === facts[i]) && series.texts.stillSay(k.asked)) return k;
    series.texts.asked = new Map();
    const signs = signsOf(viewAt(units, place, series));
    const made: Known = { manner: this.manner, at, facts, asked: series.texts.asked, signs };
    if (this.lasting) this.known.set(own, [made, ...all].slice(0, SEARCHES));
    return made;
  }
}
