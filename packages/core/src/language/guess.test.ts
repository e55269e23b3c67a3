/** Languages by their small words: sentences made up for it. */
import { guessLanguage } from './guess.js';

test.each([
  ['en', 'Which of the flours is the one that takes up most water, and how is it milled?'],
  ['es', '¿Qué harina es la que más agua absorbe y cómo se muele en el molino de la escuela?'],
  ['fr', 'Quelle est la farine qui absorbe le plus d’eau, et dans quel moulin est-elle moulue ?'],
  ['de', 'Welche der Mehle nimmt das meiste Wasser auf, und wie wird es in der Mühle gemahlen?'],
  ['it', 'Quale è la farina che assorbe più acqua, e come si macina nel mulino della scuola?'],
  ['nl', 'Welke van de soorten meel neemt het meeste water op, en hoe wordt dat gemalen?'],
  ['pl', 'Co to jest zakwas i jak się go robi, ile wody jest w mące i która mąka jest najlepsza?'],
  ['uk', 'Яке борошно вбирає найбільше води і як його мелють?'],
  ['en', 'Which seaweed goes into dashi?'],
  ['en', 'Which seaweed is red? Kelp is dried in the sun.'],
  [undefined, '12 × 4 = ?'],
  [undefined, 'Dulse, kelp, laver'],
])('%s', (code, text) => expect(guessLanguage(text)).toBe(code));
