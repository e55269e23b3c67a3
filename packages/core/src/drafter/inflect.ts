/** Forms of English words: which form of a word stands in a sentence, and the same form of another word. */
import nlp from 'compromise/three';
import type { WordClass } from '../lexicon/lexicon.js';
import { pluralOf } from './words.js';

/** The forms that are told apart. */
export type Form = 'base' | 'plural' | 'third' | 'past' | 'participle' | 'gerund' | 'comparative' | 'superlative';

interface Verbs {
  verbs(): { conjugate(): { PastTense?: string; PresentTense?: string; Gerund?: string; Participle?: string }[] };
}

// Last consonants of short words are doubled before an ending: stir, stirred; not those of "knead", "open".
const doubled = (word: string): string => (/^[^aeiou]*[aeiou][bdglmnprt]$/.test(word) ? word + word.slice(-1) : word);
const withEnding = (word: string, ending: string): string => {
  if (/[^aeiou]y$/.test(word) && ending !== 'ing') return `${word.slice(0, -1)}i${ending}`;
  if (word.endsWith('e') && ending !== 's') return ending === 'ing' && /(?:ee|oe|ye)$/.test(word) ? word + ending : word.slice(0, -1) + ending;
  return (ending === 's' ? word : doubled(word)) + ending;
};
const third = (word: string): string => (/(?:s|x|z|ch|sh|o)$/.test(word) ? `${word}es` : /[^aeiou]y$/.test(word) ? `${word.slice(0, -1)}ies` : `${word}s`);

const kept = new Map<string, Map<Form, string>>();
/** The forms of a word, the base first. Phrases change in their first word as verbs, in their last as nouns. */
export function formsOf(word: string, wordClass: WordClass | undefined): ReadonlyMap<Form, string> {
  const key = `${wordClass ?? ''} ${word}`;
  const known = kept.get(key);
  if (known) return known;
  const forms = new Map<Form, string>([['base', word]]);
  if (wordClass === 'noun') forms.set('plural', pluralOf(word));
  if (wordClass === 'verb') {
    const [first = '', ...rest] = word.split(' ');
    const [told] = (nlp(first).tag('Verb') as unknown as Verbs).verbs().conjugate();
    const phrase = (form: string): string => [form, ...rest].join(' ');
    // the tagger knows the irregular ones; where it gives the base back it knows nothing
    const past = told?.PastTense && told.PastTense !== first ? told.PastTense : withEnding(first, 'ed');
    forms.set('third', phrase(third(first)));
    forms.set('past', phrase(past));
    forms.set('participle', phrase(told?.Participle && told.Participle !== first ? told.Participle : past));
    forms.set('gerund', phrase(told?.Gerund && told.Gerund !== first ? told.Gerund : withEnding(first, 'ing')));
  }
  if (wordClass === 'adjective' && !word.includes(' ') && word.length < 8) {
    forms.set('comparative', withEnding(word, 'er'));
    forms.set('superlative', withEnding(word, 'est'));
  }
  if (kept.size > 20_000) kept.clear();
  kept.set(key, forms);
  return forms;
}

/** Where a word stands in a sentence, in any of its forms; null where it does not, or stands twice. */
export function foundIn(sentence: string, word: string, wordClass: WordClass | undefined): { from: number; to: number; form: Form } | null {
  const lower = sentence.toLowerCase();
  let found: { from: number; to: number; form: Form } | null = null;
  const seen = new Set<string>();
  for (const [form, text] of formsOf(word.toLowerCase(), wordClass)) {
    if (seen.has(text)) continue;
    seen.add(text);
    for (let at = lower.indexOf(text); at >= 0; at = lower.indexOf(text, at + 1)) {
      const to = at + text.length;
      if (/[\p{L}\p{N}]/u.test(lower[at - 1] ?? ' ') || /[\p{L}\p{N}]/u.test(lower[to] ?? ' ')) continue;
      // a longer form at the same place is meant: "knead dough" and "kneaded"
      if (found && found.from !== at) return null;
      found = { from: at, to, form };
    }
  }
  return found;
}

/** A word in a form. */
export const inForm = (word: string, wordClass: WordClass | undefined, form: Form): string => formsOf(word, wordClass).get(form) ?? word;
