/**
 * The sentences of a text that can stand alone: whole, without pointing at what stands elsewhere, and about the source's subject.
 * What hangs on the sentence before is resolved where that is safe, else the sentence is left.
 */
import { stripEnd } from '../item/strip.js';
import type { Sentence, SentenceIndex } from '../source/sentences.js';
import { mentions } from './mentions.js';
import { speaksForItself, topicsOfPlaces } from './subjects.js';
import { type ReadWords, upperFirst, type Word } from './words.js';

/** A sentence that can be asked about. */
export interface Statement {
  /** Where it comes from. */
  sentence: Sentence;
  /** Its place among all sentences of the sources. */
  at: number;
  /** Its words, made to stand alone: an opening "However," is gone, a pronoun replaced. */
  text: string;
  words: Word[];
  /** How much of the source's subject it carries; from 0, usually below 3. */
  weight: number;
  /** Why it reads otherwise than in the source; none where it does not. */
  resolved?: string;
  /** What its paragraph or heading speaks of, where it does not say so itself: "ALGOL 68" of "An ISO draft was released in 1970". */
  about?: string;
  /** Why an item of it needs a closer look: it may judge, or hang on what stands elsewhere; none where it is sure. */
  doubt?: string;
}

const FEWEST_WORDS = 6;
const MOST_WORDS = 27;
const MOST_COMMAS = 3;

// Openings that only link, from memory.
const LINKS =
  /^(?:however|therefore|thus|hence|moreover|furthermore|in addition|additionally|for example|for instance|in fact|indeed|consequently|as a result|nevertheless|nonetheless|similarly|likewise|in other words|of course|in particular|in practice|in general|generally|typically|basically|essentially|note that|notice that|recall that|remember that|remember|in short|accordingly|that is|besides|after all|all in all|above all|still|first of all|also)\s*,?\s+/i;
const JOINED = /^(?:but|and|so|or|yet)\s*,?\s+/i;
/** What a sentence that stands alone does not begin with. */
const HANGS =
  /^(?:this|these|those|that|such|to|as can|as could|in one|of the|of its|in the (?:resulting|same|following|latter|former|other|end|meantime|process|case)|on one|at one|it|its|they|their|he|his|she|her|both|another|other|others|one|here|there|then|now|today|nowadays|recently|neither|either|the (?:same|former|latter|other|others|above|following|two|three|first|second|third|last|next|rest|result|reason|answer|idea|point|problem|solution|exception|difference|latter|author|authors|only|main|most|more|better|best|resulting)|who|what|why|when|where|how|which|please|see|let|consider|suppose|imagine|no|yes|well|if so|even so|even|instead|rather|otherwise|meanwhile|later|earlier|afterwards|again|soon|finally|lastly|firstly|secondly|first|second|third|next|once|unfortunately|fortunately|luckily|interestingly|clearly|obviously|perhaps|maybe|especially|not|nor|as (?:mentioned|described|explained|shown|noted|above|you|we|a result|such|well)|because of (?:this|that|these)|(?:in|to|for|with|from) (?:this|that|these|such|each|both) |at (?:this|that) |for (?:this|that|these|more) |from (?:this|that|there) |with (?:this|that|these) |by (?:this|that|doing) |on (?:this|that|the other)|after (?:this|that|these|which)|before (?:this|that)|during (?:this|that)|under (?:this|these)|all (?:of )?(?:this|these|that|those)|some of (?:this|these|those|them)|many of (?:these|those|them)|most of (?:these|those|them)|each of|one of (?:these|those|them)|none of|similar|unlike (?:this|that|these)|(?:two|three|four|five|six|seven|eight|nine|ten|few|many|some|most|several|all|none) (?:is|are|was|were|have|has|had|will|of them|did|do))(?![\p{L}’'-])/iu;
/** What points at a reader, a writer, a page or a time. */
const POINTS =
  /(?<![\p{L}])(?:I|we|us|our|ours|you|your|yours|my|me|mine|myself|ourselves|yourself|let['’]s|here|above|below|following|previous(?:ly)? (?:section|chapter|paragraph|example|mentioned|described)|(?:next|this|last|each|that) (?:section|chapter|paragraph|example|document|manual|book|page|guide|article|tutorial|figure|table|case|respect|sense|point|regard|purpose|time|year|period|reason|way|approach|method)|these|those|such (?:a|an|as)|chapters?|sections?|appendi(?:x|ces)|figures?|tables?|footnotes?|see|e\.g\.?|i\.e\.?|etc|so-called|aforementioned|respectively|likewise|too|as well(?= *[.,])|said|the latter|the former|another|the others?|the same|one another|recently|currently|nowadays|today|now|ago|so far|soon|at present|at the moment|to date|upcoming|for example|for instance|however|therefore|unfortunately|hopefully|probably|perhaps|maybe|say|this|such|then|also|as of|at (?:first|last|that time|the time)|in turn|instead|later|earlier|further|additional|extra|mentioned|described|discussed|listed|shown|explained|mention|below|ones)(?![\p{L}])/iu;
/** Signs of code, addresses, lists and formulas. */
const CODE =
  /[{}<>|\\_=@#$^*~[\]`…•/‘;:]|(?<!\p{L})['’]|\.\s|\b(?:Inc|Ltd|Co)\b|https?:|www\.|\.(?:txt|html?|org|com|net|conf|exe|deb|fits)\b|--|["“”„«»]|\p{L}\(\)|&\p{L}+;|\d\.\d+\.\d|[?!]/u;
/** What tells how to use a program or a page says nothing of a subject. */
const HANDLING =
  /(?<![\p{L}])(?:as follows|click\p{Ll}*|buttons?|menus?|dialogs?|drop-down|checkbox\p{Ll}*|tabs?|toolbar|by default|default|command[ -]?line|scripts?|directory|directories|files?|filename|options?|parameters?|argument|keyword|installed|install|run|running|type|press|select|set to|configured?|variables?|functions?|will be|subsection|manual|tutorial|document|package|packages)(?![\p{L}])/iu;
/** Judgements and hopes are no facts. */
const OPINION =
  /(?<![\p{L}])(?:should|ought|would|might|may|could|seems?|seemed|appears?|appeared|hope|wish|think|believe|feel|arguably|beautiful|wonderful|terrible|nice|great|good|bad|better|best|simply|just|merely|quite|really|actually|obviously|clearly|course|please|matter|thing|things|something|anything|everything|somewhat|want|wants|like to|if|pretty|either|sort of|kind of|various|certain|several|incredible|interesting|difficult|easy|easily|hard to|important|useful|powerful|popular|well[ -]known|common practice|majority|satisf\p{Ll}+|unique|ideal|perfect|famous|apparent|argues|argued|claims|claimed|supposedly|some half|wonder|last resort|and the like|or so|successful\p{Ll}*|expected to|seen as|be seen|primary aim|regarded as|considered)(?![\p{L}])/iu;

/** A sentence without what stands in brackets and without an opening that only links; null where it cannot stand alone. */
function standingAlone(text: string): string | null {
  let t = text.replace(/\s+/g, ' ').replace(/ ?\([^()]{1,120}\)/g, '');
  if (!/^\p{Lu}/u.test(t) || !/[\p{L}\d%]\.$/u.test(t) || /[()]/.test(t)) return null;
  for (const opening of [JOINED, LINKS]) {
    const m = opening.exec(t);
    if (m) t = upperFirst(t.slice(m[0].length));
  }
  return t;
}

/** The nouns that a sentence opens with, up to its verb: "A stiff starter"; null where it opens otherwise. */
function subjectOf(text: string, words: readonly Word[]): { text: string; plural: boolean; name: boolean } | null {
  const verb = words.findIndex((w) => w.role === 'verb');
  if (verb < 1 || verb > 5) return null;
  const own = words.slice(0, verb);
  const last = own.at(-1);
  if (!last || (last.role !== 'noun' && last.role !== 'name')) return null;
  if (own.slice(0, -1).some((w) => !['determiner', 'adjective', 'noun', 'name'].includes(w.role))) return null;
  return { text: text.slice(0, last.to), plural: last.plural, name: last.role === 'name' };
}

/** Puts the subject of the sentence before in place of an opening pronoun, where only it can be meant. */
function resolve(text: string, words: readonly Word[], before: { text: string; words: readonly Word[] } | null): string | null {
  const [first, second] = words;
  if (!first || !before || !/^(?:it|they)$/i.test(first.text) || second?.role !== 'verb') return null;
  // "It is known that …" means nothing before it
  if (
    /^it (?:is|was|seems|appears|takes|may|might|has been) (?:\p{L}+ )?(?:\p{L}+ )?(?:that|to|not|possible|likely|clear|important|useful|easy|hard|difficult)\b/iu.test(
      text,
    )
  )
    return null;
  const subject = subjectOf(before.text, before.words);
  if (!subject || subject.plural !== /^they$/i.test(first.text) || HANGS.test(before.text)) return null;
  // another noun of the same number may be meant as well
  const rivals = before.words.filter((w) => w.from >= subject.text.length && w.role === 'name' && !subject.name);
  return rivals.length ? null : subject.text + text.slice(first.to);
}

const OPENING =
  /^(?:in|at|on|after|before|during|with|without|by|from|for|since|until|under|over|through|despite|within|as|when|while|once|because|although|though)$/;

/** Whether a pronoun inside has nothing before it that it could mean. */
function dangles(words: readonly Word[]): boolean {
  for (const [i, w] of words.entries()) {
    if (w.lower === 'that' && w.role === 'determiner' && words[i + 1]?.role === 'noun' && words[i - 1]?.role !== 'noun') return true;
    if (!/^(?:it|its|they|their|them|he|she|his|her|him|itself|themselves|himself)$/.test(w.lower)) continue;
    const plural = w.lower.startsWith('the');
    const before = words.slice(0, i);
    const fits = /^(?:he|she|his|her|him|himself)$/.test(w.lower)
      ? before.some((b) => b.role === 'name')
      : before.some((b) => (b.role === 'noun' && (b.plural === plural || plural)) || b.role === 'name');
    if (!fits) return true;
    // "Modern theory defines it as …"
    const runs = before.filter((b, j) => b.role === 'noun' && before[j + 1]?.role !== 'noun').length;
    if (/^(?:it|them)$/.test(w.lower) && words[i - 1]?.role === 'verb' && runs < 2) return true;
    // "In a cold kitchen it takes …": what an opening circumstance names is seldom meant
    if (/^(?:it|they|he|she)$/.test(w.lower) && !before.some((b) => b.role === 'verb')) return true;
  }
  return false;
}

/** "The format", "the last command": which one, only the sentences before say; words for what a text speaks of in passing. From memory. */
const PASSING = new Set(
  'project program system method process result problem idea author book document page group team company organisation organization release version school paper study list event movement man woman people worker delegate member file option value function command user text name number line image picture window button menu dialog field set case order package tool region town city country government state committee union council party meeting strike struggle article writer editor designer developer conversion definition unit output input default class type model data table column row point part piece side area term word concept change code software machine computer format specification standard device application time year period day place section example kind effort issue work purpose majority minority rest range area object item element thing source host client server screen user operation feature mode technique approach difference algorithm step stage phase rule bill agreement contract policy decision law action measure attempt effect cause reason way form style size shape level amount degree rate length width height distance position direction location space situation condition state status total sum island kingdom empire republic province colony territory capital king queen president war battle dynasty tribe uprising revolt treaty church army plenum congress conference statement argument account entry edition name list series collection circuit chip model product company firm founder original inhabitant plate cartridge drag university college institute department school board commission'.split(
    ' ',
  ),
);
const NARROWS = /^(?:of|that|which|who|whose|where|for|used|called|between|with|from|containing|made)$/;

/** The statements of indexed sources, in their order, the doubtful ones with their doubt. @param read the words of a sentence; @param english whether the rules for English hold */
export function statementsOf(index: SentenceIndex, read: ReadWords, english: boolean): Statement[] {
  const out: Statement[] = [];
  const hangs = roughHangs(index.language);
  // how often a stem stands in the sources tells what they are about
  const times = (stem: string): number => index.where.get(stem)?.length ?? 0;
  const kept = new Map<number, { text: string; words: Word[] }>();
  const wordsAt = (at: number): { text: string; words: Word[] } | null => {
    const s = index.sentences[at];
    if (!s) return null;
    let found = kept.get(at);
    if (!found) {
      const t = standingAlone(s.text) ?? s.text;
      found = { text: t, words: read(t) };
      kept.set(at, found);
    }
    return found;
  };
  const topicOf = topicsOfPlaces(index, wordsAt);
  const spokenOf = (stem: string): boolean => index.sentences.length <= ARTICLE && times(stem) >= Math.max(3, index.sentences.length * SUBJECT);
  for (const [at, sentence] of index.sentences.entries()) {
    if (CODE.test(sentence.text.replace(/ ?\([^()]*\)/g, ''))) continue;
    let text = standingAlone(sentence.text);
    if (!text) continue;
    let words = read(text);
    let resolved: string | undefined;
    const first = index.sentences[at - 1];
    const before = first && first.source === sentence.source && first.place === sentence.place ? wordsAt(at - 1) : null;
    if (english) {
      const named = resolve(text, words, before);
      if (named) {
        resolved = `“${words[0]?.text}” stands for “${named.slice(0, named.length - text.length + (words[0]?.to ?? 0))}” from the sentence before.`;
        text = named;
        words = read(text);
      }
      if (HANGS.test(text) || POINTS.test(text) || dangles(words)) continue;
    } else if (hangs.test(text)) continue;
    if (words.length < FEWEST_WORDS || words.length > MOST_WORDS || text.split(',').length - 1 > MOST_COMMAS) continue;
    if (english && (!isSentence(words, text) || words[0]?.role === 'verb' || words[0]?.role === 'adverb')) continue;
    let about: string | undefined;
    let doubt = english ? doubtOf(words, text) : undefined;
    if (english && !speaksForItself(words, text, spokenOf)) {
      const topic = topicOf(at);
      if (topic && !mentions(text, topic)) about = topic;
      // an article of one subject is known by that
      else if (!topic && index.sentences.length > ARTICLE) doubt ??= 'it may not say by itself what it speaks of';
    }
    const stems = [...new Set(sentence.tokens.map((t) => t.stem))];
    const subject = stems.reduce((sum, s) => sum + Math.log(Math.max(1, times(s))), 0) / Math.max(6, stems.length);
    out.push({ sentence, at, text, words, weight: subject, ...(resolved && { resolved }), ...(about && { about }), ...(doubt && { doubt }) });
  }
  return out;

  /** What speaks against asking for anything of an English sentence unseen; nothing where it is sure. */
  function doubtOf(words: readonly Word[], text: string): string | undefined {
    if (OPINION.test(text)) return 'it may be a view and not a fact';
    if (HANDLING.test(text)) return 'it may tell how to use something';
    if (hangsOnBefore(words)) return 'it may hang on the sentence before';
    if (!speaksOfSomething(words, text, times, index.sentences.length)) return 'it may speak of something in passing';
    return undefined;
  }

  /** "The dent fills …": a noun that a sentence near before brought in, or that only points at what is being told. */
  function hangsOnBefore(words: readonly Word[]): boolean {
    for (const [i, the] of words.entries()) {
      if (the.lower !== 'the') continue;
      let head = i + 1;
      while (words[head + 1] && /^(?:adjective|noun|name)$/.test(words[head]?.role ?? '') && /^(?:noun|name)$/.test(words[head + 1]?.role ?? '')) head++;
      const noun = words[head];
      const next = words[head + 1];
      if (!noun || (noun.role !== 'noun' && (head > i + 1 || !PASSING.has(noun.lower))) || (next && NARROWS.test(next.lower))) continue;
      if (PASSING.has(noun.role === 'noun' ? noun.base : noun.lower)) return true;
      // what a text opens a sentence with as known is its subject, or hangs on what it said before; an article of one subject may
      // bring in "the final proof" unannounced, a manual of many seldom
      const known = Math.min(OFTEN, Math.max(3, index.sentences.length * 0.05));
      if (!i && (head === 1 || index.sentences.length > ARTICLE) && !words.slice(1, head).some((w) => w.role === 'name') && times(noun.stem) < known)
        return true;
    }
    return false;
  }
}
/** A text of so many sentences is an article on one subject. */
export const ARTICLE = 120;
/** A word that stands in such a share of an article's sentences is what the whole is about. */
const SUBJECT = 0.05;
/** A word that stands so often is the subject of the whole. */
const OFTEN = 8;
/** Words that a sentence has to have beside numbers, to say which thing it speaks of. */
const FEWEST_CONTENT = 4;
/** Whether the first noun outside an opening circumstance names something that the source speaks of, and is not "the majority", "the time". */
function speaksOfSomething(words: readonly Word[], text: string, times: (stem: string) => number, sentences: number): boolean {
  // what a long text says twice, it speaks of in passing
  const asked = sentences < 20 ? 0 : sentences < 60 ? 1 : 2;
  const comma = OPENING.test(words[0]?.lower ?? '') ? text.indexOf(',') : -1;
  const at = words.findIndex((w) => w.from > comma && (w.role === 'noun' || w.role === 'name'));
  let head = at;
  while (words[head + 1] && /^(?:noun|name)$/.test(words[head + 1]?.role ?? '') && text.slice(words[head]?.to, words[head + 1]?.from) === ' ') head++;
  const noun = words[head];
  if (!noun || (noun.role !== 'name' && PASSING.has(noun.base))) return false;
  return (
    words.slice(at, head + 1).some((w) => w.role === 'name' || times(w.stem) > asked) &&
    words.filter((w) => /^(?:noun|name|verb|adjective)$/.test(w.role)).length >= FEWEST_CONTENT
  );
}
const ENTRY = /^[^,]{2,50} [-–—\ufffd] (?:an?|the|any|to)\s/iu;
const RELATIVE = /^(?:that|which|who|whom|whose|where|when|while|because|as|if|since|until|although|though|than|to|whereby|wherein)$/;
/**
 * Whether it is a sentence and no entry of a dictionary ("A scale consisting of …") or of a list of books: with a verb in a tense outside
 * its relative clauses, and not mostly capitals.
 */
function isSentence(words: readonly Word[], text: string): boolean {
  // "Grid string – a string made up of …"
  if (ENTRY.test(text)) return false;
  let relative = false;
  let nouns = 0;
  const finite = words.some((w, i) => {
    const last = words[i - 1];
    const comma = last !== undefined && /,/.test(text.slice(last.to, w.from));
    if (comma && nouns > 0) relative = false;
    if (w.role === 'noun' || w.role === 'name' || w.role === 'pronoun') nouns++;
    if (RELATIVE.test(w.lower) && nouns) relative = true;
    if (w.role !== 'verb' || relative || !nouns || !last) return false;
    if (/^(?:adjective|preposition|determiner)$/.test(last.role)) return false;
    if (['Copula', 'Auxiliary', 'Modal'].some((m) => w.marks.has(m))) return true;
    if (comma || w.marks.has('Gerund') || !['noun', 'name', 'pronoun', 'adverb', 'other'].includes(last.role)) return false;
    // "a graphics program": a bare form agrees with a plural only
    if (w.marks.has('PresentTense'))
      return w.lower.endsWith('s') ? !last.plural && !/^(?:with|of)$/.test(words[i + 1]?.lower ?? '') : last.plural && !/^an?$/.test(words[0]?.lower ?? '');
    if (/^an?$/.test(words[0]?.lower ?? '')) return false;
    // "a dialect developed in …", "a note used for …" are no sentences, "Fraser wrote a book" is one
    const next = words[i + 1];
    return (
      w.marks.has('PastTense') &&
      !/^(?:by|for|with|as|on|at|from|upon|under)$/.test(next?.lower ?? 'by') &&
      !(words[0]?.lower !== 'the' && /^an?$/.test(words[0]?.lower ?? '') && next?.role === 'preposition')
    );
  });
  const capitals = words.filter((w) => /^\p{Lu}/u.test(w.text)).length;
  return finite && capitals <= 0.4 * words.length;
}

// Openings that hang on a sentence before, in other languages of the stemmers; from memory.
const ROUGH_HANGS: Readonly<Record<string, string>> = {
  de: 'dies\\p{L}*|jene\\p{L}*|er|sie|es|damit|dabei|dazu|dann|deshalb|daher|so|aber|und|hier|da|sein\\p{L}*|ihr\\p{L}*|wir|ich|man',
  fr: 'il|elle|ils|elles|ce|cet|cette|ces|cela|ceci|son|sa|ses|leur|leurs|donc|mais|et|ici|alors|nous|je|vous|on',
  es: 'este|esta|estos|estas|ese|esa|esos|esas|eso|esto|su|sus|pero|así|aquí|entonces|y|ella|él|ellos|ellas|nosotros|yo',
  it: 'questo|questa|questi|queste|esso|essa|egli|ella|loro|suo|sua|qui|quindi|però|ma|e|noi|io|lui|lei',
  pt: 'este|esta|estes|estas|isto|isso|ele|ela|eles|elas|seu|sua|mas|assim|aqui|e|nós|eu',
  nl: 'deze|dit|die|dat|hij|zij|ze|het is|zo|maar|hier|dan|daarom|wij|we|ik',
  ru: 'тот|это|эта|этот|эти|он|она|они|его|её|их|но|так|здесь|мы|я',
};
/** What no sentence that stands alone begins with in a language; where none is known, nothing is held against it. */
const roughHangs = (language: string | undefined): RegExp => {
  const words = ROUGH_HANGS[(language ?? '').slice(0, 2).toLowerCase()];
  return words ? new RegExp(`^(?:${words})(?![\\p{L}])`, 'iu') : /(?!)/;
};

/** A statement's words without its full stop. */
export const withoutStop = (text: string): string => stripEnd(text, /[.\s]/);
