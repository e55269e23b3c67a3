/** Lines that name a field (feedback, hint, points, tags …), and feedback behind an arrow under an option. */
import { field, type FieldName } from '../fields.js';
import { kindNamed } from '../headings.js';
import { lettered, letterPlace } from '../labels.js';
import { told, type Line } from '../lines.js';
import type { Outliner } from '../outline.js';
import type { Construct } from './construct.js';

const ARROW = /^\s*(?:->|→|↳|=>|⇒|>>)\s*(?=\S)/;

export function addField(o: Outliner, line: Line, name: FieldName, at: number, reason: string): true {
  const b = o.block;
  if (!b) return o.aside(line, 'A field with no question before it.');
  let to = line.text.length;
  if (/^\s*[([]/.test(line.text) && /[)\]]\s*$/.test(line.text)) to = line.text.search(/[)\]]\s*$/);
  const piece = o.piece(line, at, to);
  if (name === 'kind') b.kind = kindNamed(line.text.slice(at)) ?? b.kind;
  const entry = b.entries[b.entries.length - 1];
  if (name === 'feedback' && entry && !b.keys.length && !b.fields.length && ofOption(o, line)) entry.feedback.push(piece);
  else b.fields.push({ name, line: line.index, pieces: [piece] });
  const feedback = name === 'feedback' || name === 'correct' || name === 'incorrect';
  return o.say(line, feedback ? 'feedback' : 'field', name, reason);
}

/** Feedback is an option's own where it stands deeper than the option, or where more options follow. */
function ofOption(o: Outliner, line: Line): boolean {
  const b = o.block;
  const entry = b?.entries[b.entries.length - 1];
  const own = o.lines[entry?.pieces[0]?.line ?? 0];
  if (!b || !entry || !own) return false;
  if (line.indent > own.indent) return true;
  const next = o.next(line.index);
  const l = next ? told(next, lettered) : null;
  return l !== null && entry.label !== '' && letterPlace(l.letter) === letterPlace(entry.label) + 1;
}

export const fieldLines: Construct = {
  name: 'field',
  read(o, line) {
    const b = o.block;
    if (!b) return false;
    const arrow = ARROW.exec(line.text);
    const entry = b.entries[b.entries.length - 1];
    if (arrow && entry && !b.keys.length && o.kindOf(b) !== 'matching') {
      entry.feedback.push(o.piece(line, arrow[0].length));
      return o.say(line, 'feedback', 'feedback', 'An arrow under an option.');
    }
    const key = b.keys[b.keys.length - 1];
    if (arrow && key && !o.blankBefore) {
      key.feedback.push(o.piece(line, arrow[0].length));
      return o.say(line, 'feedback', 'feedback', 'An arrow under a key.');
    }
    const f = told(line, field);
    return f !== null && addField(o, line, f.name, f.at, `Starts with a word for “${f.name}”.`);
  },
};
