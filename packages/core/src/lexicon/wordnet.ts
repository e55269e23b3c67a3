/**
 * Reads the database files of WordNet 3.1 (Princeton University): index files by search in halves, data files by the place that an
 * index names. Formats: wndb(5WN) and senseidx(5WN).
 */
import { type Lexicon, type Sense, type WordClass, wordClasses } from './lexicon.js';

/** The files as bytes, as `dict/` has them. */
export interface WordNetFiles {
  index: Readonly<Record<WordClass, Uint8Array>>;
  data: Readonly<Record<WordClass, Uint8Array>>;
  /** `index.sense`. */
  senses: Uint8Array;
}

const LETTER: Readonly<Record<string, WordClass>> = { n: 'noun', v: 'verb', a: 'adjective', s: 'adjective', r: 'adverb' };
// lexnames(5WN), by number
const FIELDS =
  'adj.all adj.pert adv.all noun.Tops noun.act noun.animal noun.artifact noun.attribute noun.body noun.cognition noun.communication noun.event noun.feeling noun.food noun.group noun.location noun.motive noun.object noun.person noun.phenomenon noun.plant noun.possession noun.process noun.quantity noun.relation noun.shape noun.state noun.substance noun.time verb.body verb.change verb.cognition verb.communication verb.competition verb.consumption verb.contact verb.creation verb.emotion verb.motion verb.perception verb.possession verb.social verb.stative verb.weather adj.ppl'.split(
    ' ',
  );
const MOST_SIBLINGS = 40;
const MOST_ABOVE = 5;
const NEWLINE = 10;

interface Synset {
  id: string;
  class: WordClass;
  field: string;
  words: string[];
  gloss: string;
  pointers: { symbol: string; id: string; from: number; to: number }[];
}

const text = new TextDecoder('latin1');
/** The line that begins at a place. */
const lineAt = (file: Uint8Array, from: number): string => {
  const end = file.indexOf(NEWLINE, from);
  return text.decode(file.subarray(from, end < 0 ? file.length : end));
};
const inOrder = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** The place of the first line that does not stand before what begins with `start`, in a file sorted by its bytes. */
function seek(file: Uint8Array, start: string): number {
  let low = 0;
  let high = file.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    // back to the beginning of the line
    const from = file.lastIndexOf(NEWLINE, middle - 1) + 1;
    if (inOrder(lineAt(file, from).slice(0, start.length), start) < 0) {
      const end = file.indexOf(NEWLINE, middle);
      low = end < 0 ? file.length : end + 1;
    } else high = from;
  }
  return low;
}
/** The line of a sorted file that begins so. */
const find = (file: Uint8Array, start: string): string | null => {
  const from = seek(file, start);
  const line = from < file.length ? lineAt(file, from) : '';
  return line.startsWith(start) ? line : null;
};
const written = (word: string): string => word.replace(/\((?:a|p|ip)\)$/, '').replaceAll('_', ' ');

/** How often words were met with a meaning, where they were: by `word place`. */
function frequencies(senses: Uint8Array): Map<string, number> {
  const out = new Map<string, number>();
  for (const line of text.decode(senses).split('\n')) {
    const [key = '', place, , tagged] = line.split(' ');
    if (Number(tagged) > 0) out.set(`${key.slice(0, key.indexOf('%'))} ${place}`, Number(tagged));
  }
  return out;
}

/** A lexicon over WordNet's files. @param files all of them, whole */
export function wordNet(files: WordNetFiles): Lexicon {
  const synsets = new Map<string, Synset>();
  const synset = (id: string): Synset => {
    const kept = synsets.get(id);
    if (kept) return kept;
    const [name, offset] = id.split('/') as [WordClass, string];
    const [data = '', about = ''] = lineAt(files.data[name], Number(offset)).split(' | ');
    const f = data.split(' ');
    const count = Number.parseInt(f[3] ?? '0', 16);
    const words = Array.from({ length: count }, (_, i) => written(f[4 + 2 * i] ?? ''));
    const at = 4 + 2 * count;
    const pointers = Array.from({ length: Number(f[at]) || 0 }, (_, i) => {
      const [symbol = '', place = '', pos = '', ends = '0000'] = f.slice(at + 1 + 4 * i);
      return { symbol, id: `${LETTER[pos] ?? 'noun'}/${place}`, from: Number.parseInt(ends.slice(0, 2), 16), to: Number.parseInt(ends.slice(2), 16) };
    });
    const made = { id, class: name, field: FIELDS[Number(f[1])] ?? '', words, gloss: about.trim(), pointers };
    if (synsets.size > 20_000) synsets.clear();
    synsets.set(id, made);
    return made;
  };
  const counts = frequencies(files.senses);
  const count = (word: string, s: Synset): number => counts.get(`${word.toLowerCase().replaceAll(' ', '_')} ${s.id.split('/')[1]}`) ?? 0;
  const linked = (s: Synset, ...symbols: string[]): Synset[] => s.pointers.filter((p) => symbols.includes(p.symbol)).map((p) => synset(p.id));
  const sense = (word: string, s: Synset): Sense => {
    const [upper] = linked(s, '@', '@i');
    const above: string[] = [];
    for (let u = upper; u && above.length < MOST_ABOVE; [u] = linked(u, '@', '@i')) above.push(u.id);
    const instance = s.pointers.some((p) => p.symbol === '@i');
    // adjectives have no sorts: those of the same cluster and of its opposite stand beside each other
    const beside =
      s.class === 'adjective'
        ? linked(s, '&').flatMap((h) => [h, ...linked(h, '&')])
        : (upper?.pointers ?? []).filter((p) => p.symbol === (instance ? '~i' : '~')).map((p) => synset(p.id));
    const siblings = beside
      .filter((o) => o.id !== s.id)
      .slice(0, 400)
      .map((o) => ({ word: o.words[0] ?? '', count: count(o.words[0] ?? '', o) }))
      .sort((a, b) => b.count - a.count || inOrder(a.word, b.word));
    const place = s.words.findIndex((w) => w.toLowerCase() === word) + 1;
    const opposites = s.pointers.filter((p) => p.symbol === '!' && (!p.from || p.from === place)).map((p) => synset(p.id).words[Math.max(0, p.to - 1)] ?? '');
    const [gloss = '', ...rest] = s.gloss.split(/;\s*(?=")/);
    return {
      id: s.id,
      class: s.class,
      words: s.words,
      gloss,
      examples: rest.flatMap((r) => Array.from(r.matchAll(/"([^"]+)"/g), (m) => m[1] ?? '')),
      count: count(word, s),
      field: s.field,
      instance,
      above,
      siblings: siblings.slice(0, MOST_SIBLINGS),
      below: linked(s, '~', '~i')
        .slice(0, 60)
        .flatMap((o) => o.words),
      opposites,
    };
  };
  const known = new Map<string, readonly Sense[]>();
  return (asked) => {
    const word = asked.toLowerCase().trim();
    const kept = known.get(word);
    if (kept) return kept;
    const key = `${word.replaceAll(' ', '_')} `;
    // the files are ASCII, and begin with a licence whose lines begin with blanks
    const found = /^[!-~ ]+$/.test(word)
      ? wordClasses.flatMap((c) => {
          const f = find(files.index[c], key)?.trim().split(' ');
          const n = Number(f?.[2]) || 0;
          return f ? f.slice(-n).map((offset) => sense(word, synset(`${c}/${offset}`))) : [];
        })
      : [];
    // the most frequent first; of one class they stand so already
    const sorted = found.map((s, i) => ({ s, i })).sort((a, b) => b.s.count - a.s.count || a.i - b.i);
    const out = sorted.map(({ s }) => s);
    if (known.size > 20_000) known.clear();
    known.set(word, out);
    return out;
  };
}
