/** Behind a question: its key, its fields, notes under options, and what goes on from them. */
import { W } from '../model/weights.js';
import { LETTERS_BEYOND_LATIN, pattern } from '../../language/labels.js';
import { kindNamed } from '../signatures/headings.js';
import { ANSWER, FEEDBACK, HINT, MODEL_ANSWER, RUBRIC } from '../../language/words.js';
import { announcedAlone } from '../signatures/announce.js';
import { letterAndNumber } from '../signatures/label.js';
import { memoised } from '../surface/lines.js';
import { shows } from '../signatures/shows.js';
import { answersAlone, answersInPair, quotedAnswer } from '../signatures/unit.js';
import type { Recogniser, Sign } from './sign.js';

const LABEL = `[([]?(?:[A-Ha-h${LETTERS_BEYOND_LATIN}]|[1-9①-⑨])[)\\].]?`;
const ALONE = new RegExp(`^\\s*${LABEL}(?:\\s*(?:[,;&+/]|and|und|y|et|e|i|и)\\s*${LABEL})*\\s*$`, 'u');
const TICK = /^\s*[✅✔☑👉➡✓]\ufe0f?\s*/u;
const EQUALS = /^\s*=\s*(?=[\d.,(−-])/u;
const BRACKETED = /^\s*[([]\s*(?=\S)/;
const TALK_A = /^\s*(?:A|R|Back|Ответ|Antwort)(?:\s*[:.)]\s+|\s+)(?=\S)/;

const NAMED_ANSWER = pattern(`^[\\s\\p{So}*]*(?:${ANSWER})\\s*(?:no\\.?|nr\\.?|#|to question|to)?\\s*(\\d{1,3})\\s*(?:[:.)–-]+\\s*|\\s*$)`);
const NUMBERED = /^\s*(?:#|no\.?\s*|q)?(\d{1,3})\s*(?:is|=|:|→|[-–—])\s+(?=\S)/iu;
const ARROW = /^\s*(?:→|->|=>|➜|➡|↳|»|⇒|>>|↪|[–—-]{1,2}(?=\s))\ufe0f?\s*(?=\S)/u;

/** "A – 2   B – 1   C – 3": what goes with what. */
const PAIRED =
  /^\s*[([]?(?:[A-Ha-h]\s?[–—=:.)→>-]+\s?\d{1,2}(?:[\s,;|]+|$)){2,}[)\]]?\s*$|^\s*[([]?(?:\d{1,2}\s?[–—=:→>-]+\s?[A-Ha-h](?:[\s,;|]+|$)){2,}[)\]]?\s*$/u;
/** Lines that say the key. */
export const key: Recogniser = {
  name: 'key of the question above',
  examples: [
    ['> Answer: B', 'key'],
    ['> ✅ Correct option – C', 'key'],
    ['> Svar: B', 'key'],
    ['> The correct answer is b)', 'key'],
    ['> B', 'key'],
  ],
  find(v) {
    const { facts, line } = v;
    const out: Sign[] = [];
    if (facts.furniture) return out;
    const t = line.text;
    const named = NAMED_ANSWER.exec(t);
    if (named && (named[0].length < t.length || v.after?.gap === 0))
      out.push({
        role: 'key',
        sort: 'numbered',
        weight: W.key + 0.5,
        why: 'A word for “answer” and the number of the question above.',
        at: named[0].length,
        entries: Number(named[1]),
        announced: true,
      });
    if (facts.keyAt !== null)
      out.push({ role: 'key', weight: W.key - (facts.front.bullet ? 0.3 : 0), why: 'Starts with a word for “answer”.', at: facts.keyAt, announced: true });
    else {
      const learnt = v.series.keyWordAt(line);
      if (learnt !== null)
        out.push({ role: 'key', weight: W.keyLearnt, why: 'Starts with the word that announces the keys of this draft.', at: learnt, announced: true });
      if (v.after?.gap === 0 && facts.length < 40 && v.series.texts.get(v.after.facts.plain) > 1 && announcedAlone(t))
        out.push({ role: 'key', weight: W.key, why: 'A word for “answer”, and the words of an option below.', at: t.length, announced: true });
      const own = v.series.answerLetter ? memoised(line, letterAndNumber) : null;
      if (own && own.letter === v.series.answerLetter)
        out.push({ role: 'key', weight: W.key + 1, why: 'The letter of answers, and the number of the question above.', at: own.at, announced: true });
      const talk = v.series.talk ? TALK_A.exec(t) : null;
      if (talk) out.push({ role: 'key', weight: W.key, why: '“A:” behind “Q:”.', at: talk[0].length, announced: true });
      const equals = EQUALS.exec(t);
      if (equals) out.push({ role: 'key', weight: W.key - 1, why: 'An equals sign and a number.', at: equals[0].length, announced: true });
      const bracket = BRACKETED.exec(t);
      const inner = bracket && /[)\]]\s*\.?\s*$/.test(t) ? v.series.announcedIn(t.slice(bracket[0].length)) : null;
      if (bracket && inner !== null)
        out.push({
          role: 'key',
          weight: W.key,
          why: 'A key in brackets.',
          at: bracket[0].length + inner,
          to: t.replace(/\s*[)\]]\s*\.?\s*$/, '').length,
          announced: true,
        });
      if (v.series.replies && !line.own.quoted && v.gap === 0 && v.before?.line.own.quoted && v.before.facts.asks)
        out.push({ role: 'key', weight: W.keyReply, why: 'A reply below a quoted question.', at: facts.start, announced: true });
      if (v.series.quotedAnswers && quotedAnswer(v.series.units, v.place))
        out.push({ role: 'key', weight: W.keyReply + 1, why: 'Quoted below the question, as below the others.', at: facts.start, announced: true });
      if (v.series.answersBelow && answersAlone(v.series.units, v.place))
        out.push({ role: 'key', weight: W.keyBelow, why: 'Stands alone below the question, as below the others.', at: facts.start, announced: true });
      if (!out.length && v.series.answersInPairs && answersInPair(v.series.units, v.place))
        out.push({
          role: 'key',
          weight: W.keyReply + 1,
          why: 'Stands below a question and apart from all else, as below the others.',
          at: facts.start,
          announced: true,
        });
      if (PAIRED.test(t)) out.push({ role: 'key', sort: 'paired', weight: W.key, why: 'Letters and numbers in pairs.', at: facts.start, announced: true });
      const tick = TICK.exec(t);
      if (tick && !out.length && facts.words < 25) out.push({ role: 'key', weight: W.keyTick, why: 'A tick in front.', at: tick[0].length });
      const numbered = NUMBERED.exec(t);
      if (numbered && !out.length && facts.words < 14)
        out.push({
          role: 'key',
          sort: 'numbered',
          weight: W.keyNumbered,
          why: 'The number of the question above, and its key.',
          at: numbered[0].length,
          entries: Number(numbered[1]),
        });
      const loose = numbered ? null : /^\s*(\d{1,3})\s+(?=\S)/.exec(t);
      // "3 minutes" among "1 minute" and "10 minutes" is an option
      const amongNumbers = [v.before, v.after].some((n, i) => n && (i ? n.gap : v.gap) === 0 && n.facts.number?.form === 'loose');
      if (loose && !amongNumbers && !out.length && facts.words < 8 && !facts.asks)
        out.push({
          role: 'key',
          sort: 'numbered',
          weight: W.keyLooseNumber + (line.own.coated ? 1.5 : 0),
          why: 'The number of the question above, and its key.',
          at: loose[0].length,
          entries: Number(loose[1]),
        });
      const arrow = ARROW.exec(t);
      if (arrow && !out.length && facts.words < 30 && !/^\s*[–—-]{1,2}\s*$/.test(arrow[0]))
        out.push({
          role: 'key',
          sort: 'arrow',
          weight: W.keyArrow + (v.series.arrows >= 3 ? W.keyArrows : 0),
          why: 'An arrow in front of the answer.',
          at: arrow[0].length,
        });
      if (ALONE.test(t) && !facts.front.bullet)
        out.push({ role: 'key', sort: 'alone', weight: W.keyAlone, why: 'A label alone on its line.', at: facts.start });
    }
    return out;
  },
};

const FIELD_MORE = pattern(
  `^[\\s\\p{So}*•➡→>-]*[【\\[]?(?:(?:short |brief |detailed )?(?:${FEEDBACK}|${HINT}|${MODEL_ANSWER}|${RUBRIC})(?:\\s*\\d)?|why (?:it'?s|this is) (?:correct|right)|why\\s*\\?|learn more|reference|förklaring|forklaring|selitys|vysvětlení|magyarázat|explicație|εξήγηση|обяснение|objašnjenje|penjelasan|giải thích|해설|解説|解析|व्याख्या|شرح|הסבר)\\s*(?:[】\\]:：–—?!=-]+\\s*|(?<=\\?)\\s+)`,
);
const BARE_REASON = pattern(`^[\\s\\p{So}*]*(?:${FEEDBACK})\\s*[:.]?\\s*$`);
const META =
  /^\s*(?:page(?: ref)?|pg|skill|pts|dif|obj|ref|top|nat|sta|not|msc|topic|los?|objective|outcome|standard|difficulty|tags?|bloom(?:'s)?|level|time|source|points?|marks?|type|typ|tipo|category|chapter|section|keywords?|aacsb|learning outcome|competenc[ey]|quelle|fuente|weight|score|difficulté|niveau|schwierigkeit|dificultad)\s*[:=]\s*/i;
const PICTURED = /^\s*(?:[💡📝ℹ💬🔎📌🧠📖📚🗒]\ufe0f?)+\s*/u;

/** Lines that name a field: points, feedback, hints, tags … */
export const fields: Recogniser = {
  name: 'field',
  examples: [
    ['> Explanation: because.', 'field'],
    ['> Points: 2', 'field'],
    ['> 💡 Because it is so.', 'field'],
  ],
  find(v) {
    const { facts, line } = v;
    if (facts.furniture) return [];
    const t = line.text;
    const f = facts.keyAt !== null && (facts.field?.name === 'correct' || facts.field?.name === 'incorrect') ? null : facts.field;
    const kind = f?.name === 'kind' ? kindNamed(t.slice(f.at)) : undefined;
    if (f) return [{ role: 'field', weight: W.field, why: `Starts with a word for “${f.name}”.`, at: f.at, name: f.name, ...(kind && { kind }) }];
    if (v.after?.gap === 0 && t.length < 40 && BARE_REASON.test(t))
      return [{ role: 'field', weight: W.fieldBare, why: 'A word for a reason, alone over it.', at: t.length, name: 'feedback' }];
    const more = FIELD_MORE.exec(t.slice(0, 120));
    if (more && more[0].length < t.length + 1)
      return [
        {
          role: 'field',
          weight: W.field - 0.3,
          why: 'Starts with a word for a reason.',
          at: more[0].length,
          name: /hint|tip|pista|hinweis|indice|dica|podpow|подсказ|підказ|ipucu|aanwij|sugg/iu.test(more[0]) ? 'hint' : 'feedback',
        },
      ];
    if (v.series.pointLines && shows(v.line, 'pointsAlone'))
      return [{ role: 'field', weight: W.field, why: 'Points, below each question.', at: facts.start + (/^[[(]/.test(facts.trimmed) ? 1 : 0), name: 'points' }];
    const meta = META.exec(t.slice(0, 80));
    if (meta) return [{ role: 'field', sort: 'meta', weight: W.field - 0.5, why: 'A note for the files of the school.', at: meta[0].length }];
    const picture = PICTURED.exec(t);
    if (picture && picture[0].length < t.length)
      return [{ role: 'field', weight: W.fieldPicture, why: 'A note with a picture in front.', at: picture[0].length, name: 'feedback' }];
    // what a person quotes below the options explains them
    const below =
      v.before !== undefined &&
      v.gap === 0 &&
      (v.before.facts.front.box || v.before.facts.front.bullet || v.before.facts.labels.some((l) => l.form !== 'loose')) &&
      !facts.front.box &&
      !facts.front.bullet;
    if (line.own.quoted && !v.series.quoteMarks && (v.gap || below) && v.before && !v.before.line.own.quoted && !facts.asks && !facts.labels.length)
      return [{ role: 'field', weight: W.fieldQuoted, why: 'Set apart behind the options.', at: facts.start, name: 'feedback' }];
    const learnt = v.series.fieldWordAt(line);
    if (learnt?.reason)
      return [
        { role: 'field', weight: W.reasonLearnt, why: 'Starts with the word that comes behind the keys of this draft.', at: learnt.at, name: 'feedback' },
      ];
    if (learnt) return [{ role: 'field', sort: 'meta', weight: W.fieldLearnt, why: 'Starts with words that come behind every question.', at: learnt.at }];
    return [];
  },
};

/** A remark on the option above, behind an arrow or dash. */
export const note: Recogniser = {
  name: 'note under an option',
  examples: [['> -> not quite', 'note']],
  find(v) {
    const arrow = ARROW.exec(v.line.text);
    if (!arrow || v.facts.furniture || v.facts.keyAt !== null) return [];
    const dash = /^\s*[–—-]{1,2}\s*$/.test(arrow[0]);
    // hyphens one below the other are a list
    const listed = dash && ((v.before?.facts.front.bullet ?? '') !== '' || (v.after?.facts.front.bullet ?? '') !== '');
    return [{ role: 'note', weight: dash ? W.noteDash - (listed ? W.noteListed : 0) : W.noteArrow, why: 'An arrow under an option.', at: arrow[0].length }];
  },
};

/** A line that goes on from the note or field above. */
export const more: Recogniser = {
  name: 'goes on from a key or field',
  examples: [['> and so on.', 'more']],
  find(v) {
    const { facts, line } = v;
    if (facts.furniture && facts.furniture !== 'foot') return [];
    let w = v.lower ? W.lowerGoesOn : 0;
    for (const l of facts.labels) if (l.form !== 'loose') w += W.moreDespiteLetter;
    if (facts.keyAt !== null) w += W.saysKey;
    if (line.heading || facts.part) w += W.oHeading;
    if (facts.field) w += W.saysField;
    if (facts.asks) w += W.moreAsks;
    if (facts.front.bullet) w -= 0.5;
    if (line.own.coated || v.series.counters.has(v.place)) w += W.utterance;
    return [{ role: 'more', weight: w, why: 'Goes on from the line above.', at: facts.start }];
  },
};

const SET_FIELD = /^\s*(instructions|passage|description|language)\s*:\s+(?=\S)/i;
/** Lines that say something of the whole set: its title, author, language. */
export const setField: Recogniser = {
  name: 'field of the set or of a part',
  examples: [['> Passage: Once upon a time', 'set-field']],
  find(v) {
    const m = SET_FIELD.exec(v.line.text.slice(0, 60));
    if (!m) return [];
    const name = (m[1] ?? '').toLowerCase();
    const language = name !== 'language' || /^[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*$/.test(v.line.text.slice(m[0].length).trim());
    if (!language) return [];
    // two such fields in a row are the head of a part, whatever their words ask for
    const beside = v.after && SET_FIELD.test(v.after.line.text.slice(0, 60));
    return [
      { role: 'set-field', sort: name, weight: W.setField + (beside ? W.setFieldBeside : 0), why: `The ${name} of the part or the set.`, at: m[0].length },
    ];
  },
};
