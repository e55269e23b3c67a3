/** Every language says everything, with the same values put in and every plural that it has (CLDR, by `Intl.PluralRules`). */
import { en, type Message, type Words } from './en.js';
import { pageLanguage, pageLanguages, said, sayIn, wordsIn } from './words.js';

const texts = (m: Message): string[] => (typeof m === 'string' ? [m] : Object.values(m));
const slots = (text: string): string[] => [...text.matchAll(/\{(\w+)\}/g)].map((m) => m[1] ?? '').sort();

test('the eleven languages of the reader', () => {
  expect([...pageLanguages].sort()).toEqual(['de', 'en', 'es', 'fr', 'it', 'nl', 'pl', 'pt', 'ru', 'tr', 'uk']);
});

describe.each(pageLanguages)('%s', (language) => {
  let words: Words;
  beforeAll(async () => {
    words = await wordsIn(language);
  });
  test('says everything, each with the values of the English', () => {
    expect(Object.keys(words).sort()).toEqual(Object.keys(en).sort());
    for (const [name, message] of Object.entries(words) as [keyof Words, Message][]) {
      const wanted = new Set(texts(en[name]).flatMap(slots));
      for (const text of texts(message)) {
        expect([name, text.trim()]).toEqual([name, text]);
        expect(text).not.toBe('');
        for (const slot of slots(text)) expect([name, wanted.has(slot)]).toEqual([name, true]);
        // all but the number may be missing nowhere: one may be said in words
        for (const slot of wanted) if (slot !== 'n') expect([name, slots(text).includes(slot)]).toEqual([name, true]);
      }
    }
  });
  test('has every plural of the language where it counts', () => {
    const categories = [...new Intl.PluralRules(language).resolvedOptions().pluralCategories].sort();
    for (const [name, message] of Object.entries(words) as [string, Message][]) {
      expect([name, typeof message]).toEqual([name, typeof en[name as keyof Words]]);
      if (typeof message !== 'string') expect([name, Object.keys(message).sort()]).toEqual([name, categories]);
    }
  });
  test('no text is left in English', () => {
    if (language === 'en') return;
    const same = (Object.keys(en) as (keyof Words)[]).filter((k) => JSON.stringify(words[k]) === JSON.stringify(en[k]));
    // one word may be the same in both
    for (const name of same)
      expect(
        texts(words[name]).every(
          (t) =>
            !t
              .replace(/\{\w+\}/g, '')
              .trim()
              .includes(' '),
        ),
      ).toBe(true);
    expect(same.length).toBeLessThan(6);
  });
});

test('plurals by the rules of the language, numbers as it writes them', async () => {
  const pl = await wordsIn('pl');
  expect([1, 2, 5, 12, 22].map((n) => said(pl.questions, { n }, 'pl'))).toEqual(['1 pytanie', '2 pytania', '5 pytań', '12 pytań', '22 pytania']);
  expect(said((await wordsIn('de')).points, { n: 2.5 }, 'de')).toBe('2,5 Punkte');
  expect(said('{a} and {b}', { a: 'x' }, 'en')).toBe('x and {b}');
  expect(sayIn({ language: 'en', words: en })('attempts', { n: 1 })).toBe('You have one attempt.');
});

test('the language of the page is the first that it speaks', () => {
  expect(pageLanguage(['', undefined, 'pt-BR', 'de'])).toBe('pt');
  expect(pageLanguage(['ja', 'zh'])).toBe('en');
  expect(pageLanguage([])).toBe('en');
});
