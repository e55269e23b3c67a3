import { stripEnd } from '../item/strip.js';

/** What the columns of a table of responses hold, by their headings and by their cells. Words from memory; common practice, no source. */

/** Uses of the columns of a response table. What is none of them is a question. */
export const responseUses = ['question', 'answer', 'name', 'first name', 'last name', 'mail', 'id', 'class', 'time', 'score', 'other'] as const;
/** What a column of a response table is used for. */
export type ResponseUse = (typeof responseUses)[number];

const any = (words: string): RegExp => new RegExp(`^(?:${words})$`, 'iu');
const YOUR =
  "(?:(?:your|the|student(?:'?s)?|learner(?:'?s)?|participant(?:'?s)?|pupil(?:'?s)?|user(?:'?s)?|what is your|enter your|please enter your|type your|ihr|dein|tu|su|votre|seu|il tuo|je|jouw|uw|twoje) )?";
/** Whole headings; the first row that fits counts. */
const HEADINGS: readonly [ResponseUse, RegExp][] = [
  [
    'time',
    any(
      'time ?stamp|(?:start|end|completion|submission|submit(?:ted)?|finish(?:ed)?|begin) ?(?:time|date|at|on)?|started(?: on| at)?|completed(?: on| at)?|submitted(?: on| at)?|date(?: submitted)?|date ?/ ?time|time(?: taken| spent| used)?|duration|last modified(?: time)?|marca temporal|fecha(?: y hora)?|hora(?: de (?:inicio|finalizaci[oó]n))?|horodateur|date et heure|heure(?: de (?:début|fin))?|zeitstempel|datum|uhrzeit|startzeit|endzeit|abgabe(?:zeit)?|carimbo de data/hora|data(?: e hora)?|informazioni cronologiche|ora|tijdstempel|tijd|sygnatura czasowa|znacznik czasu|отметка времени|дата|позначка часу|zaman damgası|tarih',
    ),
  ],
  [
    'mail',
    any(
      `${YOUR}(?:e-?mail|mail|correo(?: electr[oó]nico)?|courriel|adresse (?:e-?mail|électronique)|direcci[oó]n de correo(?: electr[oó]nico)?|indirizzo e-?mail|e-?mail-?adres(?:se)?|adres e-?mail|endereço de e-?mail|эл\\. ?почта|пошта|e-?posta)(?: ?(?:address|id|adresse))?`,
    ),
  ],
  ['first name', any(`${YOUR}(?:first|given|fore) ?name|nombre de pila|prénom|vorname|primeiro nome|nome proprio|voornaam|imię|имя|ім'я|ad`)],
  [
    'last name',
    any(
      `${YOUR}(?:last|family|sur) ?name|apellidos?|nom(?: de famille)?|nachname|familienname|sobrenome|apelido|cognome|achternaam|nazwisko|фамилия|прізвище|soyad(?:ı)?`,
    ),
  ],
  [
    'name',
    any(
      `${YOUR}(?:full |display )?(?:name|names|nombre(?: completo| y apellidos?)?|nom (?:et prénom|complet)|name und vorname|vor- und nachname|nome(?: completo| e cognome| e sobrenome)?|naam|imię i nazwisko|фио|имя и фамилия|ім'я та прізвище|ad(?:ı)? soyad(?:ı)?)(?: \\([^)]*\\))?|student|learner|participant|pupil|respondent|trainee|candidate|employee|who are you\\??|alumn[oa]|estudiante|élève|participante|schüler(?:in)?|teilnehmer(?:in)?|aluno|studente|alunn[oa]|leerling|uczeń|ученик|учень|öğrenci|first and last name|name of (?:the )?(?:student|learner|participant)|nickname|player`,
    ),
  ],
  [
    'id',
    any(
      '(?:student|learner|user|response|candidate|employee|participant|personal|staff|attempt|submission|matric(?:ulation)?|respondent) ?(?:id|no|nr|number|#)|id(?: ?number)?|#|no|nr|n[º°]|row|username|user ?name|login|matrikel(?:nummer)?|matr[ií]cula|matricola|numéro(?: d’étudiant)?|leerlingnummer|indeks|номер|sıra|ip(?: ?address)?',
    ),
  ],
  [
    'class',
    any(
      `${YOUR}(?:class(?: ?(?:group|name|room))?|groups?|form|section|period|course|cohort|team|school|year(?: group)?|grade(?: level)?|department|shift|tutor(?: group)?|set|grupo|curso|clase|classe|groupe|klasse|gruppe|turma|sezione|gruppo|klas|groep|klasa|grupa|oddział|класс|группа|клас|група|sınıf|şube|teacher|instructor|site|location|table)`,
    ),
  ],
  [
    'score',
    any(
      '(?:total |final |overall |quiz )?(?:scores?|grades?|points?|results?|marks?|percent(?:age)?|%)(?: ?(?:total|earned|awarded|\\(%\\)|%|/ ?[\\d.,]+))*|total(?: (?:points|score|marks))?|grade ?/ ?[\\d.,]+|(?:(?:num(?:ber)?|no|#) ?(?:of )?)?(?:in)?(?:correct|right|wrong)(?: (?:answers?|responses?|count|questions?))?|(?:un)?attempted|(?:un)?answered(?: questions?)?|accuracy|streak|puntuaci[oó]n|puntos|nota|note|score total|punkte(?:zahl)?|gesamtpunkte|bewertung|pontuação|punteggio|cijfer|punten|wynik|punkty|балл[ыи]?|бали|оценка|puan|pass(?:ed)?|status|state|rank|place|attempts?(?: ?(?:no|number|#))?|versuch|intento|tentative',
    ),
  ],
  [
    'other',
    any(
      '(?:any |other |further |additional |general )*(?:comments?|remarks?|notes?|feedback|questions? or comments|suggestions?)(?: .{0,40})?|comentarios?|observaciones|commentaires?|remarques?|kommentar(?:e)?|bemerkung(?:en)?|anmerkungen|comentários?|commenti|opmerkingen|uwagi|комментари[ий]|коментар\\p{L}*|yorum(?:lar)?|language|locale|quiz feedback|consent|signature|seat|device|browser|points ?-.*|feedback ?-.*',
    ),
  ],
  ['question', any('questions?(?: text| title| name)?|items?|task|prompt|pregunta|question posée|frage|pergunta|domanda|vraag|pytanie|вопрос|питання|soru')],
  [
    'answer',
    any(
      `${YOUR}(?:answers?|responses?|choice|given answer|reply|respuesta|réponse|antwort|resposta|risposta|antwoord|odpowied[źz]|ответ|відповідь|cevap|yanıt)(?: given| text)?`,
    ),
  ],
];

/** A column beside a question that says what it earned or what was remarked: "Question 2 [Score]", "Points - Which flour?". */
const BESIDE =
  /[[(](?:score|points?|feedback|marks?|puntuaci[oó]n|punkte?|comments?|correct\??|result)[\])]\s*$|^(?:points|feedback|score) ?[-–:]\s*\S|[-–:]\s*(?:score|points|feedback|marks|correct\?)\s*$|^(?:q(?:uestion)?|item|frage|pregunta)? ?\d{1,3}[a-z]?[).:]? (?:points?|pts|scores?|marks?|feedback|result|correct\??|time|punkte|puntos)$/iu;

/** Longer headings are questions. */
const LONGEST = 200;
/** What a heading says that its column holds; null for what is most likely a question. */
export function saidBy(heading: string): ResponseUse | null {
  const h = stripEnd(heading.trim().replace(/\s+/g, ' '), /[*:]/).trim();
  // no heading of a name or a time is as long as this
  if (!h || h.length > LONGEST) return null;
  if (BESIDE.test(h)) return 'score';
  return HEADINGS.find(([, re]) => re.test(h))?.[0] ?? (h.split(' ').length <= 8 ? (WITHIN.find(([, re]) => re.test(h))?.[0] ?? null) : null);
}
/** What short headings ask in a sentence: "Please write your full name", "Which class are you in?". */
const WITHIN: readonly [ResponseUse, RegExp][] = [
  ['mail', /\be-?mail\b/i],
  [
    'name',
    /\b(?:your|student'?s?|learner'?s?|full|pupil'?s?|participant'?s?)\s+(?:\p{L}+\s+){0,3}names?\b|\bnames? of (?:the )?(?:student|learner|pupil|participant)\b|\b(?:ihr|dein) (?:\p{L}+ )?name\b|\b(?:tu|su) nombre\b|\b(?:ton|votre) nom\b/iu,
  ],
  ['class', /\b(?:which|what|your|select your|choose your)\s+(?:\p{L}+\s+)?(?:class|group|form|course|section|period|team|cohort|shift)\b(?! of)/iu],
  ['id', /\b(?:your|student|learner|employee|staff)\s+(?:\p{L}+\s+)?(?:id|number)\b/iu],
  [
    'other',
    /\b(?:any|other|further) (?:comments?|remarks?|questions?|feedback)\b|\bhow (?:confident|satisfied|sure) (?:are|were|do) you\b|\bI agree\b|\bconsent\b/i,
  ],
];

const POINTS_WORD = '(?:pts?|points?|marks?|p|punkte?|pkt|puntos?|punti|pontos|punten|балл\\p{L}*|puan)';
const IN_HEADING = new RegExp(
  `[[(] ?(?:max(?:imum)?\\.? ?:? ?(\\d{1,3}(?:[.,]\\d{1,2})?)(?: ?${POINTS_WORD})?|(\\d{1,3}(?:[.,]\\d{1,2})?) ?${POINTS_WORD})\\.? ?[\\])]`,
  'iu',
);
/** The points that a heading names: "Q1 (2 pts)", "[max 3]"; null where it names none. */
export function pointsIn(heading: string): number | null {
  const m = IN_HEADING.exec(heading.slice(-60));
  const n = Number((m?.[1] ?? m?.[2] ?? '').replace(',', '.') || Number.NaN);
  return n > 0 ? n : null;
}
/** An address of ordinary length (RFC 5321: at most 254 signs). */
const isMail = (s: string): boolean => {
  const at = s.indexOf('@');
  return s.length <= 254 && at > 0 && s.includes('.', at + 2) && !/\s/.test(s) && !s.includes('@', at + 1);
};
const DATE = /^\d{1,4}[./-]\d{1,2}[./-]\d{1,4}(?:[ T,]+\d{1,2}[:.]\d{2}.*)?$|^\d{1,2}[:.]\d{2}(?::\d{2})?(?:\s?[ap]m)?$|^\d{4}-\d{2}-\d{2}T/i;
/** What cells say that their column holds, where the heading says nothing: mail addresses, times. */
export function saidByCells(cells: readonly string[]): ResponseUse | null {
  const filled = cells.filter(Boolean);
  if (filled.length < 2) return null;
  const share = (re: RegExp): number => filled.filter((c) => re.test(c)).length / filled.length;
  if (filled.filter(isMail).length > filled.length * 0.7) return 'mail';
  if (share(/^\d{1,4}[./-]\d{1,2}[./-]\d{1,4}[ T,]+\d{1,2}[:.]\d{2}/) > 0.8 && new Set(filled).size > filled.length * 0.7) return 'time';
  return null;
}
/** Whether a cell is a date or a time. */
export const isMoment = (cell: string): boolean => DATE.test(cell.trim());

/** The name of a row that holds the right answers. */
export const KEY_NAME = new RegExp(
  `(?:^|[^\\p{L}])(?:(?:answer|marking|master|correct|model|teacher(?:'s)?|official|my)[ _-]*)?(?:key|answers?|solutions?|lösung(?:en)?|musterlösung|clave|soluci[oó]n(?:es)?|corrig[ée]|corrections?|gabarito|chave|soluzion[ei]|correttore|antwoordmodel|sleutel|klucz|ключ|ответы|відповіді|cevap anahtarı|doğru cevaplar|master copy|mark scheme)(?:$|[^\\p{L}])|^\\*+ ?key|^(?:correct|right|richtig|correcte?s?)$`,
  'iu',
);
/** The name of a row that may hold the right answers, where none is called the key. */
export const TEACHER_NAME =
  /(?:^|[^\p{L}])(?:teacher|instructor|tutor|trainer|master|admin|staff|examiner|lehrer(?:in)?|lehrkraft|profesora?|docente|professeur|enseignante?|professore?|professora|insegnante|docent|leraar|nauczyciel(?:ka)?|учитель|вчитель|öğretmen)(?:$|[^\p{L}])/iu;
/** The name of a row that holds points for each question. */
export const POINTS_NAME =
  /^(?:(?:max(?:imum)?|possible|available|total)? ?(?:points?|marks?|score|value|weight|pts)(?: (?:per question|possible|available|each|max))?|punkte|puntos|points max|pontos|punti|punten|punkty|баллы|бали|puan)$/iu;
/** The name of a row that sums up others. */
export const SUM_NAME =
  /^(?:class |group |overall |grand )?(?:averages?|avg|mean|total|totals|sum|median|std\.? ?dev.*|minimum|maximum|min|max|count|n|percent(?:age)?(?: correct)?|% ?(?:correct|right)|item difficulty|promedio|media|moyenne|durchschnitt|mittelwert|summe|média|somma|gemiddelde|średnia|suma|среднее|итого|середнє|ortalama|toplam)\b.{0,20}$/iu;
