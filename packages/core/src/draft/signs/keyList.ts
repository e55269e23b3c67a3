/** Lists of keys: their headings, whatever these are called, and their entries. */
import { plainOption } from '../signatures/answers.js';
import { pattern } from '../../language/labels.js';
import { keyTitle, keyTitleRow } from '../signatures/keyWords.js';
import { KEY_HEADING, PART } from '../../language/words.js';
import { W } from '../model/weights.js';
import { entriesIn, keyness, keyValue, letterEntriesIn, lettersIn, groupsIn } from '../signatures/entries.js';
import type { Recogniser, Sign, View } from './sign.js';

const HEADING = pattern(`(?<![\\p{L}])(?:${KEY_HEADING})(?![\\p{L}])`);
const WORDS =
  /(?<!\p{L})(?:risposta|respuesta|réponse|antwort|resposta|odpowied[źz]|ответ|cevap|key|keys|answers?|answer ?key|solutions?|solutionnaire|marking guide|mark(?:ing)? scheme|teacher(?:[’']?s)? (?:copy|key|only|notes|page|sheet)|for the (?:teacher|marker)|lösung\p{L}*|lösungsblatt|antworten|clave|solucion\p{L}*|respuestas|corrig\p{L}*|correction|réponses|gabarito|respostas|chave|soluzioni|risposte|correttore|antwoord\p{L}*|klucz\p{L}*|odpowiedzi|rozwiązania|ключ\p{L}*|ответы|відповід\p{L}*|cevap\p{L}*|yanıt\p{L}*|grading|correct answers|facit|vastaukset|řešení|megoldás\p{L}*|răspunsuri|απαντήσεις|отговори|rješenja|답|答案|解答|मुख्य उत्तर|उत्तर|الإجابات|תשובות)(?!\p{L})/iu;

/** How much a line looks like the heading of a key list, by its words and its looks. */
export function keyHeading(v: View): number {
  const t = v.facts.trimmed;
  if (t.length > 120 || v.facts.asks) return -9;
  if (keyTitle(v.facts.text)) return W.listHeading;
  let w = HEADING.test(t) ? 1.4 : WORDS.test(t) ? 1.2 : -2.5;
  if (w < 0 && !v.line.heading && !v.line.bold && !v.facts.colon && !(t === t.toUpperCase() && t !== t.toLowerCase())) return -9;
  if (v.facts.words > 9) w -= 0.25 * (v.facts.words - 9);
  if (v.line.heading || v.line.bold) w += 0.8;
  if (v.facts.colon) w += 0.5;
  if (t === t.toUpperCase() && t !== t.toLowerCase()) w += 0.6;
  if (v.facts.number) w -= 2;
  if (v.facts.each !== null) w -= 3;
  if (/[.!]\s*$/.test(t) && v.facts.words > 5) w -= 1;
  return w;
}

const LEAD = /^[\s\p{So}✅]{0,40}[^\d:]{2,40}[:.)–-]\s+(?=\S)/u;
/** Whatever words stand in front of entries that resolve. */
const RESOLVED_LEAD = /^\s*\p{L}[^:|]{1,60}?:\s+(?=\(?[A-H]?\d)/u;
const LETTERS_LEAD = /^\s*\p{L}[^:|]{1,40}?:\s*(?=[A-Ha-h])/u;
const WIDE_LEAD = /^\s*\p{L}[^:|]{1,40}?(?:\s{2,}|\t+)(?=\d)/u;
const ANY_LEAD = /^[^\d:|]{2,60}(?:\d{1,2}|[IVX]{1,4})?\s?[:=]\s*(?=\(?\d)/u;
/** "Corrigé du 9 : …", "Risposta n. 11: …" */
const NAMED_LEAD = /^[\s\p{So}*]*\p{L}[^\d:|]{1,30}?\s(?=(?:du\s|n[.°º]?\s?|nr\.?\s?|no\.?\s?|#|zu\s|to\s|for\s)?\d{1,3}\s?[:=–-]\s)/iu;
const GROUP = pattern(
  `^\\s*(?:(?:${PART}|text|scenario|passage|topic|unit|block|set|test|quiz|version|group)(?![\\p{L}])\\s*(?:[A-Z]|\\d{1,2}|[IVX]{1,5}|one|two|three|four|five|six)(?![\\p{L}\\d])|\\p{L}{1,8}\\.\\s*(?:\\d{1,2}|[IVX]{1,4})(?=\\s*:\\s)|[IVX]{1,5}(?=\\s*[:–—-]|\\s*[.)]\\s|\\s{2,})|[一二三四五六七八九十](?=、)|[A-H](?=\\s*[:.)–—-]\\s|\\s{2,}\\d))\\s*[:.)、–—-]*\\s*(?=\\S)`,
);
/** The heading of a list of keys. */
export const listHead: Recogniser = {
  name: 'heading of a list of keys',
  examples: [
    ['> Answer key', 'list-head'],
    ['> Klucz – wersja A', 'list-head'],
    ['> Answers: 1 b 2 c 3 a', 'list-head'],
  ],
  find(v) {
    const { facts } = v;
    const t = facts.text;
    if (facts.furniture) return [];
    const out: Sign[] = [];
    const w = keyHeading(v);
    const rest = facts.keyAt !== null ? t.slice(facts.keyAt) : '';
    if (w > -3 && !(facts.keyAt !== null && rest.trim() && (keyValue(rest) || !keyTitle(t))))
      out.push({ role: 'list-head', weight: w + v.series.headsList(v.place), why: 'Heads a list of keys.', at: facts.start });
    else if (v.series.headsList(v.place) > 1.5 && facts.keyAt === null && !facts.asks && facts.length < 100 && !facts.number)
      out.push({ role: 'list-head', weight: -1 + v.series.headsList(v.place), why: 'Stands over entries that fit the questions.', at: facts.start });
    const row = keyTitleRow(t);
    const lead = row >= 0 ? row : (LEAD.exec(t)?.[0].length ?? NAMED_LEAD.exec(t)?.[0].length ?? WIDE_LEAD.exec(t)?.[0].length ?? -1);
    const worded = lead > 0 && (row >= 0 || WORDS.test(t.slice(0, lead)) || HEADING.test(t.slice(0, lead)));
    const any = worded || GROUP.test(t) ? -1 : (RESOLVED_LEAD.exec(t)?.[0].length ?? -1);
    const found = any > 0 ? entriesIn(t.slice(any)) : [];
    if (found.length >= 3 && v.series.names(found) >= 1 && keyness(found, v.series.texts) >= found.length * 0.6)
      out.push({
        role: 'list-head',
        sort: 'row',
        weight: W.listRow + Math.min(4, keyness(found, v.series.texts)) + v.series.names(found) - 1,
        why: 'Numbers of the questions, each with a key that fits.',
        at: any,
        entries: found.length,
      });
    const groups = worded ? groupsIn(t.slice(lead)) : [];
    if (groups.length)
      out.push({
        role: 'list-head',
        sort: 'row',
        weight: W.listRow + 1 + groups.length,
        why: 'A word for “answers” with the keys of each part.',
        at: lead,
        entries: groups.length,
      });
    const row1 = worded || out.some((s) => s.sort === 'row') ? null : LETTERS_LEAD.exec(t);
    const inRow = row1 ? lettersIn(t.slice(row1[0].length)) : 0;
    if (row1 && inRow >= 3 && v.series.asMany(inRow) > 2)
      out.push({
        role: 'list-head',
        sort: 'row',
        weight: W.listLetters + v.series.asMany(inRow) - 0.5,
        why: 'As many letters as there are questions.',
        at: row1[0].length,
        entries: inRow,
      });
    if (worded) {
      const numbered = entriesIn(t.slice(lead));
      const entries = numbered.length || !v.series.letterQuestions ? numbered : letterEntriesIn(t.slice(lead));
      const one = entries.length === 1 && NAMED_LEAD.test(t) && v.series.hasNumber(entries[0]?.number ?? -1);
      if (entries.length >= 2 || one || entries.some((e) => e.until))
        out.push({
          role: 'list-head',
          sort: 'row',
          weight: W.listRow + Math.min(4, keyness(entries, v.series.texts)) + v.series.names(entries),
          why: 'A word for “answers” with numbers and their keys.',
          at: lead,
          entries: entries.length,
        });
      const each = t.slice(lead).split(/\s*[,;]\s*/);
      if (!entries.length && each.length > 2 && v.series.asMany(each.length) > 2)
        out.push({
          role: 'list-head',
          sort: 'row',
          weight: W.listRow + v.series.asMany(each.length),
          why: 'A word for “answers” with as many of them as there are questions.',
          at: lead,
          entries: each.length,
        });
      const letters = lettersIn(t.slice(lead));
      if (letters >= 3)
        out.push({
          role: 'list-head',
          sort: 'row',
          weight: W.listLetters + v.series.asMany(letters),
          why: 'A word for “answers” with a letter for each question.',
          at: lead,
          entries: letters,
        });
    }
    return out;
  },
};

/** An entry of a list of keys, or a row of several. */
export const listEntry: Recogniser = {
  name: 'entry of a list of keys',
  examples: [
    ['> 1. B', 'list-entry'],
    ['> 1-B 2-C 3-A', 'list-entry'],
    ['> Part A: 1 b, 2 c', 'list-entry'],
  ],
  find(v) {
    const { facts, line } = v;
    if (facts.furniture && facts.furniture !== 'truths') return [];
    const t = facts.text;
    const out: Sign[] = [];
    const inRegion = v.series.inList(v.place);
    const groups = groupsIn(t);
    if (groups.length)
      return [
        {
          role: 'list-entry',
          sort: 'group',
          weight: W.listGroup + groups.length + inRegion,
          why: 'Keys of several parts, in one row.',
          at: facts.start,
          entries: groups.length,
        },
      ];
    const group = GROUP.exec(t);
    const inner = group && group[0].length < t.length ? entriesIn(t.slice(group[0].length)) : [];
    if (group && inner.length >= 1)
      out.push({
        role: 'list-entry',
        sort: 'group',
        weight: Math.min(5, keyness(inner, v.series.texts)) + W.listGroup + inRegion,
        why: 'Keys of a part, in one row.',
        at: group[0].length,
        entries: inner.length,
      });
    else if (group && lettersIn(t.slice(group[0].length)) >= 3)
      out.push({
        role: 'list-entry',
        sort: 'group',
        weight: W.listGroupLetters + inRegion,
        why: 'Keys of a part, in one row.',
        at: group[0].length,
        entries: lettersIn(t.slice(group[0].length)),
      });
    else if (group && facts.part)
      out.push({ role: 'list-entry', sort: 'group', weight: 0.3 + inRegion, why: 'The key of a part.', at: group[0].length, entries: 1 });
    const sentence = /^[^\d:|]{2,60}\.\s+(?=\d)/u.exec(t);
    const told = sentence && !group && !facts.asks ? entriesIn(t.slice(sentence[0].length)) : [];
    if (sentence && told.length >= 4 && v.series.names(told) > 0)
      out.push({
        role: 'list-entry',
        sort: 'group',
        weight: Math.min(5, keyness(told, v.series.texts)) + v.series.names(told),
        why: 'Numbers that go up, with a key each.',
        at: sentence[0].length,
        entries: told.length,
      });
    const any = ANY_LEAD.exec(t);
    if (any && !group && !facts.asks) {
      const behind = entriesIn(t.slice(any[0].length));
      if (behind.length >= 3 || (behind.length >= 1 && behind.every((e) => keyValue(e.value)) && facts.keyAt === null))
        out.push({
          role: 'list-entry',
          sort: 'group',
          weight: Math.min(5, keyness(behind, v.series.texts)) + inRegion - (behind.length < 3 ? 1 : 0),
          why: 'Numbers that go up, with a key each.',
          at: any[0].length,
          entries: behind.length,
        });
    }
    if (facts.entries.length)
      out.push({
        role: 'list-entry',
        weight:
          Math.min(5, keyness(facts.entries, v.series.texts)) +
          inRegion +
          (facts.entries.length >= 3 && facts.entries.every((e) => keyValue(e.value)) && v.series.names(facts.entries) >= 1 ? W.listAllKeys : 0) -
          (line.bold && facts.entries.length === 1 ? 1 : 0) -
          (inner.length > 1 && facts.entries.length === 1 ? W.listGroupInside : 0),
        why: facts.entries.length > 1 ? 'Numbers that go up, with a key each.' : 'A number with its key.',
        at: facts.start,
        entries: facts.entries.length,
      });
    else if (v.series.letterQuestions && letterEntriesIn(t).length >= 1) {
      const found = letterEntriesIn(t);
      out.push({
        role: 'list-entry',
        weight: Math.min(5, keyness(found)) + (found.length > 1 ? 1 : 0),
        why: 'Letters of questions with a key each.',
        at: facts.start,
        entries: found.length,
      });
    } else {
      const letters = lettersIn(t);
      const w =
        (letters >= 3 ? W.listRowLetters : keyValue(t) || (v.series.texts.get(plainOption(t)) ?? 0) > 1 ? 1 : facts.words <= 4 ? 0 : -1.5) -
        (facts.part || line.heading || (line.bold && !keyValue(t)) ? 2.5 : 0);
      out.push({ role: 'list-entry', sort: 'bare', weight: w + inRegion * 0.5, why: 'A key in the order of the questions.', at: facts.front.at, entries: 0 });
    }
    return out;
  },
};

/** A line that goes on from the entry above: reasons, further rows. */
export const listMore: Recogniser = {
  name: 'goes on in a list of keys',
  examples: [['> because it rises', 'list-more']],
  find: (v) =>
    v.facts.furniture
      ? []
      : [
          {
            role: 'list-more',
            weight: W.listMore + (v.facts.part ? -3 : 0) + (v.line.heading || v.line.bold ? -1.5 : 0),
            why: 'Goes on from the entry above.',
            at: v.facts.start,
          },
        ],
};
