/**
 * Sentences that the core puts together (what a finding says, what a destination cannot hold, doubts of the reader), told in the language of the person.
 * They come as English texts, from workers and from what is kept; here they are known by their shape, the text around what was put in:
 * "Options {0} and {1} say the same{2}." The catalogue holds the shapes as it holds messages.
 */
import { type Catalogue, catalogueNow, say } from './say.js';

interface Shape {
  message: string;
  /** The text before, between and behind what was put in. */
  pieces: string[];
}
let of: object | undefined;
/** The shapes of the catalogue, those with most text first: the first that fits is meant. */
let shapes: Shape[] = [];
/** What was told already: tables say the same in many cells, whenever they are drawn. */
const told = new Map<string, string>();
const MOST_KEPT = 5000;
/** Shapes and what was told, of the language that is spoken now. */
function follow(): void {
  const catalogue = catalogueNow();
  if (of !== catalogue) {
    of = catalogue;
    told.clear();
    shapes = [...catalogue.keys()]
      .filter((m) => m.includes('{0}'))
      .map((message) => ({ message, pieces: message.split(/\{\d\}/) }))
      .sort((a, b) => b.message.length - a.message.length);
  }
}

/** What stands in the places of a shape; null where a text is not of it. Each piece is taken where it first stands: one way through, whatever the text. */
function valuesIn(text: string, pieces: readonly string[]): string[] | null {
  const [first = '', ...rest] = pieces;
  const last = rest.pop() ?? '';
  if (!text.startsWith(first) || !text.endsWith(last) || text.length < first.length + last.length) return null;
  const values: string[] = [];
  let at = first.length;
  const end = text.length - last.length;
  for (const piece of rest) {
    const next = piece === '' ? at : text.indexOf(piece, at);
    if (next < 0 || next + piece.length > end) return null;
    values.push(text.slice(at, next));
    at = next + piece.length;
  }
  values.push(text.slice(at, end));
  return values;
}

/** The sentences of a text; one that somebody quotes is part of the sentence around it. */
function sentencesOf(text: string): string[] {
  const out: string[] = [];
  let from = 0;
  let quotes = 0;
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '“') quotes++;
    else if (text[i] === '”') quotes--;
    else if (quotes === 0 && text[i] === ' ' && /[.?!”]/.test(text[i - 1] ?? '') && /[\p{Lu}“]/u.test(text[i + 1] ?? '')) {
      out.push(text.slice(from, i));
      from = i + 1;
    }
  }
  return [...out, text.slice(from)];
}

/** A text of the core in the language of the person; as it came where the catalogue has no shape of it. What stands in quotes is the set's own and stays. */
export function retold(text: string): string {
  follow();
  const known = told.get(text);
  if (known !== undefined) return known;
  if (told.size >= MOST_KEPT) told.clear();
  const words = tell(text, catalogueNow());
  told.set(text, words);
  return words;
}

function tell(text: string, catalogue: Catalogue): string {
  const whole = catalogue.get(text);
  if (whole !== undefined) return whole;
  for (const { message, pieces } of shapes) {
    const values = valuesIn(text, pieces);
    // what is put in is words, not the end of one sentence and the beginning of another
    const fits = values?.every((v, i) => pieces[i]?.endsWith('“') || sentencesOf(v).length === 1);
    if (values && fits) return say(message, Object.fromEntries(values.map((v, i) => [i, pieces[i]?.endsWith('“') ? v : retold(v)])));
  }
  const things = text.split(', ');
  if (things.length > 1 && things.every((t) => catalogue.has(t))) return things.map((t) => catalogue.get(t)).join(', ');
  const sentences = sentencesOf(text);
  return sentences.length > 1 ? sentences.map(retold).join(' ') : text;
}
