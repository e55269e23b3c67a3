/**
 * What a sentence speaks of, and whether it says so itself: "ALGOL 68 was revised in 1973" does, "An ISO draft was released in 1970"
 * needs what the paragraph or its heading speaks of.
 */
import type { SentenceIndex } from '../source/sentences.js';
import { mentions } from './mentions.js';
import type { Word } from './words.js';

const OPENING =
  /^(?:in|at|on|after|before|during|with|without|by|from|for|since|until|under|over|through|despite|within|as|when|while|once|because|although|though|like|unlike|given|according)$/;
/** Headings that name a part of a text and not what it speaks of; from memory. */
const PARTS =
  /^(?:introduction|overview|history|notes?|description|examples?|background|summary|conclusions?|see also|contents|preface|foreword|appendix|references|index|glossary|usage|synopsis|author|authors|credits|license|licence|copyright|general|miscellaneous|details|further reading|bibliography|abstract|about|basics|tips|faq|chapter|section|part|origins?|today|results?|definitions?|next|previous|home|up|top|prev|back|index)\b/i;
const MOST_HEADING_WORDS = 6;

const DATE = /^(?:early|late|mid|january|february|march|april|may|june|july|august|september|october|november|december|\d+(?:st|nd|rd|th|s)?)$/;

/** Nouns of what is always done to or has of something: "Work was well advanced"; from memory. */
const OF_SOMETHING =
  /^(?:work|development|support|production|progress|use|research|scale|sales?|access|performance|size|length|speed|membership|attendance|cost|price|construction|requirement)$/;

/** The words in front of the first verb in a tense, without an opening circumstance: "In 1973, the revised report". */
function openingOf(words: readonly Word[], text: string): { own: readonly Word[]; verb: Word | undefined } {
  let from = 0;
  if (OPENING.test(words[0]?.lower ?? '')) {
    const comma = text.indexOf(',');
    // "In September 2002 the original post": a date needs no comma behind it
    const dated = words.findIndex((w, i) => i > 0 && !DATE.test(w.lower) && w.role !== 'number');
    from = Math.max(0, dated > 1 ? dated : comma < 0 ? 0 : words.findIndex((w) => w.from > comma));
  }
  const to = words.findIndex((w, i) => i > from && w.role === 'verb' && !w.marks.has('Gerund') && !w.marks.has('Participle'));
  return { own: words.slice(from, to < 0 ? words.length : to), verb: words[to] };
}

const named = (w: Word): boolean => w.role === 'name' || /\p{Lu}{2}|\p{L}\d|\d\p{L}/u.test(w.text);
const past = (w: Word | undefined): boolean => !!w && (w.marks.has('PastTense') || /^(?:was|were|had|did)$/.test(w.lower));

/**
 * Whether a sentence says by itself what it speaks of: its subject is named, or is a kind of thing of which something holds at any time
 * ("Lactic acid bacteria ferment sugar"), not one that a sentence before has brought in.
 * @param known whether the whole source speaks of a thing, by the stem of its noun
 */
export function speaksForItself(words: readonly Word[], text: string, known: (stem: string) => boolean): boolean {
  const { own, verb } = openingOf(words, text);
  const [first] = own;
  const noun = own.find((w, i) => (w.role === 'noun' || w.role === 'name') && own[i + 1]?.role !== 'noun' && own[i + 1]?.role !== 'name');
  if (!first || !noun) return false;
  const ones = /^an?$/.test(first.lower);
  // one of many that did something once: "A cut-down version was released"
  if (ones && past(verb)) return false;
  // "Ian was introduced to computers": a first name alone is anybody's
  if (own.length === 1 && first.marks.has('FirstName')) return false;
  if (own.some(named)) return true;
  if (known(noun.stem)) return true;
  if (OF_SOMETHING.test(noun.base)) return false;
  if (first.role === 'determiner' || first.role === 'pronoun') return ones;
  // what things of a kind did once, they did somewhere
  if (past(verb)) return first === noun && !noun.plural;
  return noun.plural || first === noun;
}

/** What a paragraph speaks of by its first sentence: "Darwin" of "Darwin is an operating system …"; null where it does not open so. */
function leadOf(words: readonly Word[], text: string): string | null {
  const verb = words.findIndex((w) => w.role === 'verb');
  const own = words.slice(0, verb);
  const last = own.at(-1);
  if (verb < 1 || verb > 6 || !last || (last.role !== 'noun' && last.role !== 'name')) return null;
  if (own.some((w) => !['determiner', 'adjective', 'noun', 'name'].includes(w.role))) return null;
  const at = own[0]?.role === 'determiner' ? 1 : 0;
  const head = own[at];
  // a thing that is brought in, or a name; not "the result", "its author"
  if (!head || !(own.slice(at).some(named) || (/^(?:is|are)$/.test(words[verb]?.lower ?? '') && /^(?:an?|the)$/i.test(words[verb + 1]?.lower ?? ''))))
    return null;
  if (at && !/^(?:an?|the)$/i.test(own[0]?.lower ?? '')) return null;
  const lead = text.slice(head.from, last.to);
  // "An example is the reflector …" opens with what no paragraph is about
  return PARTS.test(lead) ? null : lead;
}

const headingText = (text: string): string =>
  text
    .trim()
    .replace(/^(?:chapter|section|part)?\s*(?:\d+(?:\.\d+)*\.?|[IVX]+\.)\s+/i, '')
    .replace(/[*#=_]+|["“”]+/g, '')
    .trim();

/**
 * What each sentence of the sources hangs on: what its paragraph has opened with, else the heading above; null where neither names a thing.
 * @param wordsAt a sentence by its place, with its words
 */
export function topicsOfPlaces(index: SentenceIndex, wordsAt: (at: number) => { text: string; words: readonly Word[] } | null): (at: number) => string | null {
  const { sentences } = index;
  const paragraph = (at: number): string | undefined => sentences[at] && `${sentences[at].source} ${sentences[at].place}`;
  const heading: (string | null)[] = [];
  /** Where the paragraph of each sentence begins. */
  const starts: number[] = [];
  let last: string | null = null;
  for (const [at, s] of sentences.entries()) {
    if (at && sentences[at - 1]?.source !== s.source) last = null;
    const begins = paragraph(at) !== paragraph(at - 1);
    starts.push(begins ? at : (starts[at - 1] ?? at));
    const alone = begins && paragraph(at) !== paragraph(at + 1);
    if (alone && s.time === undefined && !/[.:;?!,]$/.test(s.text.trim())) {
      const text = headingText(s.text);
      // a heading that names a part hides the one above it
      last =
        text &&
        text.split(/\s+/).length <= MOST_HEADING_WORDS &&
        /^[\p{Lu}\d]/u.test(text) &&
        !PARTS.test(text) &&
        /\p{L}{2}/u.test(text) &&
        !/[{}<>|\\_=@$^~`]/.test(text)
          ? text
          : null;
    }
    heading.push(last);
  }
  return (at) => {
    if (sentences[at]?.time !== undefined) return null;
    const first = starts[at] ?? at;
    const opening = first < at ? wordsAt(first) : null;
    const lead = opening && leadOf(opening.words, opening.text);
    const above = heading[at] ?? null;
    // "Darwin" above and "The Darwin kernel is …" below: the heading is what the learner knows
    return above && lead && mentions(lead, above) ? above : (lead ?? above);
  };
}
