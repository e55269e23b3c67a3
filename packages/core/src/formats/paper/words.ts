/** The words that paper says by itself, in the languages of the reader; from memory. */

/** What stands on paper beside the set's own words. */
export interface PaperWords {
  name: string;
  group: string;
  date: string;
  points: string;
  key: string;
  /** One point, and several; `n` stands for the number. */
  point: readonly [string, string];
  number: string;
  byPerson: string;
  right: string;
  wrong: string;
  order: string;
  join: string;
}

const WORDS: Readonly<Record<string, PaperWords>> = {
  en: {
    name: 'Name',
    group: 'Class',
    date: 'Date',
    points: 'Points',
    key: 'Key',
    point: ['n point', 'n points'],
    number: 'No.',
    byPerson: 'marked by a person',
    right: 'If right',
    wrong: 'If wrong',
    order: 'Number them in their order.',
    join: 'Write the letter that belongs to each.',
  },
  es: {
    name: 'Nombre',
    group: 'Clase',
    date: 'Fecha',
    points: 'Puntos',
    key: 'Soluciones',
    point: ['n punto', 'n puntos'],
    number: 'N.º',
    byPerson: 'lo corrige una persona',
    right: 'Si es correcto',
    wrong: 'Si es incorrecto',
    order: 'Numera los pasos en su orden.',
    join: 'Escribe la letra que corresponde a cada uno.',
  },
  fr: {
    name: 'Nom',
    group: 'Classe',
    date: 'Date',
    points: 'Points',
    key: 'Corrigé',
    point: ['n point', 'n points'],
    number: 'N°',
    byPerson: 'corrigé par une personne',
    right: 'Si juste',
    wrong: 'Si faux',
    order: 'Numérote-les dans l’ordre.',
    join: 'Écris la lettre qui correspond à chacun.',
  },
  de: {
    name: 'Name',
    group: 'Klasse',
    date: 'Datum',
    points: 'Punkte',
    key: 'Lösungen',
    point: ['n Punkt', 'n Punkte'],
    number: 'Nr.',
    byPerson: 'wird von einer Person bewertet',
    right: 'Wenn richtig',
    wrong: 'Wenn falsch',
    order: 'Nummeriere in der richtigen Reihenfolge.',
    join: 'Schreibe zu jedem den passenden Buchstaben.',
  },
  pt: {
    name: 'Nome',
    group: 'Turma',
    date: 'Data',
    points: 'Pontos',
    key: 'Gabarito',
    point: ['n ponto', 'n pontos'],
    number: 'N.º',
    byPerson: 'corrigido por uma pessoa',
    right: 'Se certo',
    wrong: 'Se errado',
    order: 'Numere na ordem certa.',
    join: 'Escreva a letra que corresponde a cada um.',
  },
  it: {
    name: 'Nome',
    group: 'Classe',
    date: 'Data',
    points: 'Punti',
    key: 'Soluzioni',
    point: ['n punto', 'n punti'],
    number: 'N.',
    byPerson: 'valutato da una persona',
    right: 'Se giusto',
    wrong: 'Se sbagliato',
    order: 'Numera nell’ordine giusto.',
    join: 'Scrivi la lettera che corrisponde a ciascuno.',
  },
  nl: {
    name: 'Naam',
    group: 'Klas',
    date: 'Datum',
    points: 'Punten',
    key: 'Antwoorden',
    point: ['n punt', 'n punten'],
    number: 'Nr.',
    byPerson: 'door een persoon nagekeken',
    right: 'Indien goed',
    wrong: 'Indien fout',
    order: 'Nummer ze in de goede volgorde.',
    join: 'Schrijf bij elk de letter die erbij hoort.',
  },
  pl: {
    name: 'Imię i nazwisko',
    group: 'Klasa',
    date: 'Data',
    points: 'Punkty',
    key: 'Klucz',
    point: ['n pkt', 'n pkt'],
    number: 'Nr',
    byPerson: 'ocenia osoba',
    right: 'Jeśli dobrze',
    wrong: 'Jeśli źle',
    order: 'Ponumeruj w kolejności.',
    join: 'Wpisz literę, która pasuje do każdego.',
  },
  ru: {
    name: 'Имя',
    group: 'Класс',
    date: 'Дата',
    points: 'Баллы',
    key: 'Ключ',
    point: ['n б.', 'n б.'],
    number: '№',
    byPerson: 'оценивает человек',
    right: 'Если верно',
    wrong: 'Если неверно',
    order: 'Пронумеруйте по порядку.',
    join: 'Впишите букву, которая подходит к каждому.',
  },
  uk: {
    name: 'Ім’я',
    group: 'Клас',
    date: 'Дата',
    points: 'Бали',
    key: 'Ключ',
    point: ['n б.', 'n б.'],
    number: '№',
    byPerson: 'оцінює людина',
    right: 'Якщо правильно',
    wrong: 'Якщо неправильно',
    order: 'Пронумеруйте за порядком.',
    join: 'Впишіть літеру, яка підходить до кожного.',
  },
  tr: {
    name: 'Ad',
    group: 'Sınıf',
    date: 'Tarih',
    points: 'Puan',
    key: 'Cevap anahtarı',
    point: ['n puan', 'n puan'],
    number: 'No',
    byPerson: 'bir kişi değerlendirir',
    right: 'Doğruysa',
    wrong: 'Yanlışsa',
    order: 'Sırasına göre numaralayın.',
    join: 'Her birine uyan harfi yazın.',
  },
};
const ENGLISH = WORDS['en'] as PaperWords;

/** The words of paper in a language (BCP 47); English where it is not known. */
export const paperWords = (language: string | undefined): PaperWords => {
  const name = (language ?? 'en').slice(0, 2).toLowerCase();
  return (Object.hasOwn(WORDS, name) ? WORDS[name] : undefined) ?? ENGLISH;
};
/** The languages that paper speaks, as BCP 47. */
export const paperLanguages: readonly string[] = Object.keys(WORDS);

/** "2 points" */
export const pointsIn = (words: PaperWords, points: number, language: string): string => {
  const one = new Intl.PluralRules(language).select(points) === 'one';
  return words.point[one ? 0 : 1].replace('n', new Intl.NumberFormat(language, { maximumFractionDigits: 3 }).format(points));
};
