/** Lines of words: what goes on from the question above, texts to read, instructions, headings, and talk around the questions. */
import { pattern } from '../../language/labels.js';
import { pointsTotal } from '../../language/points.js';
import { KIND_NAME, PART } from '../../language/words.js';
import { truthLegend } from '../../language/truths.js';
import { W } from '../model/weights.js';
import { keyHeading } from './keyList.js';
import { cardOf } from '../signatures/card.js';
import { behindHead } from '../signatures/questionHead.js';
import type { Recogniser, Sign, View } from './sign.js';

/** A line that goes on from the question above. */
export const stem: Recogniser = {
  name: 'words of the question above',
  examples: [['> that goes on here', 'stem']],
  find(v) {
    const { facts } = v;
    if (facts.furniture === 'write-on' && v.before?.facts.open && !v.gap && /[_…]{3,}\s*[.,;?!]\s*$/.test(v.line.text))
      return [{ role: 'stem', weight: W.writeOn + 1, why: 'A blank at the end of the sentence above.', at: facts.start }];
    if (facts.furniture && facts.furniture !== 'foot') return [];
    let w = (v.lower ? W.lowerGoesOn : 0) + (facts.asks ? W.stemAsks : 0) + (facts.gap ? W.stemGap : 0);
    if (facts.keyAt !== null) w += W.saysKey;
    if (facts.field) w += W.saysField;
    if (facts.part) w += W.saysPart;
    if (v.line.heading) w += W.headingStem;
    // a formula alone is never the start of anything else
    if (/^[\s\uea21-\uea7e]+$/.test(v.line.text)) w += W.stemFormula;
    for (const l of facts.labels) {
      if (l.form === 'loose') continue;
      w +=
        l.cls === 'num' || l.cls === 'word' || l.cls === 'dec'
          ? W.stemDespiteNumber
          : l.cls === 'rom' || l.cls === 'roml'
            ? W.stemDespiteRoman
            : W.stemDespiteLetter;
      break;
    }
    if (facts.front.bullet) w += W.bulletGoesOn;
    if (facts.truthBehind && !v.lower) w -= 1;
    if ((v.series.groups.options[v.place] ?? 0) > 1) w += W.onGroup;
    if (v.line.own.coated || v.series.counters.has(v.place)) w += W.utterance;
    if (v.series.cards > 0.4 && cardOf(v.line.text)) w += W.stemIsCard;
    const head = behindHead(v.line.text);
    if (head) w += W.plainHead;
    return [{ role: 'stem', weight: w, why: 'Goes on from the question above.', at: head || facts.start, ...(head > 0 && { sort: 'head' }) }];
  },
};

const PASSAGE_HEAD =
  /(?:^|[^\p{L}])(?:passage|reading(?: text| passage)?|text(?: [A-E\d])?|extract|scenario|case(?: study)?|source|texto(?: [A-E\d])?|lectura|texte(?: [A-E\d])?|document|lesetext|quelle|testo(?: [A-E\d])?|brano|tekst(?: [A-E\d])?|leestekst|текст(?: \p{Lu})?|metin)(?=\s*\d?\s*(?:[:–—-]|$))/iu;
/** Words that ask to read a text. */
export const READ =
  /(?:questions?|items?)\s+\d+\s*(?:[-–]|to|and|through)\s*\d+\s+(?:refer|are based|relate|are about)|(?:based on|refers? to|relates? to|use) the (?:text|passage|following|extract|scenario|table|diagram|information|case)|the following (?:text|passage|extract|paragraph|dialogue|article|story|scenario|case|information)|folgende[nr]? (?:text|abschnitt)|siguiente (?:texto|fragmento)|texte suivant|seguente (?:testo|brano)|seguinte (?:texto|trecho)|volgende tekst|(?:^|[^\p{L}])(?:read|lies|lest|lee|lea|lean|lisez|leia|leggi|leggete|lees|przeczytaj|прочитайте|прочти|okuyun|oku)(?![\p{L}])[^?]{0,60}(?:text|passage|paragraph|article|story|extract|following|scenario|case|texto|pasaje|fragmento|artículo|texte|passage|abschnitt|brano|testo|trecho|tekst|fragment|текст|отрывок|уривок|metn|parça)/iu;
const ORDER =
  /^(?:instructions?|directions?|label|name the|draw|list|solve|translate|find|correct the|rewrite|rechne\p{L}*|beantworte\p{L}*|ergänze\p{L}*|verbind\p{L}*|setze|entscheide\p{L}*|calcul\p{L}*|responde|contesta|resuelve|réponds|répondez|calculez|choose|circle|tick|select|read|write|answer|fill|match|complete|mark|put|underline|show|decide|look|use|work|indicate|say|kreuz\p{L}*|schreib\p{L}*|lies|ordne\p{L}*|wähl\p{L}*|elige|escoge|escrib[ae]|lee|completa|marca|indica|une|subraya|relaciona|entoure\p{L}*|écri\p{L}*|lis|relie\p{L}*|coche\p{L}*|complète\p{L}*|indique\p{L}*|choisi\p{L}*|assinale|marque|responda|escolha|escreva|complete|relacione|scegli|segna|leggi|scrivi|completa|indica|rispondi|kies|lees|vul|omcirkel|schrijf|zet|beantwoord|wybierz|zaznacz|napisz|odpowiedz|uzupełnij|połącz|выбер\p{L}*|прочит\p{L}*|отмет\p{L}*|напиш\p{L}*|ответ\p{L}*|обер\p{L}*|познач\p{L}*|дай\p{L}*|seç\p{L}*|oku\p{L}*|işaretle\p{L}*|yaz\p{L}*|now |for questions|for each|in this (?:part|section)|each (?:question|item|statement))/iu;
const POLITE = /^(?:please|bitte|por favor|merci de|s'il vous plaît,?|prego|per favore|proszę|пожалуйста|будь ласка|lütfen|alsjeblieft)[,!]?\s+/iu;
const NOTE =
  /^(?:instructions?|directions?|note|nb|n\.b\.|hinweis|tip|attention|wichtig|important|remember|time allowed|you (?:have|may|will|must|should)|answer all|there (?:is|are)|do not|no calculator|duration|total|marks|points)(?![\p{L}])/iu;
/** "Questions 5 to 8", "Items 1-10:" */
export const RANGE_HEAD =
  /(?:questions?|items?|numbers?|nos?\.?|preguntas?|fragen|aufgaben|perguntas|quest[õo]es|domande|vragen|pytania|zadania|вопрос\p{L}*|питання|sorular?)\s*(\d{1,3})\s*(?:[-–—]|to|a|à|bis|t\/m|do|до|through|and|und|y|e|et)\s*(\d{1,3})/iu;

/** What a part asks for throughout: "Circle the right answer." */
export const instruction: Recogniser = {
  name: 'instruction',
  examples: [['> Circle the letter of the best answer.', 'instruction']],
  find(v) {
    const { facts } = v;
    if (facts.furniture) return [];
    let w = W.instruction + (facts.kind ? W.saysKind : 0) + (facts.each !== null ? W.pointsEach : 0);
    if (ORDER.test(facts.trimmed.replace(POLITE, '')) && !facts.asks) w += W.orders;
    if (NOTE.test(facts.trimmed)) w += W.orders;
    if (READ.test(facts.trimmed) || RANGE_HEAD.test(facts.trimmed)) w += W.orders;
    for (const l of facts.labels) if (l.form !== 'loose') w += W.instructionLabel;
    if (facts.asks && !facts.kind) w += W.instructionAsks;
    if (v.lower) w += W.lowerStart;
    if (facts.front.bullet) w += W.bulletGoesOn;
    if (facts.keyAt !== null) w += W.saysKey * 0.7;
    if (facts.gap) w -= 1;
    if (facts.length > 300) w -= 1;
    if (v.line.heading) w += W.headingStem;
    if (v.gap && v.series.numbered && v.after?.facts.number && !facts.labels.some((l) => l.form !== 'loose') && !facts.number) w += W.overNumber;
    return [{ role: 'instruction', weight: w, why: 'An instruction for the questions below.', at: facts.start, ...(facts.kind && { kind: facts.kind }) }];
  },
};

const PART_WORD = pattern(
  `^[\\s\\p{So}*]*(?:${PART}|block|unit|unidad|unité|einheit|set|round|level|category|chapter|topic|week|module|lesson|kapitel|thema|runde|tema|capítulo|module)(?![\\p{L}])`,
);

/** Headings of parts. */
export const part: Recogniser = {
  name: 'heading of a part',
  examples: [
    ['> Part B: True or false (2 points each)', 'part'],
    ['> ## Vocabulary', 'part'],
    ['> II. MATCHING', 'part'],
  ],
  find(v) {
    const { facts, line } = v;
    if (facts.furniture && facts.furniture !== 'again' && !truthsHead(v)) return [];
    const t = facts.trimmed;
    if (facts.length > 200) return [];
    let w = W.part;
    if (facts.part) w += W.partWord;
    else if (PART_WORD.test(t) && facts.words <= 8 && !facts.asks) w += W.partWord * 0.6;
    if (line.heading) w += W.headingPart;
    else if (line.bold && facts.words <= 14) w += W.boldPart;
    const capitals = t.length < 70 && t === t.toUpperCase() && /\p{Lu}{3}/u.test(t) && t !== t.toLowerCase();
    if (capitals) w += W.capitals;
    if (facts.kind) w += W.saysKind;
    if (facts.each !== null || pointsTotal(t) !== null) w += W.pointsEach;
    if (RANGE_HEAD.test(t)) w += W.rangeHead;
    if (KIND_NAME.test(t.replace(/[:.]$/, ''))) w += W.saysKind;
    if (facts.words > 16) w += W.partLong;
    if (facts.colon && facts.words <= 8) w += 0.3;
    if (PASSAGE_HEAD.test(t) && facts.words <= 10 && !facts.asks) w += W.passageHead;
    if (facts.asks && !facts.kind) w += W.partAsks;
    if (facts.gap) w += W.partAsks * 0.7;
    if (facts.keyAt !== null) w += W.saysKey * 0.6;
    if (facts.field && !facts.part) w -= 1.5;
    if (v.lower && !line.heading) w += W.lowerStart;
    if (facts.front.bullet) w += W.bulletGoesOn;
    if (!v.gap && v.before && !line.heading && !facts.part) w += W.partTight;
    const out: Sign[] = [];
    if (v.place === 0 && v.series.numbered && !facts.labels.some((l) => l.form !== 'loose')) w += W.firstHead;
    if (v.series.counters.has(v.place)) w += W.partCounts;
    const inChain = v.series.heads.has(v.place);
    if (inChain) w += W.partChain;
    const label =
      (inChain ? facts.labels.find((l) => l.cls === 'up' || l.cls === 'rom' || l.cls === 'other') : undefined) ??
      facts.labels.find((l) => (l.cls === 'rom' || l.cls === 'up') && l.form !== 'loose') ??
      facts.labels.find((l) => l.cls === 'num' && l.form !== 'loose');
    let lw = w;
    const within = v.after?.facts.labels.find((l) => l.cls === 'dec');
    const over = facts.labels.find((l) => l.cls === 'dec') ?? label;
    if ((over?.cls === 'num' || over?.cls === 'dec') && within && Math.floor(within.ord / 100) === over.ord)
      lw += W.partOverDecimals - (facts.asks ? W.partAsks : 0);
    if (label) lw += label.cls === 'num' ? W.partNumber : label.cls === 'rom' ? W.partRoman : W.partLetter;
    if (label && label.cls === 'num' && !facts.kind && facts.each === null && !line.heading) lw -= 1.5;
    if (facts.labels.some((l) => l.cls === 'low' && l.form !== 'loose')) lw -= 2;
    if (facts.labels.some((l) => l.cls === 'word') && !RANGE_HEAD.test(t) && !facts.part) lw -= 2.5;
    out.push({
      role: 'part',
      weight: lw,
      why: 'Heads what stands below.',
      at: facts.start,
      ...(label && { label }),
      ...(facts.kind && { kind: facts.kind }),
      ...(PASSAGE_HEAD.test(t) && !facts.asks && { sort: 'text' }),
    });
    return out;
  },
};

/** "TRUE/FALSE" between a question that is complete and a numbered one, with room around it: the heading of a part. */
const truthsHead = (v: View): boolean =>
  v.facts.furniture === 'truths' &&
  v.facts.length > 4 &&
  v.gap > 0 &&
  v.after !== undefined &&
  v.after.gap > 0 &&
  v.after.facts.labels.some((l) => (l.cls === 'num' || l.cls === 'word') && l.form !== 'loose') &&
  (v.before === undefined ||
    v.before.facts.keyAt !== null ||
    v.before.facts.field !== null ||
    v.before.facts.labels.some((l) => l.cls === 'low' || l.cls === 'up'));

const PART_HEAD = pattern(`^[\\s\\p{So}*]*(?:${PART})(?![\\p{L}])\\s*(?:[A-Z]|\\d{1,2}|[IVX]{1,5})?\\s*[:.)–—-]+\\s*(?=\\S)`);
/** The column behind "Part III." in front of a task; 0 where there is none. */
const partHead = (v: View): number => (v.facts.part ? (PART_HEAD.exec(v.line.text.slice(0, 60))?.[0].length ?? 0) : 0);

/** A line of instructions that is itself the question of the rows below: matching and ordering. */
export const task: Recogniser = {
  name: 'task that its rows follow',
  examples: [['> Match the words with their meanings.', 'question']],
  find(v) {
    const { facts } = v;
    if (facts.furniture || facts.length > 300) return [];
    const rows =
      !facts.bothSides &&
      v.after?.facts.bothSides &&
      v.series.units[v.place + 2]?.facts.bothSides &&
      !v.after.facts.inline.some(
        (r) => r.segments.length > 1 && (r.segments[0]?.start === v.after?.facts.start || (r.segments[0]?.ord === 1 && r.segments.length > 2)),
      );
    const kind = facts.kind === 'matching' || facts.kind === 'ordering' ? facts.kind : rows ? 'matching' : undefined;
    if (!kind) return [];
    if ((facts.words < 3 && !facts.part && !v.line.heading) || truthLegend(v.line.text)) return [];
    const label = facts.labels.find((l) => l.cls === 'num' || l.cls === 'word' || l.cls === 'rom' || l.cls === 'up');
    const plain: Sign = {
      role: 'question',
      sort: 'task',
      task: kind,
      weight: W.task + (facts.part ? 0.5 : 0) - (facts.asks ? 0.5 : 0) - (facts.keyAt !== null ? 4 : 0) - (v.lower ? 1 : 0),
      why: `Asks to ${kind === 'matching' ? 'match' : 'put in order'} what stands below.`,
      at: partHead(v) || (v.series.heads.has(v.place) && label ? label.at : facts.start),
      ...(v.series.heads.has(v.place) && { sort: 'task' }),
    };
    const numbered = v.after?.facts.labels.some((l) => l.cls === 'num' && l.form !== 'loose');
    if (v.series.heads.has(v.place) && (rows || numbered)) return [{ ...plain, weight: plain.weight + W.partChain + 1 }];
    return [label && label.form !== 'loose' ? { ...plain, label, at: label.at } : plain];
  },
};

/** Texts to read. */
export const passage: Recogniser = {
  name: 'text to read',
  examples: [['> Bread was made in this valley long before there were any mills, and the oldest ovens are older still.', 'passage']],
  find(v) {
    const { facts, line } = v;
    if (facts.furniture && facts.furniture !== 'foot') return [];
    let w = W.passage + (line.own.quoted && !v.series.quotedOptions ? 1 : 0) + (facts.length > 100 ? W.longLine : facts.length > 60 ? W.longLine / 2 : 0);
    for (const l of facts.labels) if (l.form !== 'loose') w += W.passageLabel;
    if (facts.keyAt !== null) w += W.saysKey;
    if (facts.asks) w += W.passageAsks;
    if (facts.front.bullet) w -= 0.5;
    if (facts.choices) w += W.passageChoices;
    if (line.heading) w += W.headingPassage;
    if (facts.chat) w -= 1.5;
    if (v.before && STAMP.test(v.before.facts.trimmed)) w += 4;
    return [{ role: 'passage', weight: w, why: 'Text to read, before the questions about it.', at: facts.start }];
  },
};

const KIND_OF_CHOICE: ReadonlySet<string> = new Set(['multiple-choice', 'multiple-response']);
const FAREWELL =
  /^(?:best|kind|warm|many|yours|with)?\s*(?:wishes|regards|thanks|greetings|sincerely|truly|cheers|sent from|mit freundlichen|viele grüße|liebe grüße|saludos|un saludo|cordialement|bien à vous|abraços?|atenciosamente|cordiali saluti|groet\p{L}*|met vriendelijke|pozdrawiam|с уважением|з повагою|saygılar)/iu;

const TITLE =
  /(?<!\p{L})(?:quiz\p{L}*|test|exam|examen|prueba|kontrolle|klassenarbeit|contrôle|interro\p{L}*|teste|prova|verifica|toets|sprawdzian|kartkówka|тест|контрольна\p{L}*|sınav|worksheet|round|trivia|revision|homework)(?!\p{L})/iu;

/** "00:00:02,100 --> 00:00:06,400" */
const STAMP = /^\d{1,2}:\d{2}(?::\d{2})?[,.]\d{2,3}\s*-+>\s*\d{1,2}:\d{2}/;

const TOTAL = /^\W*(?:total|gesamt|summe|suma|totale|somme|totaal|всего|итого|усього|razem|toplam)(?!\p{L})[^?]{0,24}\d{1,3}\W*(?:\p{L}{1,8}\.?)?\s*$/iu;
/** "11–12 correct: Royal scribe" */
const SCALE =
  /^[^\p{L}\d]*\d{1,3}\s*(?:[-–—]|to|bis|a|à)\s*\d{1,3}\s*(?:correct|right|points?|pts|marks?|richtige?|punkte|aciertos|correctas|puntos|bonnes|points|punti|giuste|certas|pontos|goed|punten|poprawn\p{L}*|punkt\p{L}*|верн\p{L}*|правильн\p{L}*|балл\p{L}*|бал\p{L}*|doğru|puan)/iu;

/** What belongs to no question. */
export const aside: Recogniser = {
  name: 'no part of any item',
  examples: [
    ['> - - - - -', 'aside'],
    ['> Sure! Here are ten questions:', 'aside'],
    ['> page 2', 'aside'],
  ],
  find(v) {
    const { facts } = v;
    const say = (weight: number, why: string, sort: string): Sign[] => [{ role: 'aside', weight, why, sort, at: facts.start }];
    switch (facts.furniture) {
      case 'rule':
        return say(W.rule, 'A rule.', 'rule');
      case 'page':
        return say(W.page, 'A page number.', 'page');
      case 'button':
        return say(W.page, 'The words of a button.', 'page');
      case 'truths':
        if (truthsHead(v)) break;
        return [{ role: 'write-on', weight: W.writeOn, why: 'True or false to choose from.', at: facts.start }];
      case 'write-on':
        return [{ role: 'write-on', weight: W.writeOn, why: 'A line to write on.', at: facts.start }];
      case 'name':
        return say(W.nameLine, 'A line to write a name on.', 'name');
      case 'foot':
        return say(W.foot, 'The head or the foot of a page.', 'page');
      default:
    }
    // "Slide 3" between the options and their key
    if (v.series.counters.has(v.place) && v.after && v.after.facts.keyAt !== null) return say(W.page, 'Counts what stands below.', 'page');
    if (v.series.spoken.has(v.place)) return say(W.chat + 2, 'What was asked of the assistant.', 'chat');
    if (v.series.repeated.has(facts.trimmed)) return say(W.repeated, 'Stands on every page.', 'page');
    if (facts.chat || FAREWELL.test(facts.trimmed))
      return say(
        W.chat - (facts.labels.some((l) => l.cls === 'num' || l.cls === 'word') ? 4 : 0) - (facts.gap ? 1.5 : 0),
        'Talk around the questions.',
        'chat',
      );
    // "Merhaba Elif Hocam," in front of it all
    if (v.place === 0 && facts.words <= 5 && /\p{L},$/u.test(facts.trimmed)) return say(W.chat, 'Talk around the questions.', 'chat');
    if (STAMP.test(facts.trimmed)) return say(W.page, 'A time of a transcript.', 'page');
    if (/^\d{1,4}$/.test(facts.trimmed) && v.after && STAMP.test(v.after.facts.trimmed)) return say(W.page, 'A number of a transcript.', 'page');
    if (
      /^[-–—]?\s*\d{1,3}\s*[-–—]?$/.test(facts.trimmed) &&
      v.after &&
      (v.series.repeated.has(v.after.facts.trimmed) || v.after.facts.furniture === 'foot' || v.after.facts.furniture === 'page')
    )
      return say(W.page - 1, 'A page number.', 'page');
    if (/^\d{1,3}$/.test(facts.trimmed) && !v.series.apart.has(v.place) && v.before && v.after) {
      if (v.series.repeated.has(v.before.facts.trimmed)) return say(W.page - 1, 'A page number.', 'page');
      const options = v.before.facts.inline.length > 0 || v.before.facts.labels.some((l) => l.cls === 'low' || l.cls === 'up');
      const statement = !v.before.facts.asks && !v.before.facts.open && !v.before.facts.gap && v.after.facts.number;
      if ((options || statement) && ((v.after.facts.number ?? v.after.facts.part) || keyHeading(v.after) > 0)) return say(W.page - 2, 'A page number.', 'page');
    }
    // "Mark only one oval." between a question and its options
    if (
      KIND_OF_CHOICE.has(facts.kind ?? '') &&
      v.before?.facts.asks &&
      !v.gap &&
      !facts.asks &&
      facts.words <= 8 &&
      /[.:)]$/.test(facts.trimmed) &&
      !facts.labels.some((l) => l.form !== 'loose')
    )
      return [{ role: 'write-on', weight: W.choiceNote, why: 'Says how many to choose.', at: facts.start }];
    if (truthLegend(v.line.text)) return say(W.chat + 2, 'What the signs of the draft mean.', '');
    if (TOTAL.test(facts.trimmed)) return say(W.chat + 0.5, 'A total.', 'scale');
    if (SCALE.test(facts.trimmed)) return say(W.chat + 0.5, 'What a score is worth.', 'scale');
    if (v.place === 0 && TITLE.test(facts.trimmed) && !facts.asks) return say(W.titleWord, 'The title of the whole.', 'title');
    return say(W.aside - Math.min(2, facts.length * W.asidePerLetter), 'Nothing that belongs to a question.', '');
  },
};
