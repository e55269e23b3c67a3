/**
 * What is said of a formula, in the eleven languages of learners' pages: MathML in, words out. A voice alone says signs without their
 * meaning, or nothing: "x 2" for a square. Words from memory of how teachers read formulas aloud.
 */

/** In these, `{a}`, `{b}`, `{c}` stand for what is said of the parts. */
interface MathWords {
  /** Signs between and around parts. */
  signs: Readonly<Record<string, string>>;
  over: string;
  /** The same where a part is long: it is said where it begins and ends. */
  fraction: string;
  squared: string;
  cubed: string;
  power: string;
  index: string;
  root: string;
  nthRoot: string;
  /** A sum, an integral: what, from, to. */
  between: string;
}

const SIGNS = '+ − × ÷ = ≠ < > ≤ ≥ ± ( ) → ∞ ∑ ∫ % ° √ ≈ ∈ ⋅'.split(' ');
/** Words for the signs, in their order. */
const signs = (words: string): Readonly<Record<string, string>> => {
  const all = words.split('|');
  return Object.fromEntries(SIGNS.map((s, i) => [s, (all[i] ?? '').trim()]));
};

export const MATH_WORDS: Readonly<Record<string, MathWords>> = {
  en: {
    signs: signs(
      'plus|minus|times|divided by|equals|is not equal to|is less than|is greater than|is at most|is at least|plus or minus|open bracket|close bracket|to|infinity|the sum|the integral|per cent|degrees|root|is about|is in|times',
    ),
    over: '{a} over {b}',
    fraction: 'the fraction {a}, over {b}, end of the fraction',
    squared: '{a} squared',
    cubed: '{a} cubed',
    power: '{a} to the power of {b}',
    index: '{a} sub {b}',
    root: 'the square root of {a}',
    nthRoot: 'the root of order {b} of {a}',
    between: '{a} from {b} to {c} of',
  },
  de: {
    signs: signs(
      'plus|minus|mal|geteilt durch|gleich|ungleich|kleiner als|größer als|kleiner oder gleich|größer oder gleich|plus oder minus|Klammer auf|Klammer zu|nach|unendlich|die Summe|das Integral|Prozent|Grad|Wurzel|ungefähr|in|mal',
    ),
    over: '{a} durch {b}',
    fraction: 'der Bruch {a}, durch {b}, Ende des Bruchs',
    squared: '{a} Quadrat',
    cubed: '{a} hoch drei',
    power: '{a} hoch {b}',
    index: '{a} Index {b}',
    root: 'die Wurzel aus {a}',
    nthRoot: 'die {b}-te Wurzel aus {a}',
    between: '{a} von {b} bis {c} über',
  },
  fr: {
    signs: signs(
      'plus|moins|fois|divisé par|égale|différent de|inférieur à|supérieur à|inférieur ou égal à|supérieur ou égal à|plus ou moins|parenthèse ouvrante|parenthèse fermante|tend vers|l’infini|la somme|l’intégrale|pour cent|degrés|racine|environ|appartient à|fois',
    ),
    over: '{a} sur {b}',
    fraction: 'la fraction {a}, sur {b}, fin de la fraction',
    squared: '{a} au carré',
    cubed: '{a} au cube',
    power: '{a} puissance {b}',
    index: '{a} indice {b}',
    root: 'racine carrée de {a}',
    nthRoot: 'racine d’ordre {b} de {a}',
    between: '{a} de {b} à {c} de',
  },
  es: {
    signs: signs(
      'más|menos|por|dividido entre|igual a|distinto de|menor que|mayor que|menor o igual que|mayor o igual que|más menos|abre paréntesis|cierra paréntesis|tiende a|infinito|la suma|la integral|por ciento|grados|raíz|aproximadamente|pertenece a|por',
    ),
    over: '{a} sobre {b}',
    fraction: 'la fracción {a}, sobre {b}, fin de la fracción',
    squared: '{a} al cuadrado',
    cubed: '{a} al cubo',
    power: '{a} elevado a {b}',
    index: '{a} subíndice {b}',
    root: 'raíz cuadrada de {a}',
    nthRoot: 'raíz de índice {b} de {a}',
    between: '{a} desde {b} hasta {c} de',
  },
  it: {
    signs: signs(
      'più|meno|per|diviso|uguale|diverso da|minore di|maggiore di|minore o uguale a|maggiore o uguale a|più o meno|aperta parentesi|chiusa parentesi|tende a|infinito|la somma|l’integrale|per cento|gradi|radice|circa|appartiene a|per',
    ),
    over: '{a} fratto {b}',
    fraction: 'la frazione {a}, fratto {b}, fine della frazione',
    squared: '{a} al quadrato',
    cubed: '{a} al cubo',
    power: '{a} elevato a {b}',
    index: '{a} con indice {b}',
    root: 'radice quadrata di {a}',
    nthRoot: 'radice di indice {b} di {a}',
    between: '{a} da {b} a {c} di',
  },
  pt: {
    signs: signs(
      'mais|menos|vezes|a dividir por|igual a|diferente de|menor que|maior que|menor ou igual a|maior ou igual a|mais ou menos|abre parêntesis|fecha parêntesis|tende para|infinito|a soma|o integral|por cento|graus|raiz|aproximadamente|pertence a|vezes',
    ),
    over: '{a} sobre {b}',
    fraction: 'a fração {a}, sobre {b}, fim da fração',
    squared: '{a} ao quadrado',
    cubed: '{a} ao cubo',
    power: '{a} elevado a {b}',
    index: '{a} índice {b}',
    root: 'raiz quadrada de {a}',
    nthRoot: 'raiz de índice {b} de {a}',
    between: '{a} de {b} a {c} de',
  },
  nl: {
    signs: signs(
      'plus|min|maal|gedeeld door|is gelijk aan|is niet gelijk aan|is kleiner dan|is groter dan|is kleiner dan of gelijk aan|is groter dan of gelijk aan|plus of min|haakje openen|haakje sluiten|naar|oneindig|de som|de integraal|procent|graden|wortel|is ongeveer|in|maal',
    ),
    over: '{a} gedeeld door {b}',
    fraction: 'de breuk {a}, gedeeld door {b}, einde van de breuk',
    squared: '{a} kwadraat',
    cubed: '{a} tot de derde',
    power: '{a} tot de macht {b}',
    index: '{a} index {b}',
    root: 'de wortel van {a}',
    nthRoot: 'de {b}e-machtswortel van {a}',
    between: '{a} van {b} tot {c} van',
  },
  pl: {
    signs: signs(
      'plus|minus|razy|podzielić przez|równa się|nie równa się|mniejsze niż|większe niż|mniejsze lub równe|większe lub równe|plus minus|nawias otwierający|nawias zamykający|dąży do|nieskończoność|suma|całka|procent|stopni|pierwiastek|w przybliżeniu|należy do|razy',
    ),
    over: '{a} przez {b}',
    fraction: 'ułamek {a}, przez {b}, koniec ułamka',
    squared: '{a} do kwadratu',
    cubed: '{a} do sześcianu',
    power: '{a} do potęgi {b}',
    index: '{a} z indeksem {b}',
    root: 'pierwiastek kwadratowy z {a}',
    nthRoot: 'pierwiastek stopnia {b} z {a}',
    between: '{a} od {b} do {c} z',
  },
  ru: {
    signs: signs(
      'плюс|минус|умножить на|разделить на|равно|не равно|меньше|больше|меньше или равно|больше или равно|плюс-минус|скобка открывается|скобка закрывается|стремится к|бесконечность|сумма|интеграл|процентов|градусов|корень|приблизительно равно|принадлежит|умножить на',
    ),
    over: '{a} делить на {b}',
    fraction: 'дробь {a}, делить на {b}, конец дроби',
    squared: '{a} в квадрате',
    cubed: '{a} в кубе',
    power: '{a} в степени {b}',
    index: '{a} с индексом {b}',
    root: 'квадратный корень из {a}',
    nthRoot: 'корень степени {b} из {a}',
    between: '{a} от {b} до {c} от',
  },
  uk: {
    signs: signs(
      'плюс|мінус|помножити на|поділити на|дорівнює|не дорівнює|менше|більше|менше або дорівнює|більше або дорівнює|плюс-мінус|дужка відкривається|дужка закривається|прямує до|нескінченність|сума|інтеграл|відсотків|градусів|корінь|приблизно дорівнює|належить|помножити на',
    ),
    over: '{a} поділити на {b}',
    fraction: 'дріб {a}, поділити на {b}, кінець дробу',
    squared: '{a} у квадраті',
    cubed: '{a} у кубі',
    power: '{a} у степені {b}',
    index: '{a} з індексом {b}',
    root: 'квадратний корінь із {a}',
    nthRoot: 'корінь степеня {b} із {a}',
    between: '{a} від {b} до {c} від',
  },
  tr: {
    signs: signs(
      'artı|eksi|çarpı|bölü|eşittir|eşit değildir|küçüktür|büyüktür|küçük veya eşittir|büyük veya eşittir|artı eksi|parantez aç|parantez kapa|gider|sonsuz|toplam|integral|yüzde|derece|kök|yaklaşık|elemanıdır|çarpı',
    ),
    over: '{a} bölü {b}',
    fraction: 'kesir {a}, bölü {b}, kesir sonu',
    squared: '{a} kare',
    cubed: '{a} küp',
    power: '{a} üssü {b}',
    index: '{a} indis {b}',
    root: 'karekök {a}',
    nthRoot: '{b}. dereceden kök {a}',
    between: '{b} ile {c} arasında {a}',
  },
};

/** Other writings of signs. */
const AS: Readonly<Record<string, string>> = { '-': '−', '–': '−', '*': '×', '·': '⋅', '∙': '⋅', '∘': '°' };
/** Bases whose under and over are where they begin and end. */
const GOES = new Set(['∑', '∫', '∏', '⋃', '⋂']);
/** Signs that are not said: what is not seen, and pure grouping. */
const SILENT = /^[\u2061-\u2064\u200b\s{}]*$/;

const childrenOf = (e: Element): Element[] => [...e.children].filter((c) => !c.localName.startsWith('annotation'));
/** One number, letter or word. */
const isShort = (e: Element | undefined): boolean =>
  e !== undefined && (/^m(?:i|n|text)$/.test(e.localName) || (childrenOf(e).length === 1 && isShort(childrenOf(e)[0])));

/**
 * A formula in words.
 * @param math a MathML element
 * @param language BCP 47; English where its words are not known
 */
export function wordsOfMath(math: Element, language = 'en'): string {
  const tag = language.slice(0, 2).toLowerCase();
  const words = (Object.hasOwn(MATH_WORDS, tag) ? MATH_WORDS[tag] : MATH_WORDS['en']) as MathWords;
  const put = (how: string, ...parts: readonly string[]): string => how.replace(/\{([abc])\}/g, (_, name: string) => parts['abc'.indexOf(name)] ?? '');
  const all = (parts: readonly Element[]): string => parts.map(of).join(' ');
  const one = (e: Element | undefined): string => (e ? of(e) : '');
  const power = (base: string, by: Element | undefined): string => {
    const n = by?.textContent?.trim() ?? '';
    if (n === '°' || n === '∘') return `${base} ${words.signs['°'] ?? ''}`;
    return put(n === '2' ? words.squared : n === '3' ? words.cubed : words.power, base, one(by));
  };
  const of = (e: Element): string => {
    const parts = childrenOf(e);
    const [a, b, c] = parts;
    switch (e.localName) {
      case 'mfrac':
        return put(isShort(a) && isShort(b) ? words.over : words.fraction, one(a), one(b));
      case 'msup':
        return power(one(a), b);
      case 'msub':
        return put(words.index, one(a), one(b));
      case 'msubsup':
      case 'munderover':
        if (GOES.has(a?.textContent?.trim() ?? '')) return put(words.between, one(a), one(b), one(c));
        return e.localName === 'msubsup' ? power(put(words.index, one(a), one(b)), c) : all(parts);
      case 'msqrt':
        return put(words.root, all(parts));
      case 'mroot':
        return put(words.nthRoot, one(a), one(b));
      case 'mspace':
      case 'mphantom':
        return '';
      case 'mtr':
        return `${parts.map(of).join(', ')};`;
      case 'mi':
      case 'mn':
      case 'mo':
      case 'mtext': {
        const sign = (e.textContent ?? '').trim();
        if (SILENT.test(sign)) return '';
        const known = AS[sign] ?? sign;
        return Object.hasOwn(words.signs, known) ? (words.signs[known] as string) : sign;
      }
      default:
        return parts.length ? all(parts) : (e.textContent ?? '').trim();
    }
  };
  return of(math)
    .replace(/\s+/g, ' ')
    .replace(/\s+([,;])/g, '$1')
    .trim();
}
