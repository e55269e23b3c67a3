/**
 * Drafts items from sources by computation alone: sentences that can stand alone, what can be asked of them, the best of those over
 * the whole source. What does not reach the quality is not offered; then there are fewer items than asked, and that is told.
 */
import { kinds } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { seeded } from '../item/shuffle.js';
import { type Lexicon, lexiconOf } from '../lexicon/lexicon.js';
import { evidenceFor } from '../source/evidence.js';
import { indexSources, type Sentence, type SentenceIndex, type SourceText } from '../source/sentences.js';
import { counted } from '../language/counted.js';
import { type Ground, runsOf } from './facts.js';
import { type Candidate, makers } from './makers.js';
import { cautions, type Manner, mannerOf } from './manner.js';
import { mentions } from './mentions.js';
import { type DraftedKind, draftedKinds } from './names.js';
import { outcomesOf } from './outcomes.js';
import { type Statement, statementsOf } from './statements.js';
import { englishWords, roughWords } from './words.js';

/** What is asked of the drafter. */
export interface DraftWish {
  /** How many items of each kind. */
  counts: Partial<Readonly<Record<DraftedKind, number>>>;
  /** Options of choices, 3 to 6; usually 4. */
  options?: number;
  /** The same wish with the same seed gives the same items. */
  seed?: string;
  /** Also what is less sure, behind what is sure and each with its doubt. */
  unsure?: boolean;
}

/** A drafted item with where it comes from. */
export interface Drafted {
  item: Item;
  /** The sentences that it was made from, in the order of the item. */
  evidence: Sentence[];
  /** How it was made, for the person. */
  how: string;
  /** Why it needs a closer look; none where it is sure. */
  doubt?: string;
}

/** What was drafted, and what could not be. */
export interface DraftedItems {
  drafted: Drafted[];
  /** Kinds of which there are fewer than asked. */
  fewer: { kind: DraftedKind; asked: number; made: number; message: string }[];
  /** Sentences of the sources, and how many of them can stand alone. */
  sentences: number;
  usable: number;
  /** What is to be known of items of such a text. */
  caution?: string;
}

/** The least worth that is offered. */
const OFFERED = 0.5;

/** A drafter over sources: read once, asked as often as wanted. */
export class Drafter {
  private readonly index: SentenceIndex;
  /** The sentences that can be asked about, and those of them that are sure. */
  private readonly statements: Statement[];
  private readonly sure: Statement[];
  private readonly english: boolean;
  private readonly manner: Manner;

  /** @param language BCP 47; English where it is not known */
  constructor(sources: readonly SourceText[], language: string | undefined) {
    this.english = !language || /^en\b/i.test(language);
    this.index = indexSources(sources, language);
    this.manner = this.english ? mannerOf(this.index) : 'tells';
    this.statements = statementsOf(this.index, this.english ? englishWords : roughWords(language ?? 'en'), this.english);
    this.sure = this.statements.filter((s) => !s.doubt);
  }

  /** All that facts are found with. @param manner how the sources are taken to speak */
  private ground(lexicon: Lexicon, seed: string, { manner = this.manner, unsure = false }: { manner?: Manner; unsure?: boolean }): Ground {
    const statements = unsure ? this.statements : this.sure;
    return { index: this.index, statements, lexicon, english: this.english, manner, unsure, chance: seeded(seed) };
  }

  /** The words whose meanings help: nouns and names, in their base forms. None where the language has no lexicon here. */
  words(): string[] {
    if (!this.english) return [];
    const out = new Set<string>();
    for (const s of this.statements)
      for (const run of runsOf(s.words, s.text)) {
        out.add(run.text.toLowerCase());
        for (const w of run.words) out.add(w.base);
      }
    return [...out].filter((w) => w.length < 60);
  }

  /** Outcomes that the sources allow; of English sources as sentences, of others their topics. */
  outcomes(most = 8): string[] {
    return outcomesOf(this.ground(lexiconOf({}), 'outcomes', { manner: 'tells' }), most);
  }

  /** Drafts the items that are wished for. @throws RangeError where a number is out of its bounds */
  draft(wish: DraftWish, lexicon: Lexicon): DraftedItems {
    const options = wish.options ?? 4;
    if (!Number.isInteger(options) || options < 3 || options > 6) throw new RangeError('a choice has from 3 to 6 options');
    const ground = this.ground(lexicon, wish.seed ?? 'draft', { unsure: wish.unsure ?? false });
    const asked = draftedKinds.filter((k) => (wish.counts[k] ?? 0) > 0);
    const taken = new Taken(this.index);
    const chosen: Candidate[] = [];
    const fewer: DraftedItems['fewer'] = [];
    const pools = asked.map((kind) => ({
      kind,
      left: wish.counts[kind] ?? 0,
      pool: makers[kind](ground, { options })
        .flatMap(introduced)
        .filter((c) => c.worth >= OFFERED && this.holds(c))
        .map((c) => ({ ...c, doubt: c.from.find((s) => s.doubt)?.doubt ?? c.doubt })),
    }));
    // the kind with the least to choose from picks first, then all in turn: none takes the others' sentences
    pools.sort((a, b) => a.pool.length / a.left - b.pool.length / b.left);
    const open = pools.slice();
    while (open.length)
      for (const p of open.slice()) {
        const c = p.left > 0 ? taken.best(p.pool) : null;
        if (c) {
          taken.add(c);
          chosen.push(c);
          p.left--;
        }
        if (!c || !p.left) {
          open.splice(open.indexOf(p), 1);
          if (p.left) fewer.push(this.tooFew(p.kind, wish.counts[p.kind] ?? 0, p.left));
        }
      }
    chosen.sort((a, b) => (a.from[0]?.at ?? 0) - (b.from[0]?.at ?? 0));
    const caution = cautions[this.manner];
    return { drafted: chosen.map(finished), fewer, sentences: this.index.sentences.length, usable: this.sure.length, ...(caution && { caution }) };
  }

  /** Whether the sources say nothing else than the key: the same look as Check takes at any item. */
  private holds(c: Candidate): boolean {
    if (c.item.kind !== 'true-false') return true;
    const evidence = evidenceFor(c.item, this.index);
    return evidence?.verdict !== 'contradicted' && evidence?.verdict !== 'disputed';
  }
  private tooFew(kind: DraftedKind, asked: number, left: number): DraftedItems['fewer'][number] {
    const made = asked - left;
    const name = kinds[kind].name.toLowerCase();
    const { length } = this.index.sentences;
    const alone = this.sure.length;
    const why = length ? `of its ${counted(length, 'sentence')} ${alone} can stand alone, and none gives a further good one` : 'the source has no sentences';
    return { kind, asked, made, message: `${name}: ${made} of ${asked}; ${why}.` };
  }
}

/** What is asked already: so that items spread over the source and ask nothing twice. */
class Taken {
  private readonly statements = new Set<Statement>();
  private readonly answers = new Set<string>();
  private readonly places = new Map<string, number>();
  private truths = 0;
  constructor(private readonly index: SentenceIndex) {}

  /** The best candidate that is left; null where none is. */
  best(pool: readonly Candidate[]): Candidate | null {
    let best: Candidate | null = null;
    let most = Number.NEGATIVE_INFINITY;
    for (const c of pool) {
      if (c.from.some((s) => this.statements.has(s)) || this.answers.has(c.answer.toLowerCase())) continue;
      // as many false as true, the first one false
      if (c.truth !== undefined && c.truth !== this.truths > 0) continue;
      const near = c.from.reduce((sum, s) => sum + this.crowd(s), 0) / c.from.length;
      // what is sure comes first
      const value = c.worth - (c.doubt ? 1 : 0) + Math.min(0.3, 0.15 * (c.from[0]?.weight ?? 0)) - 0.2 * near;
      if (value > most) {
        most = value;
        best = c;
      }
    }
    return best;
  }
  add(c: Candidate): void {
    for (const s of c.from) {
      this.statements.add(s);
      for (const key of [this.paragraph(s), this.region(s)]) this.places.set(key, (this.places.get(key) ?? 0) + 1);
    }
    this.answers.add(c.answer.toLowerCase());
    if (c.truth !== undefined) this.truths += c.truth ? -1 : 1;
  }
  private crowd(s: Statement): number {
    return (this.places.get(this.paragraph(s)) ?? 0) + 0.5 * (this.places.get(this.region(s)) ?? 0);
  }
  private readonly paragraph = (s: Statement): string => `${s.sentence.source} ${s.sentence.place}`;
  /** A tenth of the sources. */
  private readonly region = (s: Statement): string => `tenth ${Math.floor((10 * s.at) / Math.max(1, this.index.sentences.length))}`;
}

/** The item with what its sentence hangs on put in front; none where that would give the answer away. */
function introduced(c: Candidate): Candidate[] {
  const [one] = c.from;
  const about = c.from.length === 1 ? one?.about : undefined;
  if (!about) return [c];
  if (mentions(about, c.answer)) return [];
  return [{ ...c, item: { ...c.item, stem: `About ${about}: ${c.item.stem}` }, how: `${c.how} Its paragraph speaks of “${about}”.` }];
}

/** The item with the sentence that it comes from as its feedback. */
function finished(c: Candidate): Drafted {
  const evidence = c.from.map((s) => s.sentence);
  const [one] = evidence;
  const general = evidence.length === 1 && one ? `“${one.text}” (${one.sourceName}, ${one.place})` : undefined;
  const resolved = c.from.flatMap((s) => s.resolved ?? []).join(' ');
  return {
    item: general ? { ...c.item, feedback: { general } } : c.item,
    evidence,
    how: resolved ? `${c.how} ${resolved}` : c.how,
    ...(c.doubt && { doubt: `Needs a closer look: ${c.doubt}.` }),
  };
}
