const WORDS: Record<string, { true: string; false: string }> = {
  es: { true: 'Verdadero', false: 'Falso' },
  fr: { true: 'Vrai', false: 'Faux' },
  de: { true: 'Richtig', false: 'Falsch' },
  pt: { true: 'Verdadeiro', false: 'Falso' },
  it: { true: 'Vero', false: 'Falso' },
  nl: { true: 'Waar', false: 'Niet waar' },
  pl: { true: 'Prawda', false: 'Fałsz' },
  ru: { true: 'Верно', false: 'Неверно' },
  uk: { true: 'Правда', false: 'Неправда' },
  tr: { true: 'Doğru', false: 'Yanlış' },
};
/** The words for true and false in a language (BCP 47); English where it is not known. */
export const truthWords = (language?: string): { true: string; false: string } => WORDS[language?.slice(0, 2) ?? ''] ?? { true: 'True', false: 'False' };
