/** What an editor draws of a line in place of the signs that are typed: bold letters without their stars, digits below the line. */
import { emphasisMarks, LONGEST_MARKED } from './lines.js';
import { EMPHASIS, HIGHLIGHT, INK, STRONG, SUBSCRIPT, SUPERSCRIPT, UNDERLINE } from './stretch.js';

const LOOKS = {
  bold: STRONG,
  italic: EMPHASIS,
  underline: UNDERLINE,
  highlight: HIGHLIGHT,
  colour: INK,
  below: SUBSCRIPT,
  above: SUPERSCRIPT,
} as const;
/** How letters look that are marked so. */
export type LetterLook = keyof typeof LOOKS;

/** Columns of a line as it is typed. */
export interface LookStretch {
  from: number;
  to: number;
  /** How its letters look; none for a sign that only says so and need not be seen. */
  looks: readonly LetterLook[];
}

const ALL = Object.values(LOOKS).reduce((all, look) => all | look, 0);
const named = (look: number): LetterLook[] => (Object.keys(LOOKS) as LetterLook[]).filter((name) => look & LOOKS[name]);

/**
 * The stretches of a line that look other than plain, and the signs that say so, as the reader takes them: in the order of the line,
 * none over another. Escapes, code and formulas stay as they are typed. Signs around nothing are left out.
 * @param raw a line of a draft without its break, as it is typed
 */
export function looksOf(raw: string): LookStretch[] {
  if (raw.length > LONGEST_MARKED || !/[*_<]/.test(raw)) return [];
  const out: LookStretch[] = [];
  let look = 0;
  let from = 0;
  const letters = (to: number): void => {
    if (look && to > from) out.push({ from, to, looks: named(look) });
    from = to;
  };
  for (const [at, mark] of [...emphasisMarks(raw, 0)].sort(([a], [b]) => a - b)) {
    if (!mark.look || mark.look & ~ALL) continue;
    letters(at);
    out.push({ from: at, to: at + mark.length, looks: [] });
    from = at + mark.length;
    look = mark.on ? look | mark.look : look & ~mark.look;
  }
  letters(raw.length);
  return out;
}
