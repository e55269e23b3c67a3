/** Compares the words of a written paper with what was to stand on it: nothing may be missing, and all has to come in its order. */
import { nameOf } from '../../item/kinds.js';
import { unescapeXml } from '../../item/markup.js';
import type { QuizSet } from '../../item/model.js';
import type { ReadBack } from '../format.js';
import type { Paper, PaperAnswer, PaperBlock, PaperRun } from './pieces.js';

/** Without escapes, however often they were escaped. */
function unescaped(text: string): string {
  const once = unescapeXml(text);
  return once === text ? text : unescaped(once);
}

/** Letters and digits alone: what a document's words are read as in between may differ. */
const bare = (text: string): string =>
  unescaped(text)
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '');

/** How draft text says looks that Markdown has no signs for. */
const LOOKS = /<\/?(?:sub|sup|u|br|table|thead|tbody|tr|td|th|p|ul|ol|li|pre|code)\b[^<>]*>/g;

/** The words of runs in stretches; formulas, pictures and blanks part them, since they read back in another way. */
function stretches(runs: readonly PaperRun[]): string[] {
  const out = [''];
  for (const r of runs)
    if (r.is === 'text') out[out.length - 1] += r.text;
    else if (r.is !== 'break') out.push('');
  return out;
}
const blockWords = (blocks: readonly PaperBlock[]): string[] =>
  blocks.flatMap((b): string[] => {
    if (b.is === 'paragraph') return stretches(b.runs);
    if (b.is === 'list') return b.items.flatMap(blockWords);
    if (b.is === 'table') return b.rows.flatMap((r) => r.flatMap((c) => blockWords(c.blocks)));
    return b.is === 'code' ? b.text.split('\n') : blockWords(b.blocks);
  });
function answerWords(a: PaperAnswer): string[] {
  switch (a.is) {
    case 'options':
      // their letters are counted by the list that they stand in
      return a.options.flatMap((o) => blockWords(o.blocks));
    case 'boxes':
      return a.words.map((w) => w.text);
    case 'bank':
      return [...a.words];
    case 'pairs':
      // row by row
      return Array.from({ length: Math.max(a.lefts.length, a.rights.length) }, (_, i) => {
        const right = a.rights[i];
        return [...blockWords(a.lefts[i] ?? []), ...(right ? [right.letter, ...blockWords(right.blocks)] : [])];
      }).flat();
    case 'steps':
      return a.steps.flatMap(blockWords);
    case 'blank':
      return a.unit ? [a.unit] : [];
    case 'lines':
      return [];
  }
}

/**
 * What of a paper is missing in a file, or stands in another place.
 * @param text the words of the file as they were read from it
 * @param set what the paper was made from, for the items' names
 */
export function readBackOf(text: string, paper: Paper, set: QuizSet): ReadBack {
  const said = bare(text.replace(LOOKS, ''));
  const differences: ReadBack['differences'] = [];
  const names = new Map(set.items.map((i) => [i.id, nameOf(i)]));
  let at = 0;
  /** The first words that do not come next; null where all do. */
  const missing = (words: readonly string[]): string | null => {
    for (const w of words) {
      const wanted = bare(w);
      if (!wanted) continue;
      const found = said.indexOf(wanted, at);
      if (found < 0) return w.trim();
      at = found + wanted.length;
    }
    return null;
  };
  const look = (item: string | undefined, what: string, words: readonly string[]): void => {
    const before = at;
    const gone = missing(words);
    if (gone === null) return;
    at = before;
    const cut = gone.length > 60 ? `${gone.slice(0, 59)}…` : gone;
    differences.push({
      ...(item !== undefined && { item }),
      name: (item !== undefined && names.get(item)) || paper.title,
      message: `${what} “${cut}” is not where it belongs`,
    });
  };
  // readers drop the number of a question that opens with no words, and count the next ones without it
  const numbered = paper.pieces.every((p) => p.is !== 'item' || p.blocks[0]?.is === 'paragraph');
  let items = 0;
  for (const p of paper.pieces)
    if (p.is === 'title' || p.is === 'heading') look(undefined, 'the heading', [p.text]);
    else if (p.is === 'text' || p.is === 'passage') look(undefined, 'the text', blockWords(p.blocks));
    else if (p.is === 'item') {
      items++;
      look(p.id, 'the question', [...(numbered ? [p.number] : []), ...blockWords(p.blocks)]);
      look(p.id, 'the answer', p.answers.flatMap(answerWords));
    } else if (p.is === 'key')
      for (const row of p.rows) {
        look(row.id, 'the key', [row.number, ...blockWords(row.key)]);
        look(row.id, 'the note', row.notes.flatMap(blockWords));
      }
  const keys = paper.pieces.reduce((n, p) => n + (p.is === 'key' ? p.rows.length : 0), 0);
  return { items, keys, differences };
}
