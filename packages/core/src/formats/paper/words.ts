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
}

const WORDS: Readonly<Record<string, PaperWords>> = {
  en: {
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
