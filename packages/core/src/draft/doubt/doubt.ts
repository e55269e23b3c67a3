/** Says where a draft could nearly as well be read in another way, and where nothing of it could be read at all. */
import type { Diagnostic } from '../../item/model.js';
import { spotOf, type Line } from '../surface/lines.js';
import type { LineRole } from '../model/outline.js';
import { doubtsOf, type Doubt, type Reading } from '../search/search.js';
import type { Unit } from '../signatures/unit.js';
import type { SignRole } from '../signs/sign.js';
import { roleOf } from '../signs/lessons.js';

/**
 * Up to this margin (log-odds, as the weights are) another reading is told. Set on drafts with known readings, so that a doubt is
 * cried for at most one in twenty of those that are read right; see docs/decisions/009.
 */
const NEAR = 1;
/** A doubt stands at the few characters that the decision hangs on. */
const SPOT = 12;

/** What a line would be in the other reading. */
const SAID: Readonly<Record<SignRole, string>> = {
  question: 'a question of its own',
  sub: 'a question of its own',
  stem: 'more of the question above',
  code: 'code of the question above',
  option: 'an option',
  'more-option': 'more of the option above',
  row: 'a row of the task above',
  key: 'the key of the question above',
  note: 'a note on the option above',
  field: 'a note on the question above',
  more: 'more of the note above',
  table: 'a row of a table',
  bank: 'words to choose from',
  part: 'a heading',
  instruction: 'an instruction',
  passage: 'a text to read',
  'set-field': 'a note on the whole set',
  'list-head': 'the heading of a list of keys',
  'list-entry': 'an entry of a list of keys',
  'list-more': 'more of a list of keys',
  aside: 'no part of a question',
  'write-on': 'a line to write on',
};
/** Lines of these kinds make an item what it is; whether a line behind the questions is one aside or another changes nothing. */
const MATTERS: ReadonlySet<SignRole> = new Set(['question', 'sub', 'stem', 'option', 'more-option', 'key', 'row']);

/** The item that lies over a line, by the lines of its block. */
export interface Lying {
  item: { id: string };
  block: { line: number; last: number };
}

/**
 * The doubts of a reading: at most one for each item, at its least sure line. The margin marks of all lines in doubt get the other
 * reading behind their reason.
 * @param built the items in the order of the draft
 */
export function doubtful(reading: Reading, units: readonly Unit[], lines: readonly Line[], roles: LineRole[], built: readonly Lying[]): Diagnostic[] {
  const signs = new Map(reading.path.map((p) => [p.place, p.sign]));
  const worst = new Map<Lying, { doubt: Doubt; line: number }>();
  let next = 0;
  for (const doubt of doubtsOf(reading, NEAR)) {
    const line = units[doubt.place]?.line.index;
    const sign = signs.get(doubt.place);
    const role = line === undefined ? undefined : roles[line];
    if (line === undefined || !sign || !role) continue;
    role.reason = `${role.reason} Nearly as likely: ${SAID[doubt.other.role]}.`;
    while (next < built.length && (built[next] as Lying).block.last < line) next++;
    const home = built[next];
    if (!home || home.block.line > line || !MATTERS.has(sign.role)) continue;
    const known = worst.get(home);
    if (!known || doubt.margin < known.doubt.margin) worst.set(home, { doubt, line });
  }
  return [...worst].map(([home, { doubt, line }]) => {
    const sign = signs.get(doubt.place);
    const key = sign?.role === 'key' || doubt.other.role === 'key';
    return {
      code: key ? 'key-unsure' : 'reading-unsure',
      severity: 'warning',
      ...spotOf(lines[line] as Line, SPOT),
      message: `This line is read as ${SAID[sign?.role ?? 'aside']}. It could as well be ${SAID[doubt.other.role]}.`,
      item: home.item.id,
      fixes: [sign?.role ?? 'aside', doubt.other.role].map((r) => ({ label: `It is ${SAID[r]}`, edits: [], roles: [{ line, role: roleOf(r) }] })),
    };
  });
}

/** A text with words and without any question says so. */
export function nothingRead(lines: readonly Line[], draft: string): Diagnostic[] {
  const first = lines.find((l) => /\p{L}/u.test(l.text)) ?? lines.find((l) => /\p{L}/u.test(draft.slice(l.from, l.to)));
  if (!first) return [];
  return [
    {
      code: 'nothing-read',
      severity: 'warning',
      ...spotOf(first, SPOT),
      message: 'No question was found in this text. Put a number in front of a question, or say in the margin what a line is.',
    },
  ];
}
