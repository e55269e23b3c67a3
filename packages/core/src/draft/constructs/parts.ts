/** Headings of parts, instructions for the questions below, and passages to read. */
import type { Kind } from '../../item/model.js';
import { kindIn, kindsOfRanges, partLine } from '../headings.js';
import { field } from '../fields.js';
import { keyLine } from '../keys.js';
import { lettered, numbered, romanNumbered } from '../labels.js';
import { told, type Line } from '../lines.js';
import { emptyPart, type Outliner, type Part } from '../outline.js';
import { pointsEach, pointsTotal } from '../points.js';
import { CHAT, KIND_NAME } from '../words.js';
import type { Construct } from './construct.js';
import { optionsFollow } from './options.js';
import { startsQuestion } from './questions.js';

const PASSAGE_HEAD =
  /(?:^|[^\p{L}])(?:passage|reading(?: text| passage)?|text(?: [A-E\d])?|texto(?: [A-E\d])?|lectura|texte(?: [A-E\d])?|lesetext|testo(?: [A-E\d])?|brano|tekst(?: [A-E\d])?|leestekst|текст(?: \p{Lu})?|metin)(?=\s*(?:[:–—-]|$))/iu;
const READ =
  /(?:questions?|items?)\s+\d+\s*(?:[-–]|to|and|through)\s*\d+\s+(?:refer|are based|relate|are about)|based on the (?:text|passage|following)|the following (?:text|passage|extract|paragraph|dialogue|article|story)|folgende[nr]? (?:text|abschnitt)|siguiente (?:texto|fragmento)|texte suivant|seguente (?:testo|brano)|seguinte (?:texto|trecho)|volgende tekst|(?:^|[^\p{L}])(?:read|lies|lest|lee|lea|lean|lisez|leia|leggi|leggete|lees|przeczytaj|прочитайте|прочти|okuyun|oku)(?![\p{L}])[^?]{0,60}(?:text|passage|paragraph|article|story|extract|following|texto|pasaje|fragmento|artículo|texte|passage|abschnitt|brano|testo|trecho|tekst|fragment|текст|отрывок|уривок|metn|parça)/iu;

interface HeadingWords {
  part: boolean;
  /** Asks something, and not for a kind of question. */
  asks: boolean;
  kind: Kind | undefined;
  /** Nothing but "True or false?". */
  truth: boolean;
  each: number | null;
  /** Heads a text to read. */
  passage: boolean;
  /** Tells to read a text, or what to do with numbered questions. */
  instruction: boolean;
}
/** What tells learners to mark statements. */
const ASKED =
  /^(?:circle|write|mark|tick|choose|select|indicate|underline|put|say|state|decide|escribe|marca|indica|kreuze|schreibe|entscheide|cochez|entourez|écri(?:s|vez)|indiquez|segna|scrivi|indica|assinale|escreva|omcirkel|kies|zaznacz|napisz|отметьте|напишите|познач\p{L}*|işaretle\p{L}*)\s+|\s+(?:on the line|for each (?:statement|sentence)|next to each .*|an)$/giu;
/** What the words of a line say as a heading. */
function headingWords(text: string): HeadingWords {
  const t = text.trim();
  const free = t.length < 200 && !numbered(t) && !lettered(t);
  const question = /[?]\s*$/.test(t);
  const kind = kindIn(t);
  return {
    part: partLine(t),
    asks: question && kind === undefined,
    kind,
    truth:
      t.length < 120 &&
      KIND_NAME.exec(
        t
          .replace(/[?:.]+$/, '')
          .replace(/\s*\([^)]*\)$/, '')
          .replace(ASKED, '')
          .replace(/\s*\bor\b\s*/i, '/')
          .trim(),
      )?.[3] !== undefined,
    each: pointsEach(t),
    passage: free && t.length < 80 && !question && PASSAGE_HEAD.test(t),
    instruction: free && (READ.test(t) || kindsOfRanges(t).length > 0),
  };
}

/** A part of its own where the present one has questions already. */
function freshPart(o: Outliner, line: Line): Part {
  if (!o.part.questions) return o.part;
  const label = o.part.label;
  o.part = { ...emptyPart(line.index), label };
  o.parts.push(o.part);
  return o.part;
}

/** What the words of a heading say of the questions below: their kind and their points. */
export function describe(part: Part, line: Line): void {
  const ranges = told(line, kindsOfRanges);
  part.ranges.push(...ranges);
  const kind = told(line, kindIn);
  if (kind && !ranges.length) part.kind = kind;
  const each = told(line, pointsEach);
  const total = each === null ? told(line, pointsTotal) : null;
  if (each !== null) part.points = each;
  if (total !== null) part.total = total;
}

/** Why a line is the heading of a part; null where it is none. */
function whyHeading(o: Outliner, line: Line): string | null {
  const t = line.text.trim();
  const closed = !o.block || o.blankBefore || o.complete(o.block) || line.heading > 0 || line.bold;
  if (!closed) return null;
  const n = told(line, numbered);
  const l = told(line, lettered);
  const w = told(line, headingWords);
  if (w.part && !w.asks && !(n?.form === 'word' && w.each === null)) return 'Starts with a word for “part”.';
  if (o.habits.letterParts && l && /[A-Z]/.test(l.letter)) {
    const next = o.next(line.index);
    if (next && (told(next, numbered) || /^\s*\d{1,3}\s/.test(next.text))) return 'A letter over numbered questions, as the other parts have.';
  }
  const roman = !o.habits.roman ? told(line, romanNumbered) : null;
  if (
    roman &&
    !optionsFollow(o, line.index) &&
    (w.kind !== undefined ||
      w.each !== null ||
      ((line.bold || o.blankBefore) && nextNumberIsFirst(o, line)) ||
      (o.blankBefore && o.part.label === String(roman.number - 1)))
  )
    return 'A Roman number and what the part asks for.';
  if (n || l) return null;
  if (line.heading > 0) return optionsFollow(o, line.index) && /[?:]\s*$/.test(t) ? null : 'A heading.';
  if (!o.blankBefore && o.block && !o.complete(o.block) && !line.bold) return null;
  const { kind, each } = w;
  if (w.truth && o.blankBefore && o.next(line.index) && !optionsFollow(o, line.index)) return 'Names what the statements below are.';
  if (kind === undefined && each === null) return null;
  const next = o.next(line.index);
  const before = next ? told(next, numbered) : null;
  if (told(line, field) || told(line, keyLine) !== null || optionsFollow(o, line.index)) return null;
  if (line.bold && kind !== undefined && !/[?]\s*$/.test(t)) return 'Bold words that name a kind of question.';
  if (t.length < 60 && t === t.toUpperCase() && /\p{Lu}{3}/u.test(t) && kind !== undefined) return 'Capitals that name a kind of question.';
  if (kind !== undefined && t.length < 130 && before && kind !== 'matching' && kind !== 'ordering' && o.blocks.length > 0 && !CHAT.test(t))
    return 'Names what the questions below ask for.';
  if (each !== null && t.length < 130 && before) return 'Points for each of the questions below.';
  return null;
}
const nextNumberIsFirst = (o: Outliner, line: Line): boolean => {
  const next = o.next(line.index);
  return next ? told(next, numbered)?.number === 1 : false;
};

export const parts: Construct = {
  name: 'part',
  read(o, line) {
    const t = line.text.trim();
    if (!o.block && !o.inKeys && setLine(o, line)) return true;
    if (o.reading && passageLine(o, line)) return true;
    const w = told(line, headingWords);
    const text = w.passage && (line.heading > 0 || line.bold || o.blankBefore);
    if (text && !(w.part && w.kind)) {
      const part = freshPart(o, line);
      part.title ??= t;
      o.block = null;
      o.inKeys = false;
      o.reading = true;
      return o.say(line, 'part', 'text', 'A heading over a text to read.');
    }
    const reason = whyHeading(o, line);
    if (reason) {
      const part = o.openPart(line, reason);
      describe(part, line);
      o.reading = READ.test(t);
      return true;
    }
    const instruction = w.instruction && (!o.block || (o.blankBefore && o.complete(o.block)));
    if (instruction && !optionsFollow(o, line.index)) {
      const part = freshPart(o, line);
      describe(part, line);
      part.instructions.push(o.piece(line, 0));
      o.block = null;
      o.reading = READ.test(t);
      const range = o.reading ? /\b(\d{1,3})\s*(?:[-–]|to|a|à|bis|t\/m|do|до|through|and|und|y|e|et)\s*(\d{1,3})\b/.exec(t) : null;
      if (range) part.until = Number(range[2]);
      return o.aside(line, 'An instruction for the questions below.');
    }
    return false;
  },
};

/** Lines under a heading that name what they are: instructions, passage; before all questions also the set's own fields. */
const SET_FIELD = /^\s*(instructions|passage|description|language)\s*:\s+(?=\S)/i;
const setField = (t: string): { name: string; at: number } | null => {
  const m = SET_FIELD.exec(t.slice(0, 60));
  return m ? { name: (m[1] ?? '').toLowerCase(), at: m[0].length } : null;
};
function setLine(o: Outliner, line: Line): boolean {
  const f = told(line, setField);
  if (!f) return false;
  const piece = o.piece(line, f.at);
  if (f.name === 'passage') {
    o.part.passage.push(piece);
    return o.say(line, 'passage', 'passage', 'Names itself as the text to read.');
  }
  if (f.name === 'instructions') {
    describe(o.part, line);
    o.part.instructions.push(piece);
    return o.say(line, 'field', 'field', 'The instructions of the part.');
  }
  if (o.blocks.length) return false;
  if (f.name === 'language' && !/^[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*$/.test(line.text.slice(f.at).trim())) return false;
  o.meta.push({ name: f.name === 'language' ? 'language' : 'description', piece });
  return o.say(line, 'field', 'field', `The ${f.name} of the set.`);
}

/** A line of a passage; false where the questions about it begin. */
function passageLine(o: Outliner, line: Line): boolean {
  const n = told(line, numbered);
  if (n && startsQuestion(o, line, n) && (n.number === 1 || o.blankBefore || o.part.passage.length > 0)) {
    o.reading = false;
    return false;
  }
  if (line.heading > 0 || whyHeading(o, line) || (optionsFollow(o, line.index) && /[?:…]\s*$/.test(line.text)) || told(line, keyLine) !== null) {
    o.reading = false;
    return false;
  }
  const t = line.text.trim();
  if (PASSAGE_HEAD.test(t) && t.length < 80) {
    if (o.part.passage.length) return false;
    o.part.title ??= t;
    return o.say(line, 'part', 'text', 'A heading over a text to read.');
  }
  const soft = !o.part.passage.length && t.length < 140 && (kindIn(t) !== undefined || told(line, kindsOfRanges).length > 0);
  if (soft) {
    describe(o.part, line);
    o.part.instructions.push(o.piece(line, 0));
    return o.aside(line, 'An instruction for the questions below.');
  }
  o.part.passage.push(o.piece(line, line.text.length - line.text.trimStart().length, line.text.length, o.blankBefore && o.part.passage.length ? '\n\n' : ' '));
  return o.say(line, 'passage', 'passage', 'Text to read, before the questions about it.');
}
