/** What a line's text tells by itself: what stands in front, its labels, what it announces, how it ends. Found once and kept with the line. */
import type { Kind } from '../../item/model.js';
import { plainOption } from './answers.js';
import { BLANK } from '../../language/blanks.js';
import { field, type FieldName } from '../model/fields.js';
import { kindIn, partLine } from './headings.js';
import { keyLine } from './keyWords.js';
import { pattern, plainForms, wordsIn } from '../../language/labels.js';
import type { Line } from '../surface/lines.js';
import { memoised } from '../surface/lines.js';
import { pointsEach } from '../../language/points.js';
import { truth, truthKey } from '../../language/truths.js';
import { CHAT, INTERROGATIVE, OFFER } from '../../language/words.js';
import { entriesIn, type ListEntry } from './entries.js';
import { furnitureOf, type Furniture } from './furniture.js';
import { labelsAt, type Label } from './label.js';
import { openingOf, type Opening } from './opening.js';
import { announced } from './announce.js';
import { dashAnswer, type Behind } from './behind.js';
import { inlineRuns, type InlineRun } from './inline.js';
import { prefixOf, type Prefix } from './prefix.js';

/** What stands in front of an option's words or label. */
export interface Front {
  /** The bullet, '' where there is none. */
  bullet: string;
  /** An empty or filled box, a ring, a tick. */
  box: string;
  /** A filled box or a tick: marks the key. */
  marked: boolean;
  /** A sign that could be a bullet as well as a mark ("* a)", "●"). */
  star: boolean;
  /** Column behind all of it. */
  at: number;
}

const BULLET = /^(?:(#[*#:]+|[-•*◦▪●■·‣➢►▸∙+–—✦➤❖◆⁃∗»]|[\uf020-\uf8ff])[ \t]+|(o|§)(?:\t+|\s{2,}))(?=\S)/u;
/** A small picture in front of a letter, as chat programs put them: no mark, as every option has one. */
const PICTURE = /^(?![✓✔✅☑☒❌✗✘✖⭐★👉→➡⇒🔘⭕◉●○◯⚪⬜☐□])(?:\p{So}|\p{Extended_Pictographic})\ufe0f?\s+(?=[([]?\p{L}[).\]:]\s)/u;
const BOX =
  /^(?:([([])\s{0,3}([xX✓✔*✗•●]?)\s{0,3}[)\]](?=\s|[☐(\p{L}\d])|([☐□○◯⬜❏❑◻⚪🔲⭕🔴🟠🟡🟢🔵🟣🟤🟥🟧🟨🟩🟦🟪🟫🔶🔷🔺🔻🔸🔹])|([☑☒●◉🔘⬛■⚫◼])|([✓✔✅√⭐👉→➡►»⇒]|✔️)|(❌|✗|✘|✖)|([*+])(?=\s*[([]?[\p{L}\d]\s?[).\]:])|(\*)(?=[\p{L}\p{N}“"'(])|(=)(?=\s*\p{L})|([_]{1,12})(?=\s)|([xX])(?=\s+[([]?[A-Za-z]\s?[).\]]|\s{2,}\p{L}))\ufe0f?\s*/u;

/** Reads what stands in front of a label or of an option's words. */
export function frontOf(text: string, from: number): Front {
  const out: Front = { bullet: '', box: '', marked: false, star: false, at: from };
  const bullet = BULLET.exec(text.slice(from, from + 40));
  if (bullet) {
    out.bullet = bullet[1] ?? bullet[2] ?? '';
    out.at += bullet[0].length;
    if (out.bullet === '*') out.star = true;
    if (/[●■◆]/.test(out.bullet)) {
      out.bullet = '';
      out.box = '☐';
      out.star = true;
    }
  }
  const picture = bullet ? null : PICTURE.exec(text.slice(out.at, out.at + 12));
  if (picture) {
    out.bullet = '•';
    out.at += picture[0].length;
  }
  for (let i = 0; i < 2; i++) {
    const m = BOX.exec(text.slice(out.at, out.at + 40));
    if (!m || out.at + m[0].length >= text.length) break;
    if (m[1]) {
      out.box ||= m[1];
      out.marked ||= Boolean(m[2]) && m[2] !== '✗';
    } else if (m[3]) out.box ||= '☐';
    else if (m[4]) {
      out.box ||= '☐';
      out.star = true;
      out.marked ||= m[4] === '☑' || m[4] === '☒' || m[4] === '🔘' || m[4] === '◉';
    } else if (m[5]) {
      out.box ||= '✓';
      out.marked = true;
      // a hand or an arrow in front of every option is a bullet
      if (/[👉→➡►»⇒]/u.test(m[5])) out.star = true;
    } else if (m[6]) out.box ||= '✗';
    else if (m[7] || m[8]) {
      out.box ||= m[7] ? '*' : '*w';
      out.marked = true;
    } else if (m[9]) {
      out.box ||= '=';
      out.marked = true;
    } else if (m[10]) {
      out.box ||= '_';
    } else if (m[11]) {
      out.box ||= 'x';
      out.marked = true;
    }
    out.at += m[0].length;
    if (m[7] || m[8] || m[9]) break;
  }
  return out;
}

const QUESTION_END =
  /[?？؟;]["”»)’*]*\s{0,8}(?:[([]?\s{0,8}(?:\d{1,9}(?:[.,]\d{1,9})?\s{0,8}(?:p|pts?|points?|marks?|punkte?|pkt|pontos?|puntos?|punti)?\.?|[_.…]{3,})\s*[)\]]?)?\s*$/iu;
/** "{whipped/kneaded*}": words to choose from, one of them marked. */
const MARKED_CHOICE = /[{[(][^(){}[\]*]{1,80}(?:\/[^(){}[\]*]{1,80}\*|\*\s?\/)[^(){}[\]]{0,80}[}\])]/u;
/** A form's mark that an answer is required. */
const REQUIRED = /\s\*$/;
const endsAsking = (said: string): boolean => asksIn(said.replace(REQUIRED, ''));
const asksIn = (t: string): boolean => (/[?？؟]/.test(t) ? QUESTION_END.test(t) || /[?？؟]\s*(?:\(|_{3,}|\.{4,}|\s{3,})/.test(t) : false);

const SCORE_BOX = /(?:\s{2,}|\t)_+\s?\/\s?\d{1,2}\s*(?:\p{L}{1,4}\.?)?\s*$/u;
const ASKING = pattern(`^(?:${INTERROGATIVE})(?![\\p{L}])`);

/** What was not asked of a line yet. */
const UNTOLD = Symbol('untold');

/** All that one line shows by itself, each found when it is first asked for. */
export class Facts {
  /** Column of the first character that is not blank. */
  readonly start: number;
  readonly text: string;
  readonly length: number;
  readonly front: Front;
  /** Labels behind bullet and box. */
  readonly labels: readonly Label[];
  readonly asks: boolean;
  /** Has a blank to fill. */
  readonly gap: boolean;
  /** How many. */
  readonly gaps: number;
  /** Has words to choose from within a sentence, one of them marked. */
  readonly choices: boolean;
  /** No sign that ends a sentence stands at its end. */
  readonly open: boolean;
  readonly colon: boolean;
  /** Its first letter is a small one. */
  readonly lower: boolean;
  readonly furniture: Furniture;
  readonly prefix: Prefix;

  // what costs more is found when it is first asked for
  #labelled: Map<string, Facts> | undefined;
  #trimmed: string | typeof UNTOLD = UNTOLD;
  #words: number | typeof UNTOLD = UNTOLD;
  #inline: readonly InlineRun[] | typeof UNTOLD = UNTOLD;
  #opening: Opening | null | typeof UNTOLD = UNTOLD;
  #plain: string | typeof UNTOLD = UNTOLD;
  #keyAt: number | null | typeof UNTOLD = UNTOLD;
  #field: { name: FieldName; at: number } | null | typeof UNTOLD = UNTOLD;
  #kind: Kind | undefined | typeof UNTOLD = UNTOLD;
  #part: boolean | typeof UNTOLD = UNTOLD;
  #each: number | null | typeof UNTOLD = UNTOLD;
  #entries: readonly ListEntry[] | typeof UNTOLD = UNTOLD;
  #dashAnswer: Behind | null | typeof UNTOLD = UNTOLD;
  #asking: boolean | typeof UNTOLD = UNTOLD;
  #truth: boolean | null | typeof UNTOLD = UNTOLD;
  #truthBehind: boolean | typeof UNTOLD = UNTOLD;
  #chat: boolean | typeof UNTOLD = UNTOLD;
  #groupEntries: number | typeof UNTOLD = UNTOLD;
  #bothSides: boolean | typeof UNTOLD = UNTOLD;

  /** @param known a label that the whole draft tells, before those that the line tells by itself */
  constructor(text: string, known?: Label) {
    this.text = plainForms(text);
    text = this.text;
    const trimmed = text.trim();
    this.start = text.length - text.trimStart().length;
    this.length = trimmed.length;
    this.furniture = furnitureOf(text);
    this.front = frontOf(text, this.start);
    this.prefix = prefixOf(text, this.start);
    const from = this.prefix.at > this.start ? this.prefix.at : this.front.at;
    const labels = labelsAt(text, from);
    // a bullet sign before a letter may itself open the label: "- 1 apple"
    this.labels = known ? [known, ...labels.filter((l) => l.cls !== known.cls)] : labels;
    this.asks = endsAsking(trimmed);
    // a box for the score is no blank to fill
    this.gaps = /[_.…([{]/.test(trimmed) ? (trimmed.replace(SCORE_BOX, '').match(BLANK)?.length ?? 0) : 0;
    this.choices = MARKED_CHOICE.test(trimmed);
    this.gap = this.gaps > 0 || this.choices;
    this.open = !/[.?!:…。？！]["”»)\]]*$/u.test(trimmed);
    this.colon = /[:：]\s*$/.test(trimmed);
    this.lower = /^\p{Ll}/u.test(trimmed);
  }
  /** The same line with a label that the whole draft tells. */
  labelled(label: Label): Facts {
    const name = `${label.sig} ${label.text} ${label.at}`;
    this.#labelled ??= new Map();
    const known = this.#labelled.get(name) ?? new Facts(this.text, label);
    this.#labelled.set(name, known);
    return known;
  }
  get trimmed(): string {
    if (this.#trimmed === UNTOLD) this.#trimmed = this.text.trim();
    return this.#trimmed;
  }
  get words(): number {
    if (this.#words === UNTOLD) this.#words = wordsIn(this.trimmed);
    return this.#words;
  }
  /** Option labels within the line, in chains. */
  get inline(): readonly InlineRun[] {
    if (this.#inline === UNTOLD) this.#inline = inlineRuns(this.text);
    return this.#inline;
  }
  /** The word that opens it. */
  get opening(): Opening | null {
    if (this.#opening === UNTOLD) this.#opening = openingOf(this.text);
    return this.#opening;
  }
  /** Its words behind a label or bullet, as options are compared. */
  get plain(): string {
    if (this.#plain === UNTOLD)
      this.#plain = plainOption(this.text.slice(this.labels.find((l) => l.form !== 'loose' && (l.cls === 'up' || l.cls === 'low'))?.at ?? this.front.at));
    return this.#plain;
  }
  /** The column behind words that announce a key, or null. */
  get keyAt(): number | null {
    if (this.#keyAt === UNTOLD) this.#keyAt = announced(this.text) ?? keyLine(this.text);
    return this.#keyAt;
  }
  get field(): { name: FieldName; at: number } | null {
    if (this.#field === UNTOLD) this.#field = field(this.text);
    return this.#field;
  }
  get kind(): Kind | undefined {
    if (this.#kind === UNTOLD) this.#kind = this.length < 400 ? kindIn(this.trimmed) : undefined;
    return this.#kind;
  }
  get part(): boolean {
    if (this.#part === UNTOLD) this.#part = partLine(this.text);
    return this.#part;
  }
  get each(): number | null {
    if (this.#each === UNTOLD) this.#each = pointsEach(this.text);
    return this.#each;
  }
  get chat(): boolean {
    if (this.#chat === UNTOLD)
      this.#chat = (() => {
        const said = this.trimmed.replace(/\s{2,}/g, ' ');
        return (CHAT.test(said) || OFFER.test(said)) && !/_{3,}/.test(this.text);
      })();
    return this.#chat;
  }
  /** Entries as a line of a key list would have them. */
  get entries(): readonly ListEntry[] {
    if (this.#entries === UNTOLD) this.#entries = entriesIn(this.text);
    return this.#entries;
  }
  /** Starts as a question does, whether or not a question mark stands at its end. */
  get asking(): boolean {
    if (this.#asking === UNTOLD) this.#asking = ASKING.test(this.text.slice(this.labels[0]?.at ?? this.front.at));
    return this.#asking;
  }
  /** Where the question ends and the answer stands, behind a dash or in capitals; null where there is none. */
  get dashAnswer(): Behind | null {
    if (this.#dashAnswer === UNTOLD) this.#dashAnswer = dashAnswer(this.text, this.number?.at);
    return this.#dashAnswer;
  }
  /** How many entries stand behind the name of a part: "Part A: 1 b, 2 c". */
  get groupEntries(): number {
    if (this.#groupEntries === UNTOLD)
      this.#groupEntries = (() => {
        const m = /^\s*[\p{L}.]{1,14}\s*[\p{L}\d]{0,4}\s*[:.)–—-]+\s*(?=\S)/u.exec(this.text);
        const rest = m ? this.text.slice(m[0].length) : '';
        return rest ? entriesIn(rest).length : 0;
      })();
    return this.#groupEntries;
  }
  /** Nothing but "true", "false" or their like; a mark may stand beside it. */
  get truth(): boolean | null {
    if (this.#truth === UNTOLD)
      this.#truth =
        this.length < 40
          ? truth(
              this.text
                .slice(this.front.at)
                .replace(/\s*(?:[*✓✔✅]|\([^)]*\)|<-.*|←.*)\s*$/u, '')
                .trim(),
              false,
            )
          : null;
    return this.#truth;
  }
  /** Two labelled sides, wide space between them. */
  get bothSides(): boolean {
    if (this.#bothSides === UNTOLD)
      this.#bothSides = (() => {
        // a place to write the letter may stand between
        const m = /^(.*?\S)(?:\s*\t+\s*|\s{3,}|(?<=.{5})\s{2}(?=[\p{L}\d][.)]\s))(?:(?:[([]\s*[)\]]|_{2,}|\.{3,})\s+)?(\S.*)$/u.exec(this.text);
        // a key in front is no side of its own
        if (this.prefix.truths || (this.prefix.key && m && (m[1]?.length ?? 0) <= this.prefix.at)) return false;
        return (
          m !== null &&
          this.labels.some((l) => l.form !== 'loose') &&
          labelsAt(m[2] ?? '', 0).some((l) => l.form !== 'loose' && /\p{L}{2}/u.test((m[2] ?? '').slice(l.at)))
        );
      })();
    return this.#bothSides;
  }
  /** A truth value behind a statement: "… – True", "…   T". */
  get truthBehind(): boolean {
    if (this.#truthBehind === UNTOLD) this.#truthBehind = this.words > 3 && truthKey(this.text) !== null;
    return this.#truthBehind;
  }
  /** The question label, if any: a number, or a word with one. */
  get number(): Label | undefined {
    return this.labels.find((l) => l.cls === 'num' || l.cls === 'word');
  }
}
const make = (text: string): Facts => new Facts(text);
/** The facts of a line; kept with its text. */
export const factsOf = (line: Line): Facts => memoised(line, make);
