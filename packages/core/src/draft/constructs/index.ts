/** The table of constructs, in the order in which they are asked about a line. */
import { bulleted, lettered, numbered } from '../labels.js';
import { keyLine } from '../keys.js';
import { field } from '../fields.js';
import type { Line } from '../lines.js';
import type { Outliner, Role } from '../outline.js';
import type { Construct } from './construct.js';
import { fences } from './fences.js';
import { addField, fieldLines } from './fieldLines.js';
import { furniture } from './furniture.js';
import { addKey, awaitedKeys, keyLines } from './keyLines.js';
import { keyLists } from './keyLists.js';
import { addEntry, dueOptions, options } from './options.js';
import { pairs } from './pairs.js';
import { parts } from './parts.js';
import { prose } from './prose.js';
import { questions } from './questions.js';
import { steps } from './steps.js';
import { tables } from './tables.js';

export const constructs: readonly Construct[] = [
  dueOptions,
  fences,
  furniture,
  keyLists,
  tables,
  awaitedKeys,
  parts,
  fieldLines,
  keyLines,
  steps,
  pairs,
  questions,
  options,
  prose,
];

/** Reads a line as a person said, whatever it looks like. */
export function obey(o: Outliner, line: Line, role: Role): void {
  const reason = 'You said so.';
  const text = line.text;
  o.inKeys = false;
  o.waiting = false;
  const indent = text.length - text.trimStart().length;
  if (role === 'question') {
    const n = numbered(text);
    o.open(line, n?.at ?? indent, n ?? {});
    o.say(line, 'question', n?.label ?? String(o.blocks.length), reason);
  } else if (role === 'option' && o.block) {
    const l = lettered(text);
    const other = l ?? bulleted(text) ?? numbered(text);
    addEntry(
      o,
      line,
      {
        label: l?.letter ?? '',
        form: 'said',
        labels: l ? 'letter' : 'none',
        at: other?.at ?? indent,
        marked: Boolean(other && 'marked' in other && other.marked),
      },
      reason,
    );
  } else if (role === 'key' && o.block) addKey(o, line, keyLine(text) ?? indent, reason);
  else if (role === 'feedback' && o.block) addField(o, line, 'feedback', field(text)?.at ?? indent, reason);
  else if (role === 'passage') {
    o.part.passage.push(o.piece(line, indent, text.length, o.blankBefore ? '\n\n' : ' '));
    o.say(line, 'passage', 'passage', reason);
  } else if (role === 'part') o.openPart(line, reason);
  else o.aside(line, reason);
}
