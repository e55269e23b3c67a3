/** Steps under a question that asks for an order. */
import { bulleted, numbered } from '../labels.js';
import { keyLine } from '../keys.js';
import { told } from '../lines.js';
import type { Construct } from './construct.js';
import { addEntry } from './options.js';
import { startsQuestion } from './questions.js';

/** A line to write the place on in front of a step. */
const lineBefore = (t: string): { at: number; form: string } | null => {
  const m = /^\s*(?:_+(?=\s)|_{2,}|\(\s{1,4}\)|\[\s{1,4}\])\s*(?=\p{L})/u.exec(t);
  return m ? { at: m[0].length, form: 'line' } : null;
};

export const steps: Construct = {
  name: 'step',
  read(o, line) {
    const b = o.block;
    if (!b || b.keys.length || o.kindOf(b) !== 'ordering' || told(line, keyLine) !== null || b.count.letter > 0) return false;
    const n = told(line, numbered);
    const bullet = n ? null : (told(line, bulleted) ?? told(line, lineBefore));
    const count = b.entries.length;
    const found =
      n && !startsQuestion(o, line, n)
        ? { label: n.label, form: n.form, labels: 'number' as const, at: n.at }
        : bullet
          ? { label: '', form: bullet.form, labels: 'bullet' as const, at: bullet.at }
          : null;
    if (!found) return false;
    addEntry(o, line, { ...found, marked: false }, 'A step, under a question that asks for an order.');
    return o.say(line, 'step', `${count + 1}.`, 'A step, under a question that asks for an order.');
  },
};
