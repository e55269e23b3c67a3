/** Furniture of a page: rules, page numbers, lines to write on, lines for a name. */
import { CONTINUED, PAGE, PAGE_TAIL } from '../../language/words.js';

/** What a line is that belongs to no question: a rule, a page number, a line to write on … '' for none. */
export type Furniture = '' | 'rule' | 'page' | 'write-on' | 'foot' | 'name' | 'again' | 'truths' | 'button';

const RULE = /^\s*(?:[-–—_=*~•·─━═＿#.]\s*){3,}$/u;
const FAR_NUMBER = /^\s{12,}[-–—([]*\s*\d{1,3}\s*[-–—)\]]*\s*$/;
const NAME =
  'candidate(?: (?:name|number|no\\.?))?|signed|signature|sign|unterschrift|firma|handtekening|podpis|подпись|підпис|assinatura|name|class|date|score|marks?|group|period|student(?: (?:name|no\\.?|id))?|teacher|partners?|grade|total|set|time|nombre(?: y apellidos)?|apellidos|curso|grupo|fecha|nota|nom|prénom|classe|klasse|datum|punkte|note|nome|turma|cognome|data|naam|klas|imię|nazwisko|klasa|имя|фамилия|класс|дата|прізвище|ім.я|клас|ad[ıi]|soyad[ıi]|s[ıi]n[ıi]f|tarih|vorname|namn|navn|nimi|jméno|név';
const NAME_LINE = new RegExp(
  `^\\s*(?!mark(?:ing)? (?:scheme|guide))(?:your |full |first |last )?(?:${NAME})(?![\\p{L}])(?:\\s*\\([^)]{2,20}\\))?[^?]{0,60}(?:_{3,}|\\.{5,}|…{2,}|:\\s*$|:\\s{3,})`,
  'iu',
);
const NAME_TAIL = new RegExp(`\\S(?:\\s{3,}|\\t|\\s[–—|·]\\s)\\s*(?:${NAME})\\s*:?\\s*(?:_{3,}|\\.{5,}|…{2,}|[_\\s]*$)`, 'iu');
const BUTTON =
  /^\s*(?:copy(?: code)?|code kopieren|copiar(?: código)?|copier(?: le code)?|copia(?: codice)?|копировать(?: код)?|retry|try again|restart|finish|start quiz|start|show answer|reveal answer|hide answer|submit|check answer|next question|previous question|next|previous|back|skip|flag question|report|save|(?:select|choose|pick) (?:one|an? (?:answer|option)|one (?:answer|option)|one or more(?: options| answers)?)\s*:|w[äa]hlen sie (?:eine|mindestens eine)[^:]{0,30}:|seleccione? una[^:]{0,30}:|(?:veuillez )?choisi(?:r|ssez)[^:]{0,30}:|scegli(?:ere)? un[^:]{0,30}:|escolha uma[^:]{0,30}:|(?:kies|selecteer) één[^:]{0,30}:|wybierz (?:jedną|co najmniej)[^:]{0,30}:|выберите один[^:]{0,30}:|виберіть одну[^:]{0,30}:|(?:birini|bir cevap) seçin\s*:|not yet answered|marked out of [\d.,]+|clear(?: my choice| selection)?|print|share|edit|regenerate|like|dislike|good response|bad response|read aloud)\s*$/i;
/** "True / False" to circle, with nothing else on the line. */
const TRUTHS =
  /^\s*[([☐□○]?\s*(?:true|T|V|verdadero|richtig|R|vrai|wahr|W|vero|waar|juist|prawda|P|верно|правда|doğru|D|verdadeiro|sant|rätt)\s*[)\]]?\s*(?:[/|]|\s{2,}|\s*[-–]\s*|\s+(?:or|o|oder|ou|of|lub)\s+|\s*[([☐□○])\s*(?:[([☐□○]\s*)?(?:false|F|falso|falsch|faux|onwaar|onjuist|fałsz|неверно|неправда|yanlış|Y|falskt|fel)\s*[)\]]?\s*$/iu;

/** What a form shows where an answer is to be typed. From memory. */
const ANSWER_FIELD =
  /^\s*(?:(?:enter|type|write) )?(?:your (?:answer|response)|(?:short|long)[- ]answer text|(?:deine|ihre|meine) antwort|(?:tu|su) respuesta|texto de respuesta (?:corta|larga)|(?:votre|ta) réponse|(?:réponse|texte) (?:courte?|longue?)|la tua risposta|(?:sua|a tua) resposta|texto de resposta (?:curta|longa)|(?:jouw|uw|je) antwoord|twoja odpowiedź|(?:мой|ваш|твой) ответ|ваша відповідь|yanıtınız|ditt svar)(?: here)?\s*:?\s*$/iu;
/** Whether a form says that a long answer is to be typed. */
export const longAnswer = (t: string): boolean => t.length < 40 && ANSWER_FIELD.test(t) && /long|larga/iu.test(t);
/** A line to write a number on, with its unit and points behind. */
const UNIT_LINE = /^\s*(?:_{6,}|\.{10,}|…{4,})\s*(?:[\p{L}°%µ/·]{1,6}[²³\d]?(?:\/\p{L}{1,3}[²³]?)?)?\s*(?:[([]\s*\d{1,2}(?:\s*\p{L}{1,6}\.?)?\s*[)\]])?\s*$/u;
/** What stands at the foot: a few words and the page. */
const FOOT =
  /^\s*(?:[^?]*[\s–—|·-])?(?:page|seite|página|pagina|strona|str\.|blz\.|pág\.|pag\.)\s*[\dlI]{1,3}(?:\s*(?:of|\/|sur|von|de|di|z|van)\s*[\dlI]{1,3})?[\s·.–—-]*$/iu;
/** "1. ________   2. ________": places to sign. */
const SIGNATURES = /^\s*(?:\d{1,2}\s?[.)]\s*[_.…]{4,}\s*){2,}$/;
/** A few words between rows of signs: "· · · · Worksheet 5 page 1 · · · ·". */
const FRAMED = /^\s*(?:[·•*~=–—-]\s?){5,}\s*[^·•*~=?]{1,50}?\s*(?:\s?[·•*~=–—-]){5,}\s*$/;
/** What the stars of a form mean. From memory. */
const STARRED =
  /^\s*\*\s*(?:(?:indicates |=\s*)?(?:a )?required(?: (?:question|field)s?)?|(?:campo |pregunta )?obligatori[oa]s?|(?:question |champ )?obligatoire|(?:campo )?obbligatori[oa]|pflichtfeld(?:er)?|erforderlich|(?:campo )?obrigat[óo]ri[oa]|verplicht(?:e vraag)?|(?:pole )?wymagane|обязательн\p{L}+(?: вопрос)?)\.?\s*$/iu;
const FRACTION = /^\d+\s*\/\s*\d+$/;
/** What a line is where it only furnishes the page; '' where it may hold words of a question. */
export function furnitureOf(t: string): Furniture {
  if (t.length > 200) return '';
  if (/^\s*[_.…]{4}/.test(t) && UNIT_LINE.test(t)) return 'write-on';
  if (RULE.test(t)) return /^\s*[_.…\s]{4,}$/.test(t) ? 'write-on' : 'rule';
  if (/^\s*(?:[_.…\s]{6,}|[.…\s]*_{4,}[\s_]*)$/.test(t)) return 'write-on';
  if (FRAMED.test(t)) return 'foot';
  // a remark in an export
  if (/^\s*(?:;;|%%)\s/.test(t)) return 'foot';
  if (SIGNATURES.test(t)) return 'write-on';
  if (/\d/.test(t) || t.trim().length < 40) if (PAGE.test(t.trim()) || FAR_NUMBER.test(t)) return 'page';
  const labelled = /^\s*[([]?\w{1,3}[)\].:]\s/.test(t);
  // "1/3   2/3   3/4" are fractions to choose from, "5) 0.75 as a fraction   3/4" has one as its answer
  if (
    /\S\s{3,}\S/.test(t) &&
    t
      .trim()
      .split(/\s{3,}|\t/)
      .filter((cell) => PAGE.test(cell) && !(labelled && FRACTION.test(cell))).length === 1
  )
    return 'page';
  if (t.length < 40 && ANSWER_FIELD.test(t)) return 'write-on';
  if (t.length < 30 && BUTTON.test(t)) return 'button';
  if (t.length < 40 && STARRED.test(t)) return 'foot';
  if (t.length < 60 && TRUTHS.test(t)) return 'truths';
  if (labelled) return '';
  if (PAGE_TAIL.test(t) || (t.length < 110 && FOOT.test(t) && t.trim().split(/\s+/).length < 16)) return 'foot';
  if (/[_.…:]/.test(t) || /\s{3}|\t/.test(t)) if (NAME_TAIL.test(t) || NAME_LINE.test(t)) return 'name';
  return CONTINUED.test(t) ? 'again' : '';
}
