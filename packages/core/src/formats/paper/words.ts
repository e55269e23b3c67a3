/** The words that paper says by itself, in the languages of the reader; from memory. */

import type { QuizSet } from '../../item/model.js';
import { plainOf } from '../../item/richText.js';
import { guessLanguage } from '../../language/guess.js';

/** What stands on paper beside the set's own words. */
export interface PaperWords {
  name: string;
  group: string;
  date: string;
  points: string;
  key: string;
  guide: string;
  /** The answer sheet, and how it is filled in. */
  sheet: string;
  fillIn: string;
  model: string;
  /** One point, and several; `n` stands for the number. */
  point: readonly [string, string];
  number: string;
  byPerson: string;
  right: string;
  wrong: string;
  /** Of reports. `n` stands for the key. */
  noAnswer: string;
  rightIs: string;
  notMarked: string;
  /** `n` per cent. */
  late: string;
  /** `n` of `m` points. */
  outOf: string;
  asked: string;
  report: string;
  mean: string;
  people: string;
  items: string;
  reached: string;
}

const WORDS: Readonly<Record<string, PaperWords>> = {
  en: {
    noAnswer: 'No answer.',
    late: 'Handed in late: n % taken off.',
    rightIs: 'Right: n',
    notMarked: 'Not marked yet.',
    outOf: 'n of m',
    asked: 'Question and answer',
    report: 'Report',
    mean: 'Mean',
    people: 'People',
    items: 'Items',
    reached: 'Reached',
    sheet: 'Answer sheet',
    fillIn: 'Fill the circle in completely, with a dark pen or pencil. Cross a wrong one out.',
    name: 'Name',
    group: 'Class',
    date: 'Date',
    points: 'Points',
    guide: 'Marking guide',
    model: 'Model answer',
    key: 'Key',
    point: ['n point', 'n points'],
    number: 'No.',
    byPerson: 'marked by a person',
    right: 'If right',
    wrong: 'If wrong',
  },
  es: {
    noAnswer: 'Sin respuesta.',
    late: 'Entregado con retraso: n % menos.',
    rightIs: 'Correcto: n',
    notMarked: 'Aún sin corregir.',
    outOf: 'n de m',
    asked: 'Pregunta y respuesta',
    report: 'Informe',
    mean: 'Media',
    people: 'Personas',
    items: 'Preguntas',
    reached: 'Logrado',
    sheet: 'Hoja de respuestas',
    fillIn: 'Rellena el círculo por completo, con bolígrafo o lápiz oscuro. Tacha el equivocado.',
    name: 'Nombre',
    group: 'Clase',
    date: 'Fecha',
    points: 'Puntos',
    guide: 'Guía de corrección',
    model: 'Respuesta modelo',
    key: 'Soluciones',
    point: ['n punto', 'n puntos'],
    number: 'N.º',
    byPerson: 'lo corrige una persona',
    right: 'Si es correcto',
    wrong: 'Si es incorrecto',
  },
  fr: {
    noAnswer: 'Pas de réponse.',
    late: 'Rendu en retard : n % en moins.',
    rightIs: 'Correct : n',
    notMarked: 'Pas encore corrigé.',
    outOf: 'n sur m',
    asked: 'Question et réponse',
    report: 'Rapport',
    mean: 'Moyenne',
    people: 'Personnes',
    items: 'Questions',
    reached: 'Atteint',
    sheet: 'Feuille de réponses',
    fillIn: 'Remplis le cercle entièrement, au stylo ou au crayon foncé. Barre celui qui est faux.',
    name: 'Nom',
    group: 'Classe',
    date: 'Date',
    points: 'Points',
    guide: 'Guide de correction',
    model: 'Réponse type',
    key: 'Corrigé',
    point: ['n point', 'n points'],
    number: 'N°',
    byPerson: 'corrigé par une personne',
    right: 'Si juste',
    wrong: 'Si faux',
  },
  de: {
    noAnswer: 'Keine Antwort.',
    late: 'Zu spät abgegeben: n % abgezogen.',
    rightIs: 'Richtig: n',
    notMarked: 'Noch nicht bewertet.',
    outOf: 'n von m',
    asked: 'Frage und Antwort',
    report: 'Bericht',
    mean: 'Mittel',
    people: 'Personen',
    items: 'Fragen',
    reached: 'Erreicht',
    sheet: 'Antwortbogen',
    fillIn: 'Fülle den Kreis ganz aus, mit dunklem Stift. Streiche einen falschen durch.',
    name: 'Name',
    group: 'Klasse',
    date: 'Datum',
    points: 'Punkte',
    guide: 'Bewertungshinweise',
    model: 'Musterantwort',
    key: 'Lösungen',
    point: ['n Punkt', 'n Punkte'],
    number: 'Nr.',
    byPerson: 'wird von einer Person bewertet',
    right: 'Wenn richtig',
    wrong: 'Wenn falsch',
  },
  pt: {
    noAnswer: 'Sem resposta.',
    late: 'Entregue com atraso: n % a menos.',
    rightIs: 'Certo: n',
    notMarked: 'Ainda por corrigir.',
    outOf: 'n de m',
    asked: 'Pergunta e resposta',
    report: 'Relatório',
    mean: 'Média',
    people: 'Pessoas',
    items: 'Perguntas',
    reached: 'Alcançado',
    sheet: 'Folha de respostas',
    fillIn: 'Preenche o círculo por completo, com caneta ou lápis escuro. Risca o que estiver errado.',
    name: 'Nome',
    group: 'Turma',
    date: 'Data',
    points: 'Pontos',
    guide: 'Guia de correção',
    model: 'Resposta-modelo',
    key: 'Gabarito',
    point: ['n ponto', 'n pontos'],
    number: 'N.º',
    byPerson: 'corrigido por uma pessoa',
    right: 'Se certo',
    wrong: 'Se errado',
  },
  it: {
    noAnswer: 'Nessuna risposta.',
    late: 'Consegnato in ritardo: n % in meno.',
    rightIs: 'Giusto: n',
    notMarked: 'Non ancora corretto.',
    outOf: 'n di m',
    asked: 'Domanda e risposta',
    report: 'Relazione',
    mean: 'Media',
    people: 'Persone',
    items: 'Domande',
    reached: 'Raggiunto',
    sheet: 'Foglio delle risposte',
    fillIn: 'Annerisci tutto il cerchio, con penna o matita scura. Barra quello sbagliato.',
    name: 'Nome',
    group: 'Classe',
    date: 'Data',
    points: 'Punti',
    guide: 'Guida alla correzione',
    model: 'Risposta modello',
    key: 'Soluzioni',
    point: ['n punto', 'n punti'],
    number: 'N.',
    byPerson: 'valutato da una persona',
    right: 'Se giusto',
    wrong: 'Se sbagliato',
  },
  nl: {
    noAnswer: 'Geen antwoord.',
    late: 'Te laat ingeleverd: n % eraf.',
    rightIs: 'Goed: n',
    notMarked: 'Nog niet nagekeken.',
    outOf: 'n van m',
    asked: 'Vraag en antwoord',
    report: 'Verslag',
    mean: 'Gemiddelde',
    people: 'Personen',
    items: 'Vragen',
    reached: 'Behaald',
    sheet: 'Antwoordblad',
    fillIn: 'Vul het rondje helemaal in, met een donkere pen of een donker potlood. Streep een fout door.',
    name: 'Naam',
    group: 'Klas',
    date: 'Datum',
    points: 'Punten',
    guide: 'Correctievoorschrift',
    model: 'Modelantwoord',
    key: 'Antwoorden',
    point: ['n punt', 'n punten'],
    number: 'Nr.',
    byPerson: 'door een persoon nagekeken',
    right: 'Indien goed',
    wrong: 'Indien fout',
  },
  pl: {
    noAnswer: 'Brak odpowiedzi.',
    late: 'Oddano po terminie: n % mniej.',
    rightIs: 'Poprawnie: n',
    notMarked: 'Jeszcze nie ocenione.',
    outOf: 'n z m',
    asked: 'Pytanie i odpowiedź',
    report: 'Raport',
    mean: 'Średnia',
    people: 'Osoby',
    items: 'Pytania',
    reached: 'Osiągnięto',
    sheet: 'Karta odpowiedzi',
    fillIn: 'Zamaluj całe kółko ciemnym długopisem lub ołówkiem. Błędne przekreśl.',
    name: 'Imię i nazwisko',
    group: 'Klasa',
    date: 'Data',
    points: 'Punkty',
    guide: 'Zasady oceniania',
    model: 'Odpowiedź wzorcowa',
    key: 'Klucz',
    point: ['n pkt', 'n pkt'],
    number: 'Nr',
    byPerson: 'ocenia osoba',
    right: 'Jeśli dobrze',
    wrong: 'Jeśli źle',
  },
  ru: {
    noAnswer: 'Нет ответа.',
    late: 'Сдано с опозданием: минус n %.',
    rightIs: 'Правильно: n',
    notMarked: 'Ещё не проверено.',
    outOf: 'n из m',
    asked: 'Вопрос и ответ',
    report: 'Отчёт',
    mean: 'Среднее',
    people: 'Участники',
    items: 'Вопросы',
    reached: 'Достигнуто',
    sheet: 'Бланк ответов',
    fillIn: 'Закрась кружок полностью тёмной ручкой или карандашом. Неверный зачеркни.',
    name: 'Имя',
    group: 'Класс',
    date: 'Дата',
    points: 'Баллы',
    guide: 'Указания к оцениванию',
    model: 'Образец ответа',
    key: 'Ключ',
    point: ['n б.', 'n б.'],
    number: '№',
    byPerson: 'оценивает человек',
    right: 'Если верно',
    wrong: 'Если неверно',
  },
  uk: {
    noAnswer: 'Немає відповіді.',
    late: 'Здано із запізненням: мінус n %.',
    rightIs: 'Правильно: n',
    notMarked: 'Ще не перевірено.',
    outOf: 'n з m',
    asked: 'Питання й відповідь',
    report: 'Звіт',
    mean: 'Середнє',
    people: 'Учасники',
    items: 'Питання',
    reached: 'Досягнуто',
    sheet: 'Бланк відповідей',
    fillIn: 'Зафарбуй кружечок повністю темною ручкою або олівцем. Неправильний закресли.',
    name: 'Ім’я',
    group: 'Клас',
    date: 'Дата',
    points: 'Бали',
    guide: 'Вказівки до оцінювання',
    model: 'Зразок відповіді',
    key: 'Ключ',
    point: ['n б.', 'n б.'],
    number: '№',
    byPerson: 'оцінює людина',
    right: 'Якщо правильно',
    wrong: 'Якщо неправильно',
  },
  tr: {
    noAnswer: 'Yanıt yok.',
    late: 'Geç teslim edildi: n % düşüldü.',
    rightIs: 'Doğrusu: n',
    notMarked: 'Henüz değerlendirilmedi.',
    outOf: 'n / m',
    asked: 'Soru ve yanıt',
    report: 'Rapor',
    mean: 'Ortalama',
    people: 'Kişiler',
    items: 'Sorular',
    reached: 'Ulaşılan',
    sheet: 'Cevap kâğıdı',
    fillIn: 'Daireyi koyu bir kalemle tamamen doldur. Yanlış olanın üstünü çiz.',
    name: 'Ad',
    group: 'Sınıf',
    date: 'Tarih',
    points: 'Puan',
    guide: 'Puanlama kılavuzu',
    model: 'Örnek cevap',
    key: 'Cevap anahtarı',
    point: ['n puan', 'n puan'],
    number: 'No',
    byPerson: 'bir kişi değerlendirir',
    right: 'Doğruysa',
    wrong: 'Yanlışsa',
  },
};
const ENGLISH = WORDS['en'] as PaperWords;

/** The words of paper in a language (BCP 47); English where it is not known. */
export const paperWords = (language: string | undefined): PaperWords => {
  const name = (language ?? 'en').slice(0, 2).toLowerCase();
  return (Object.hasOwn(WORDS, name) ? WORDS[name] : undefined) ?? ENGLISH;
};
/** The language of a set (BCP 47): as it says, else as its questions read, by script or by their small words; English where neither tells. */
export function languageOf(set: QuizSet): string {
  if (set.language) return set.language;
  const text = set.items.map((i) => plainOf(i.stem)).join(' ');
  const letters = text.match(/\p{L}/gu)?.length ?? 0;
  const script = SCRIPTS.find(([signs]) => (text.match(signs)?.length ?? 0) > letters / 2)?.[1];
  return script ?? guessLanguage(text) ?? 'en';
}
const RIGHT_TO_LEFT = /^(?:ar|fa|he|ur|ps|sd|ug|yi|dv)\b/i;
/** Whether a language (BCP 47) is written from right to left; from memory. */
export const runsFromRight = (language: string): boolean => RIGHT_TO_LEFT.test(language);
/** Scripts that tell how a page runs, with the language that most often is written in them. */
const SCRIPTS: readonly (readonly [RegExp, string])[] = [
  [/\p{Script=Hebrew}/gu, 'he'],
  [/\p{Script=Arabic}/gu, 'ar'],
];

/** The languages that paper speaks, as BCP 47. */
export const paperLanguages: readonly string[] = Object.keys(WORDS);

/** "2 points" */
export const pointsIn = (words: PaperWords, points: number, language: string): string => {
  const one = new Intl.PluralRules(language).select(points) === 'one';
  return words.point[one ? 0 : 1].replace('n', new Intl.NumberFormat(language, { maximumFractionDigits: 3 }).format(points));
};
