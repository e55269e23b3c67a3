/** Drafts with habits of their own, each with what a careful typist takes it to mean. All content is made up. */
import { keyPlaces, letterOf } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import { readDraft } from './read.js';

/** An item's kind and key in a few words. */
function brief(i: Item): string {
  switch (i.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return `${i.kind === 'multiple-choice' ? 'one' : 'several'} of ${i.options.length}: ${keyPlaces(i).map(letterOf).join('')}`;
    case 'true-false':
      return `truth: ${String(i.answer)}`;
    case 'short-answer':
      return `words: ${i.answers.map((a) => a.text).join(' / ')}`;
    case 'numeric':
      return `number: ${i.answers.map((a) => (a.min === a.max ? a.min : `${a.min}..${a.max}`)).join(' / ')}${i.unit ? ` ${i.unit}` : ''}`;
    case 'cloze':
      return `gaps: ${i.gaps.map((g) => (g.kind === 'choice' ? '?' : g.kind === 'number' ? g.answers.map((a) => a.text).join('/') : g.answers.map((a) => a.text).join('/'))).join('; ')}`;
    case 'matching':
      return `pairs: ${i.pairs.map((p) => `${p.left}=${p.right}`).join(', ')}${i.extraRights.length ? ` + ${i.extraRights.join(', ')}` : ''}`;
    case 'ordering':
      return `order: ${i.sequence.join(' > ')}`;
    default:
      return i.kind;
  }
}

const DRAFTS: [habit: string, draft: string, readings: string[]][] = [
  [
    'German, with a key list',
    'Klassenarbeit Küche\n\n1. Welches Mehl bindet am meisten Wasser?\na) Weizen\nb) Roggen\nc) Mais\n\n2. Wie viel Gramm sind 1,5 kg?\n\nLösungen\n1. b\n2. 1500 g',
    ['one of 3: B', 'number: 1500 g'],
  ],
  [
    'German, answers behind',
    '1) Salz bremst die Hefe. (Richtig/Falsch)\nAntwort: Richtig\n2) Brot geht auf, weil Hefe ____ bildet.\nAntwort: Gas oder Kohlendioxid',
    ['truth: true', 'gaps: Gas/Kohlendioxid'],
  ],
  [
    'French, with guillemets',
    '1. Que veut dire « al dente » ?\na) très cuit\nb) ferme sous la dent\nRéponse : b\n\n2. Vrai ou faux : le levain contient des bactéries.\nRéponse : Vrai',
    ['one of 2: B', 'truth: true'],
  ],
  [
    'Italian, keys with ticks',
    '1. Quale farina è integrale?\nA) 00\nB) tipo 2 ✓\nC) manitoba\n\n2. Vero o falso: il sale accelera la lievitazione.\nRisposta: Falso',
    ['one of 3: B', 'truth: false'],
  ],
  ['Polish, letters in brackets', 'Pytanie 1. Co zakwasza żurek?\n(a) mąka\n(b) zakwas\n(c) kiełbasa\nOdpowiedź: b', ['one of 3: B']],
  [
    'Russian',
    'Вопрос 1. Что поднимает тесто?\nА) соль\nБ) дрожжи\nВ) масло\nОтвет: Б\n\nВопрос 2. Соль замедляет брожение. (верно/неверно)\nОтвет: верно',
    ['one of 3: B', 'truth: true'],
  ],
  ['Turkish', '1. Hamuru ne kabartır?\na) tuz\nb) maya\nc) yağ\nCevap: b', ['one of 3: B']],
  [
    'Portuguese, decimal comma',
    '1. Quanto pesam 3 pães de 0,25 kg?\nResposta: 0,75 kg\n2. Complete: o fermento precisa de ____.\nResposta: água',
    ['number: 0.75 kg', 'gaps: água'],
  ],
  ['Dutch', 'Vraag 1: Welke temperatuur heeft een koelkast?\na. 4 °C\nb. 14 °C\nJuiste antwoord: a', ['one of 2: A']],
  [
    'questions without numbers, parted by blank lines',
    'Which pan is best for eggs?\n- cast iron\n- non-stick *\n- copper\n\nWhich oil smokes first?\n- butter *\n- peanut',
    ['one of 3: B', 'one of 2: A'],
  ],
  [
    'question word and hash',
    '#1 Who bakes?\nA - the cook\nB - the baker\nKey: B\n\n#2 Who washes up?\nA - the cook\nB - everybody\nKey: B',
    ['one of 2: B', 'one of 2: B'],
  ],
  [
    'markdown headings for questions',
    '### 1. What is a roux?\n\n* A. fat and flour\n* B. egg and oil\n\n**Correct answer:** A\n\n### 2. What is a mirepoix?\n\n* A. diced vegetables\n* B. a pot\n\n**Correct answer:** A',
    ['one of 2: A', 'one of 2: A'],
  ],
  ['bold keys all through', '1. First?\nA) no\nB) **yes**\n\n2. Second?\nA) **yes**\nB) no', ['one of 2: B', 'one of 2: A']],
  ['boxes', '1. Tick all that float.\n[x] butter\n[ ] honey\n[x] ice\n[ ] salt', ['several of 4: AC']],
  ['key in words with its reason', '1. Which is a tuber?\na) carrot\nb) potato\nAnswer: potato, because it grows on a stem under ground', ['one of 2: B']],
  [
    'tolerance, range, fraction, percent',
    '1. g?\nAnswer: 9.81 ± 0.02\n2. Room temperature?\nAnswer: 18–22 °C\n3. Half of a half?\nAnswer: 1/4\n4. What percentage is lost?\nAnswer: 12 %',
    ['number: 9.79..9.83', 'number: 18..22 °C', 'number: 0.25', 'number: 12 %'],
  ],
  [
    'matching with a key of letters',
    '1. Match the tools.\n1. whisk\n2. sieve\nA. for lumps\nB. for foam\nAnswer: 1-B, 2-A',
    ['pairs: whisk=for foam, sieve=for lumps'],
  ],
  ['matching by colons', '1. Match each word with its meaning.\npoolish: a wet dough\nbiga: a stiff dough', ['pairs: poolish=a wet dough, biga=a stiff dough']],
  ['ordering with letters', '1. Put the steps in the right order.\nA. bake\nB. mix\nC. rest\nAnswer: B, C, A', ['order: mix > rest > bake']],
  [
    'a key list in one row',
    '1. One?\na) x\nb) y\n\n2. Two?\na) x\nb) y\n\n3. Three?\na) x\nb) y\n\nAnswers: 1 b 2 a 3 b',
    ['one of 2: B', 'one of 2: A', 'one of 2: B'],
  ],
  [
    'keys as a table',
    '1. One?\na) x\nb) y\n\n2. Two?\na) x\nb) y\n\nAnswer key\n\n| No | Key |\n|---|---|\n| 1 | b |\n| 2 | a |',
    ['one of 2: B', 'one of 2: A'],
  ],
  [
    'numbers that start anew in each part',
    'Part A: Multiple choice\n1. One?\na) x\nb) y\n\nPart B: True or false\n1. It is so.\n2. It is not.\n\nAnswer key\nPart A: 1. a\nPart B: 1. T 2. F',
    ['one of 2: A', 'truth: true', 'truth: false'],
  ],
  [
    'a mail around it',
    'Dear Petra,\n\nhere are the two you wanted:\n\n1) Hot or cold?\na) hot\nb) cold *\n\n2) Sweet or sour?\na) sweet *\nb) sour\n\nKind regards\nLena',
    ['one of 2: B', 'one of 2: A'],
  ],
  [
    'hard-wrapped lines',
    '1. Which of the following doughs is left to rest for the\n   longest time before it is shaped?\na) a quick bread that is raised\n   with baking powder\nb) a sourdough *',
    ['one of 2: B'],
  ],
  ['open questions', '1. Discuss the use of salt in bread.\n2. Explain why dough rests.', ['essay', 'essay']],
  ['nothing says the key', '1. Which?\na) this\nb) that', ['one of 2: ']],
];

test.each(DRAFTS)('%s', (_, draft, readings) => {
  expect(readDraft(draft).set.items.map(brief)).toEqual(readings);
});
