/** Code between fences, fences around a whole quiz, and code whose fence was lost in copying. */
import { lettered, numbered } from '../labels.js';
import { told, type Line } from '../lines.js';
import type { Outliner } from '../outline.js';
import type { Construct } from './construct.js';

const FENCE = /^\s*(```|~~~)/;
const LANGUAGE =
  /^\s*(?:python|javascript|js|java|c|cpp|c\+\+|csharp|c#|html|css|sql|bash|sh|shell|json|xml|text|plaintext|markdown|r|php|ruby|go|rust|kotlin|swift|typescript|ts)\s*$/i;
const BUTTON = /^\s*(?:copy(?: code)?|code kopieren|copiar(?: código)?|copier(?: le code)?|copia(?: codice)?|копировать(?: код)?)\s*$/i;

const fenceIn = (text: string): 'fence' | 'button' | 'language' | '' =>
  text.length > 60 && !FENCE.test(text) ? '' : FENCE.test(text) ? 'fence' : BUTTON.test(text) ? 'button' : LANGUAGE.test(text) ? 'language' : '';

/** A fence around questions only wraps them; one inside a question holds its code. */
function wraps(o: Outliner, line: Line): boolean {
  let labels = 0;
  for (let i = line.index + 1; i < o.lines.length; i++) {
    const l = o.lines[i] as Line;
    if (FENCE.test(l.text)) break;
    if (told(l, numbered) ?? told(l, lettered)) labels++;
  }
  return !o.block || labels >= 3;
}

function codeLine(o: Outliner, line: Line): true {
  const { block } = o;
  if (!block) return o.aside(line, 'Code outside of any question.');
  const pieces = block.entries[block.entries.length - 1]?.pieces ?? block.stem;
  pieces.push({ line: line.index, from: 0, to: line.text.length, joint: '\n', code: true });
  return o.say(line, block.entries.length ? 'option' : 'question', '', 'Code inside a question.');
}

export const fences: Construct = {
  name: 'code',
  read(o, line) {
    const what = told(line, fenceIn);
    if (what === 'fence') {
      o.fence = o.fence ? '' : wraps(o, line) ? 'wrap' : 'code';
      return o.say(line, 'aside', '', 'A fence around code.');
    }
    if (o.fence === 'code') return codeLine(o, line);
    if (what === 'button') {
      lostFence(o, line.index + 1);
      return o.say(line, 'aside', 'aside', 'The words of a button.');
    }
    if (what === 'language' && BUTTON.test(o.next(line.index)?.text ?? '')) return o.say(line, 'aside', 'aside', 'The language of the code below.');
    return false;
  },
};

/** Behind the words of a copy button stands code, up to the next blank line. */
function lostFence(o: Outliner, from: number): void {
  if (!o.block) return;
  let i = from;
  for (; i < o.lines.length && !o.lines[i]?.blank; i++) codeLine(o, o.lines[i] as Line);
  o.taken = i;
}
