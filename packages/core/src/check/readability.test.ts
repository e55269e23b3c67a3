/**
 * Checked against the independent program `style` of Debian's diction 1.11: what it prints for ten texts of ours stands below
 * (`style FILE`; Kincaid, ARI, Coleman-Liau, Flesch, Lix, words, sentences, syllables a word).
 */
import { countsOf, formulasOf, readabilityOf, syllablesOf } from './readability.js';

const TEXTS: readonly [
  text: string,
  kincaid: number,
  ari: number,
  colemanLiau: number,
  flesch: number,
  lix: number,
  words: number,
  sentences: number,
  syllables: number,
][] = [
  [
    'A starter is a mix of flour and water. Wild yeast lives in it. We feed it each day. It grows and gives off gas. The gas makes the bread rise. A good starter smells sour but fresh. Keep it in a warm place. Stir it with a clean spoon.',
    0.1,
    -1.8,
    0.0,
    105.7,
    10.2,
    50,
    8,
    1.12,
  ],
  [
    'Fermentation is the process by which microorganisms convert sugars into acids, gases or alcohol. In a bakery the most important organisms are yeasts and lactic acid bacteria. Their activity depends on temperature, hydration and the concentration of salt. An experienced baker adjusts these conditions continually.',
    11.1,
    11.7,
    15.9,
    35.6,
    49.0,
    45,
    4,
    1.89,
  ],
  [
    'Before you use a knife, look at the blade. A dull knife slips more easily than a sharp one. Hold the food with your fingers curled under. Cut away from your body whenever that is possible. Carry a knife with the point down. Wash it at once and do not leave it in the sink.',
    1.3,
    1.2,
    3.5,
    102.2,
    14.6,
    55,
    6,
    1.13,
  ],
  [
    'The kitchen of the school was built in the old harbour office. Its windows look over the marsh, and in winter the wind brings salt to the glass. Students arrive early, light the ovens and weigh the flour. By noon the smell of bread has reached the quay, where the fishermen buy what the students have baked.',
    4.3,
    5.9,
    7.3,
    90.0,
    26.5,
    57,
    4,
    1.21,
  ],
  [
    'Preserving food by salting is one of the oldest techniques known. Salt draws water out of the cells by osmosis and makes it unavailable to bacteria. The concentration has to be high enough to inhibit harmful organisms, yet low enough to allow useful ones to survive. Temperature and acidity are equally important.',
    9.7,
    8.3,
    11.0,
    48.8,
    41.8,
    52,
    4,
    1.71,
  ],
  [
    'Put on a clean apron. Tie back your hair. Wash your hands with soap for half a minute. Dry them on a paper towel. Check that your board does not slide. Set out your tools. Read the recipe to the end. Now you can begin.',
    -0.0,
    -1.2,
    0.6,
    105.2,
    5.6,
    45,
    8,
    1.13,
  ],
  [
    'Cross contamination occurs when bacteria are transferred from one food to another, usually from raw meat to food that will not be cooked. Separate boards, careful cleaning and the correct arrangement of the refrigerator reduce the probability considerably. Regulations require documentation of these procedures in every commercial kitchen.',
    13.5,
    14.7,
    17.5,
    26.7,
    55.6,
    48,
    3,
    1.94,
  ],
  [
    'When sugar is heated it melts, turns yellow and then brown. The colour comes from hundreds of new substances that form as the molecules break apart and join again. If the pan becomes too hot, the caramel burns and tastes bitter. Add cream slowly, because the mixture boils up with great force.',
    5.8,
    6.4,
    8.5,
    76.5,
    26.5,
    52,
    4,
    1.38,
  ],
  [
    'A menu in French can confuse guests who do not know the terms. A good waiter explains them in plain words. He says how the dish is cooked, what it tastes like and what is served with it. He never makes a guest feel foolish for asking.',
    2.8,
    2.8,
    4.6,
    95.9,
    18.1,
    47,
    4,
    1.17,
  ],
  [
    'Scaling a recipe requires proportional reasoning. Divide the number of portions that you need by the number that the recipe gives, and multiply every quantity by the result. Cooking times do not scale in the same manner, because heat penetrates a larger object more slowly. Professional kitchens therefore record their adjustments systematically.',
    10.6,
    11.2,
    14.6,
    42.3,
    41.8,
    52,
    4,
    1.79,
  ],
];

test.each(TEXTS)('%.40s…', (text, kincaid, ari, colemanLiau, flesch, lix, words, sentences, syllables) => {
  const r = readabilityOf(text);
  expect([r?.words, r?.sentences]).toEqual([words, sentences]);
  expect(Math.abs((r?.ari ?? 99) - ari)).toBeLessThan(0.1);
  expect(Math.abs((r?.colemanLiau ?? 99) - colemanLiau)).toBeLessThan(0.1);
  expect(Math.abs((r?.lix ?? 99) - lix)).toBeLessThan(0.15);
  // the formulas are the same; syllables are counted otherwise: that program takes "organisms" for two and "bacteria" for three
  const same = formulasOf({ ...countsOf(text), syllables: syllables * words });
  expect(Math.abs(same.fleschKincaid - kincaid)).toBeLessThan(0.3);
  expect(Math.abs(same.fleschEase - flesch)).toBeLessThan(1.5);
});

// Syllables as English dictionaries part these words, from memory.
test.each(
  Object.entries({
    starter: 2,
    flour: 1,
    water: 2,
    yeast: 1,
    baked: 1,
    makes: 1,
    gases: 2,
    fermentation: 4,
    bacteria: 4,
    activity: 4,
    temperature: 4,
    hydration: 3,
    possible: 3,
    kitchen: 2,
    windows: 2,
    useful: 2,
    acidity: 4,
    usually: 4,
    arrangement: 3,
    documentation: 5,
    regulations: 4,
    recipe: 3,
    proportional: 4,
    systematically: 6,
    microorganisms: 5,
    reached: 1,
    cooked: 1,
    heated: 2,
    becomes: 2,
    slowly: 2,
    handle: 2,
    table: 2,
    whole: 1,
    scale: 1,
  }),
)('%s has %d', (word, n) => {
  expect(syllablesOf(word)).toBe(n);
});

test('a blank counts as a word, an abbreviation ends no sentence, and no words give nothing', () => {
  expect(countsOf('A starter, e.g. a levain, feeds on ____. It grows.')).toMatchObject({ sentences: 2, words: 10 });
  expect(readabilityOf('…')).toBeNull();
});
