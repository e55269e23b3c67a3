/** What a correction of one line says of the others: lines of the same shape are read anew in its light. */
import type { LineRole, Role } from '../model/outline.js';
import { W } from '../model/weights.js';
import { openingWord } from '../series/series.js';
import type { Unit } from '../signatures/unit.js';
import type { Sign } from './sign.js';

/** Which signs mean a role of the margin, the likeliest first. */
export const SIGNS_OF: Readonly<Record<Role, readonly Sign['role'][]>> = {
  question: ['question', 'sub'],
  option: ['option'],
  key: ['key'],
  feedback: ['field', 'note', 'more'],
  field: ['field'],
  pair: ['row'],
  step: ['option'],
  part: ['part'],
  passage: ['passage'],
  'key-list': ['list-entry', 'list-head', 'list-more'],
  more: ['stem', 'more-option', 'more', 'list-more'],
  aside: ['aside'],
  blank: ['aside'],
};

/** Plain signs for a role: the whole line is that. */
export function signsSaying(role: Role, start: number): Sign[] {
  const made: Sign = { role: SIGNS_OF[role][0] ?? 'aside', weight: 0, why: 'As a line like it, of which you said what it is.', at: start };
  switch (role) {
    case 'question':
      return [{ ...made, sort: 'plain' }];
    case 'option':
    case 'step':
      return [{ ...made, sig: 'bare', segments: [{ label: '', ord: 0, sig: 'bare', start, from: start, to: 1e9, marked: false, star: false, box: false }] }];
    case 'feedback':
    case 'field':
      return [{ ...made, role: 'field', name: 'feedback' }];
    case 'more':
      return SIGNS_OF.more.map((r) => ({ ...made, role: r }));
    default:
      return [made];
  }
}

interface Shape {
  name: string;
  /** A label, or an opening word, of the line or of the one above says more than the mere looks of a line. */
  labelled: boolean;
}
/** Roles that an opening word announces. */
/** The role of the margin that a person would give a line to say that a sign is right. */
export const roleOf = (sign: Sign['role']): Role =>
  sign === 'instruction' || sign === 'bank' || sign === 'write-on' || sign === 'set-field'
    ? 'aside'
    : ((Object.keys(SIGNS_OF) as Role[]).find(
        (r) =>
          r !== 'step' && r !== 'field' && !(r === 'feedback' && sign === 'more') && !(r === 'key-list' && sign === 'list-more') && SIGNS_OF[r].includes(sign),
      ) ?? 'aside');
const ANNOUNCED: ReadonlySet<Role> = new Set(['key', 'feedback', 'field']);
/** The word that a line opens with. */
function wordOf(u: Unit): Shape | null {
  const word = openingWord(u.line);
  return word.length > 1 ? { name: `word ${word}`, labelled: true } : null;
}
/** What opens a line, in a word. */
function openingOf(u: Unit | undefined): string {
  const label = u?.facts.labels.find((l) => l.form !== 'loose');
  return !u ? 'nothing' : label ? `label ${label.sig}` : u.facts.front.bullet || u.facts.front.box ? `point ${u.facts.front.bullet}` : 'words';
}
/** What a line has in common with others of its series: its label's form, or its looks and what stands right above it. */
function shapeOf(u: Unit, above: Unit | undefined): Shape {
  const f = u.facts;
  const label = f.labels.find((l) => l.form !== 'loose') ?? f.labels.find((l) => l.cls === 'num');
  const indent = Math.round(u.line.indent / 3);
  if (label) return { name: `label ${label.sig} ${indent}`, labelled: label.form !== 'loose' };
  if (f.front.bullet || f.front.box) return { name: `point ${f.front.bullet}${f.front.box ? '□' : ''} ${indent}`, labelled: true };
  const looks = [u.line.bold, u.line.heading > 0, u.line.own.quoted, u.gap > 0, f.asks].map(Number).join('');
  const over = u.gap > 0 ? 'a gap' : openingOf(above);
  return { name: `looks ${looks} ${indent} under ${over}`, labelled: /^(?:label|point)/.test(over) };
}

const textOf = (u: Unit): string => `text ${u.facts.trimmed}`;

/** What the corrections of a draft teach. */
export class Lessons {
  private readonly byShape = new Map<string, Role | null>();

  /** @param overrides what a person said that lines are, by line number */
  constructor(
    units: readonly Unit[],
    private readonly overrides: ReadonlyMap<number, Role>,
  ) {
    if (!overrides.size) return;
    for (const [i, u] of units.entries()) {
      const role = overrides.get(u.line.index);
      if (!role || role === 'blank') continue;
      const { name, labelled } = (ANNOUNCED.has(role) && wordOf(u)) || shapeOf(u, units[i - 1]);
      // what is set aside or goes on says nothing of lines like it, but of the same words again
      if (role === 'aside' || role === 'more') this.byShape.set(textOf(u), role);
      if (role === 'more') continue;
      if (role === 'aside' && labelled) {
        if (this.byShape.has(name)) this.byShape.set(name, null);
        continue;
      }
      const known = this.byShape.get(name);
      // two lines of one shape that are different things teach nothing
      this.byShape.set(name, known === undefined || known === role ? role : null);
    }
  }

  /** Whether anything was said. */
  get any(): boolean {
    return this.byShape.size > 0;
  }
  /** What they teach, in one text to compare. */
  get sign(): string {
    return this.any ? JSON.stringify([...this.byShape]) : '';
  }
  /** Words that the corrections make openings of keys. */
  keyWords(units: readonly Unit[]): string[] {
    return units
      .filter((u) => this.overrides.get(u.line.index) === 'key')
      .map((u) => openingWord(u.line))
      .filter((w) => w.length > 1);
  }

  /** Weighs the signs of a line that nobody corrected in the light of those that somebody did. */
  apply(u: Unit, above: Unit | undefined, signs: Sign[]): void {
    if (!this.byShape.size) return;
    const shape = [{ name: textOf(u), labelled: true }, wordOf(u), shapeOf(u, above)].find((x) => x && this.byShape.get(x.name));
    const role = shape && this.byShape.get(shape.name);
    if (!role || (shape.name.startsWith('looks') && (u.facts.keyAt !== null || u.facts.field !== null))) return;
    const wanted = SIGNS_OF[role];
    const worth = shape.labelled ? W.taught : W.taughtLooks;
    let found = false;
    for (const s of signs) {
      if (!wanted.includes(s.role)) continue;
      s.weight += worth;
      found = true;
    }
    // nobody would have taken the line for that without what was said
    if (!found) for (const s of signsSaying(role, u.facts.start)) signs.push({ ...s, weight: worth });
  }
}

/**
 * The lines that a correction changed besides its own: those that are now read as it says and were not before.
 * @param before the roles of all lines before the correction
 * @param after those after it; one for each line of the same text
 * @param line the corrected line, from 0
 * @returns line numbers from 0
 */
export function taughtBy(before: readonly LineRole[], after: readonly LineRole[], line: number): number[] {
  const role = after[line]?.role;
  if (!role || before.length !== after.length) return [];
  return after.flatMap((r, i) => (i !== line && r.role === role && before[i]?.role !== role ? [i] : []));
}
