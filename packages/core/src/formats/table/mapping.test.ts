/** Tables of other people's layouts. Each case is a table and its items, a line for each: stem, options with a star behind the key, what else is told. */
import type { Item } from '../../item/model.js';
import { utf8 } from '../encoding.js';
import { coreFormats } from '../index.js';
import { rowsOf } from './csv.js';
import { useOf } from './headings.js';
import { readMapped } from './mapped.js';
import { blankMapping, type Mapping, withSaidSince } from './mapping.js';
import { proposeMapping } from './propose.js';

function told(i: Item): string {
  const more = [
    i.points === 1 ? '' : `${i.points} points`,
    i.feedback?.general ?? '',
    i.feedback?.correct ? `right: ${i.feedback.correct}` : '',
    i.hints?.join() ?? '',
    i.tags?.join() ?? '',
    i.outcomes?.join() ?? '',
    i.timeLimit ? `${i.timeLimit} s` : '',
    i.level?.difficulty === undefined ? '' : `difficulty ${i.level.difficulty}`,
  ].filter(Boolean);
  const key =
    'options' in i
      ? i.options.map((o) => `${o.content}${o.credit > 0 ? '*' : ''}${o.feedback ? ` (${o.feedback})` : ''}`).join(' / ')
      : i.kind === 'true-false'
        ? `= ${String(i.answer)}`
        : i.kind === 'numeric'
          ? `= ${i.answers.map((a) => (a.min === a.max ? a.min : `${a.min}..${a.max}`)).join()}`
          : i.kind === 'short-answer'
            ? `= ${i.answers.map((a) => a.text).join(' or ')}`
            : `(${i.kind})`;
  return [i.stem, key, ...more].join(' | ');
}

const CASES: readonly [name: string, table: string, items: readonly string[]][] = [
  [
    'German, semicolons, key by words and by letter, decimal comma in points',
    'Frage;Antwort A;Antwort B;Antwort C;Antwort D;Richtige Antwort;Punkte;Erklärung\nWelche Hefe?;Backhefe;Bierhefe;Weinhefe;keine;Backhefe;2;Die übliche.\nWie viel Salz?;2 g;20 g;200 g;;20 g;1,5;\nWas ist Autolyse?;Ruhen;Kneten;Backen;Gehen;A;1;',
    [
      'Welche Hefe? | Backhefe* / Bierhefe / Weinhefe / keine | 2 points | Die übliche.',
      'Wie viel Salz? | 2 g / 20 g* / 200 g | 1.5 points',
      'Was ist Autolyse? | Ruhen* / Kneten / Backen / Gehen',
    ],
  ],
  [
    'Spanish, kinds in words, all options in one cell with letters',
    'Pregunta,Tipo,Opciones,Respuesta correcta,Puntos\n¿Capital?,opción múltiple,"A) París; B) Lyon; C) Niza",A,1\n¿Frutas?,selección múltiple,"A) manzana; B) col; C) pera","A, C",2\nEl pan lleva harina.,verdadero/falso,,Verdadero,1\n¿Cuánto es 7 x 8?,numérica,,56,1\nExplica la fermentación.,ensayo,,,5',
    [
      '¿Capital? | París* / Lyon / Niza',
      '¿Frutas? | manzana* / col / pera* | 2 points',
      'El pan lleva harina. | = true',
      '¿Cuánto es 7 x 8? | = 56',
      'Explica la fermentación. | (essay) | 5 points',
    ],
  ],
  [
    'the right answer and distractors in columns of their own, a skill, a level in words',
    'id,stem,correct,distractor1,distractor2,explanation,skill,level\n101,Bread rises because of,yeast,salt,water,Gas.,B1,easy\n102,Which is a pulse?,lentil,rice,,,B2,0.7',
    ['Bread rises because of | yeast* / salt / water | Gas. | easy | B1', 'Which is a pulse? | lentil* / rice | B2 | difficulty 0.7'],
  ],
  [
    'Russian, letters in Cyrillic',
    '№\tВопрос\tВариант А\tВариант Б\tВариант В\tОтвет\tБаллы\n1\tСтолица?\tЛион\tПариж\tНицца\tБ\t1\n2\tРека?\tНил\tОбь\t\tа\t2',
    ['Столица? | Лион / Париж* / Ницца', 'Река? | Нил* / Обь | 2 points'],
  ],
  [
    'question and answer only, of four kinds',
    'Question,Answer\nWhich gas?,carbon dioxide\nGrams?,1000\nSalt slows it.,True\nWhich grain?,rye|secale',
    ['Which gas? | = carbon dioxide', 'Grams? | = 1000', 'Salt slows it. | = true', 'Which grain? | = rye or secale'],
  ],
  [
    'a title above, numbers in the stems, key by number, a total below',
    'Bread quiz,,,,,\n,,,,,\nQ,A,B,C,D,Ans\n1. What is a poolish?,a pre-ferment,an oven,a knife,a bowl,1\n2. Which flour?,rye,wheat,oat,rice,2\nTotal,,,,,2',
    ['What is a poolish? | a pre-ferment* / an oven / a knife / a bowl', 'Which flour? | rye / wheat* / oat / rice'],
  ],
  [
    'several keys by number, parted by bars',
    'question,answers,correct answers\nWhat is used?,flour|butter|water|starter,1|3|4\nPick the fat,butter|salt,1',
    ['What is used? | flour* / butter / water* / starter*', 'Pick the fat | butter* / salt'],
  ],
  [
    'numbers as options and as keys: the key counts places where it does in the whole column',
    'Question Text,Option 1,Option 2,Option 3,Option 4,Correct Answer,Time in seconds\nWhich herb?,Basil,Stone,Iron,Glass,1,20\nWhich are even?,1,2,3,4,"2,4",30',
    ['Which herb? | Basil* / Stone / Iron / Glass | 20 s', 'Which are even? | 1 / 2* / 3 / 4* | 30 s'],
  ],
  [
    'Italian, options are numbers and keys are their values',
    'Domanda,Risposta 1,Risposta 2,Risposta 3,Risposta 4,Corretta\n3 + 4?,6,7,8,9,7\n10 - 4?,4,5,6,7,6\n2 x 2?,2,3,4,5,4',
    ['3 + 4? | 6 / 7* / 8 / 9', '10 - 4? | 4 / 5 / 6* / 7', '2 x 2? | 2 / 3 / 4* / 5'],
  ],
  ['Turkish', 'Soru;Seçenek A;Seçenek B;Seçenek C;Doğru Cevap;Puan\nNeden kabarır?;maya;tuz;su;A;5', ['Neden kabarır? | maya* / tuz / su | 5 points']],
  [
    'Dutch',
    'Vraag,Type,Antwoord 1,Antwoord 2,Antwoord 3,Juist antwoord,Feedback\nWat is desem?,meerkeuze,zuurdeeg,boter,zout,1,Zuurdeeg.\nBrood bevat gluten.,waar/onwaar,,,,waar,',
    ['Wat is desem? | zuurdeeg* / boter / zout | Zuurdeeg.', 'Brood bevat gluten. | = true'],
  ],
  [
    'Ukrainian, options headed by letters alone',
    'Питання,А,Б,В,Г,Правильна відповідь,Пояснення\nЯкий газ?,кисень,вуглекислий,азот,водень,Б,Дріжджі.',
    ['Який газ? | кисень / вуглекислий* / азот / водень | Дріжджі.'],
  ],
  ['Polish', 'Pytanie;Odpowiedź A;Odpowiedź B;Poprawna odpowiedź;Punkty\nCo to jest biga?;zaczyn;nóż;A;1', ['Co to jest biga? | zaczyn* / nóż']],
  [
    'Portuguese',
    'Pergunta,Alternativa A,Alternativa B,Gabarito,Nível,Tema\nCapital?,Rio,Brasília,B,fácil,geografia',
    ['Capital? | Rio / Brasília* | geografia,fácil'],
  ],
  [
    'French, true or false',
    'Affirmation;Vrai/Faux;Commentaire\nLa levure est un champignon.;V;Oui.\nLe sel fait lever la pâte.;F;',
    ['La levure est un champignon. | = true | Oui.', 'Le sel fait lever la pâte. | = false'],
  ],
  [
    'terms and definitions',
    'Term,Definition\npoolish,a wet pre-ferment\nbiga,a stiff pre-ferment',
    ['a wet pre-ferment | = poolish', 'a stiff pre-ferment | = biga'],
  ],
  [
    'no headings, key by number',
    '"What is 2+2 today?","3","4","5","6","2"\n"What is 3+3 today?","6","7","8","9","1"\n"What is 5+1 today?","4","5","6","7","3"',
    ['What is 2+2 today? | 3 / 4* / 5 / 6', 'What is 3+3 today? | 6* / 7 / 8 / 9', 'What is 5+1 today? | 4 / 5 / 6* / 7'],
  ],
  [
    'options on lines of one cell',
    'No,Question,Choices,Key,Marks\n1,Sweet?,"a. sugar\nb. salt",a,1\n2,Sour?,"a. lemon\nb. vinegar\nc. honey","a, b",2',
    ['Sweet? | sugar* / salt', 'Sour? | lemon* / vinegar* / honey | 2 points'],
  ],
  [
    'a row for each option',
    'Question;Option;Correct;Feedback\nA starter is?;a culture;1;Yes.\n;a spoon;0;\nWhich are fats?;butter;1;\n;oil;1;\n;flour;0;',
    ['A starter is? | a culture* / a spoon | Yes.', 'Which are fats? | butter* / oil* / flour'],
  ],
  [
    'a mark beside each option, named after it',
    'Question,Points,A,A correct,B,B correct,C,C correct\nPick fruit,2,apple,TRUE,leek,FALSE,pear,TRUE\nPick fish,1,cod,yes,cow,no,hen,no',
    ['Pick fruit | apple* / leek / pear* | 2 points', 'Pick fish | cod* / cow / hen'],
  ],
  [
    'a reason for each option, behind all of them',
    'Item,Key,Option A,Option B,Option C,Rationale A,Rationale B,Rationale C\nHottest?,B,Slow,Deck,Proofer,No: 150,Yes: 260,No: 30',
    ['Hottest? | Slow (No: 150) / Deck* (Yes: 260) / Proofer (No: 30)'],
  ],
  [
    'a word in front of every question',
    'Question: Which bread is flat?,pita,loaf,bun,pita\nQuestion: Which bread is long?,roll,bun,baguette,baguette',
    ['Which bread is flat? | pita* / loaf / bun', 'Which bread is long? | roll / bun / baguette*'],
  ],
  ['a line that says the sign between cells', 'sep=;\nQuestion;A;B;Key\nWhich?;one, two;three;A', ['Which? | one, two* / three']],
  [
    'numbers with a tolerance',
    'Question,Kind,Answer,Tolerance\nHydration?,number,70,2\nHalf of it?,number,"0,5",',
    ['Hydration? | = 68..72', 'Half of it? | = 0.5'],
  ],
  [
    'Italian, true and false as the heading says',
    'Affermazione;vero=1/falso=0\nIl sale rallenta il lievito.;1\nIl riso contiene glutine.;0\nIl pane di segale è scuro.;1',
    ['Il sale rallenta il lievito. | = true', 'Il riso contiene glutine. | = false', 'Il pane di segale è scuro. | = true'],
  ],
  [
    'a column for true and one for false',
    'Statement,True,False\nSalt draws water out.,x,\nRice contains gluten.,,x',
    ['Salt draws water out. | = true', 'Rice contains gluten. | = false'],
  ],
  [
    'questions with their options in one cell each',
    'Nr;Aufgabe;Lösung\n1;"Welches Mehl hat Kleber?\na) Reismehl\nb) Weizenmehl";b\n2;"Was macht Baiser steif?\na) Eischnee\nb) Sahne";a',
    ['Welches Mehl hat Kleber? | Reismehl / Weizenmehl*', 'Was macht Baiser steif? | Eischnee* / Sahne'],
  ],
  [
    'two questions in a row',
    'Question 1,Answer 1,Question 2,Answer 2\nWhat makes bread rise?,gas,What is the fifth taste?,umami\nWhat does yeast eat?,sugar,At how many degrees does water boil?,100',
    ['What makes bread rise? | = gas', 'What is the fifth taste? | = umami', 'What does yeast eat? | = sugar', 'At how many degrees does water boil? | = 100'],
  ],
  [
    'two languages side by side: each is read by itself',
    'No,Question (EN),Question (DE),Option A (EN),Option A (DE),Option B (EN),Option B (DE),Key\n1,Which flour has gluten?,Welches Mehl hat Kleber?,rice,Reis,wheat,Weizen,B\n2,What is sweet?,Was ist süß?,sugar,Zucker,salt,Salz,A',
    ['Which flour has gluten? | rice / wheat*', 'What is sweet? | sugar* / salt', 'Welches Mehl hat Kleber? | Reis / Weizen*', 'Was ist süß? | Zucker* / Salz'],
  ],
  [
    'a heading says that the first option is right',
    'Question,Answer (correct first),,\nWhich sauce starts with a roux?,velouté,pesto,aioli\nWhat makes meringue stiff?,egg white,butter,cream',
    ['Which sauce starts with a roux? | velouté* / pesto / aioli', 'What makes meringue stiff? | egg white* / butter / cream'],
  ],
  [
    'groups above the headings, options and keys in Roman numbers, the table from the second column on',
    ',Quiz 4,,,,\n,,,,,\n,#,Prompt,Possible answers,,Correct\n,,,i,ii,\n,1,Which sauce starts with a roux?,pesto,velouté,ii\n,2,What makes meringue stiff?,egg white,butter,i',
    ['Which sauce starts with a roux? | pesto / velouté*', 'What makes meringue stiff? | egg white* / butter'],
  ],
  [
    'a row that explains the columns is no item',
    'question,option_a,option_b,correct,score\nthe text of the question,first option,second option (optional),a or b,number of points\nWhich starts with a roux?,pesto,velouté,b,1\nWhat is stiff?,butter,egg white,b,2',
    ['Which starts with a roux? | pesto / velouté*', 'What is stiff? | butter / egg white* | 2 points'],
  ],
  [
    'options below their question, letters beside them',
    'Q,Text,Answer?\n1,Which sauce starts with a roux?,\na,pesto,\nb,velouté,✓\n2,What makes meringue stiff?,\na,egg white,✓\nb,butter,',
    ['Which sauce starts with a roux? | pesto / velouté*', 'What makes meringue stiff? | egg white* / butter'],
  ],
  [
    'options a column further and below, no headings',
    'Which sauce starts with a roux?,,\n,pesto,0\n,velouté,1\nWhat makes meringue stiff?,,\n,egg white,1\n,butter,0',
    ['Which sauce starts with a roux? | pesto / velouté*', 'What makes meringue stiff? | egg white* / butter'],
  ],
  [
    'rows that only go on from the row above',
    'No.,Question,A,B,Key\n1,Which sauce starts with a roux and,pesto,velouté,B\n,is served with white meat?,,,\n2,What is stiff?,butter,"egg white, beaten until",B\n,,,it stands in peaks,\n3,Where is saffron from?,a root,a flower,B',
    [
      'Which sauce starts with a roux and is served with white meat? | pesto / velouté*',
      'What is stiff? | butter / egg white, beaten until it stands in peaks*',
      'Where is saffron from? | a root / a flower*',
    ],
  ],
  [
    'keys with words around them',
    'Frage,A,B,C,Antwort\nWelche Soße?,Pesto,Velouté,Aioli,Antwort B\nWas ist steif?,Butter,Eischnee,Sahne,B (Eischnee)\nWoher kommt Safran?,Wurzel,Rinde,Blüte,C - Blüte\nZwei Fette?,Butter,Öl,Mehl,A und B',
    [
      'Welche Soße? | Pesto / Velouté* / Aioli',
      'Was ist steif? | Butter / Eischnee* / Sahne',
      'Woher kommt Safran? | Wurzel / Rinde / Blüte*',
      'Zwei Fette? | Butter* / Öl* / Mehl',
    ],
  ],
  [
    'answers in columns of their own',
    'Prompt,Accept 1,Accept 2\nA wet pre-ferment?,poolish,a poolish\nThe fifth taste?,umami,',
    ['A wet pre-ferment? | = poolish or a poolish', 'The fifth taste? | = umami'],
  ],
  [
    'numbers with unit and tolerance, a share of themselves as well',
    'Aufgabe;Ergebnis;Einheit;±\nWie viel Gramm sind 2 kg?;2000;g;0\nWie lang ist die Seite?;2,5;cm;0,1\nWie schwer ist der Laib?;800;g;10%',
    ['Wie viel Gramm sind 2 kg? | = 2000', 'Wie lang ist die Seite? | = 2.4..2.6', 'Wie schwer ist der Laib? | = 720..880'],
  ],
  [
    'reasons and marks for every option, three columns each',
    'Question,Answer A,✓,Comment A,Answer B,✓,Comment B\nSweet?,salt,,Not at all.,sugar,✔,\nSour?,lemon,✓,,flour,,It is not.',
    ['Sweet? | salt (Not at all.) / sugar*', 'Sour? | lemon* / flour (It is not.)'],
  ],
];

test.each(CASES)('%s', async (_, table, items) => {
  const { set, diagnostics } = await coreFormats.read(utf8(table), 'table.csv');
  expect(set.items.map(told)).toEqual(items);
  expect(diagnostics.filter((d) => d.severity !== 'info')).toEqual([]);
});

test('a key that points nowhere is an error of its row, and no key is made up', async () => {
  const { set, diagnostics } = await coreFormats.read(utf8('Question,A,B,C,Key\nOne?,x,y,z,B\nTwo?,x,y,,C\nThree?,x,y,z,'), 'a.csv');
  expect(set.items.map(told)).toEqual(['One? | x / y* / z', 'Two? | x / y', 'Three? | x / y / z']);
  expect(diagnostics.filter((d) => d.severity === 'error').map((d) => [d.code, d.line])).toEqual([
    ['key-unknown-option', 3],
    ['key-missing', 4],
  ]);
});

test('every row gives an item, belongs to one, or says why not', () => {
  const rows = rowsOf(utf8('Bread,,,\nQuestion,A,B,Key\nPart one,,,\nOne?,x,y,A\n# not this one,,,\nQuestion,A,B,Key\n,x,y,A\nTwo?,x,y,B\n'));
  const sheet = { name: 'Bread', rows, hiddenRows: [7] };
  const mapping = proposeMapping(sheet);
  if (!mapping) throw new Error('no mapping');
  const read = readMapped(sheet, mapping);
  expect(read.rows).toEqual([
    { row: 0, reason: 'above the headings' },
    { row: 1, reason: 'the headings' },
    { row: 2, reason: 'a heading' },
    { row: 3, item: 0 },
    { row: 4, reason: 'a remark' },
    { row: 5, reason: 'the headings again' },
    { row: 6, reason: 'options without a question' },
    { row: 7, reason: 'hidden' },
  ]);
  expect(read.set.sections?.map((s) => s.title)).toEqual(['Part one']);
  expect(readMapped(sheet, { ...mapping, hidden: true }).set.items.length).toBe(2);
  expect(readMapped(sheet, mapping, new Set([6])).set.items.length).toBe(0);
});

test.each([
  ['Frage', 'question'],
  ['Enunciado de la pregunta', 'question'],
  ['Текст вопроса', 'question'],
  ['Option (A)', 'option'],
  ['Réponse 3', 'option'],
  ['Bonne réponse', 'key'],
  ['Correct answer(s)', 'key'],
  ['Wrong answer 2', 'wrong option'],
  ['Feedback (if wrong)', 'feedback wrong'],
  ['Time limit (s)', 'time'],
  ['Author', 'ignore'],
  ['Created', 'ignore'],
  ['Favourite dish', null],
])('the heading “%s” says %s', (heading, use) => {
  expect(useOf(heading)).toBe(use);
});

/** Kinds that options cannot say, by their own words: left = right, steps in order, gaps in order. */
test.each<[string, string, unknown]>([
  [
    'pairs by the number of their task',
    'Task,Instruction,Item,Match\n7,Match each sauce with its base.,velouté,stock\n7,,béchamel,milk\n8,Match each knife with its use.,serrated,bread\n8,,boning,meat',
    [
      [
        ['velouté', 'stock'],
        ['béchamel', 'milk'],
      ],
      [
        ['serrated', 'bread'],
        ['boning', 'meat'],
      ],
    ],
  ],
  [
    'steps with their places',
    'Task,Instruction,Step,Position\n1,Put the steps of a poached egg in order,slip it in,3\n,,boil water,1\n,,add vinegar,2\n2,Put the steps of bread in order,prove,3\n,,mix,1\n,,knead,2',
    [
      ['boil water', 'add vinegar', 'slip it in'],
      ['mix', 'knead', 'prove'],
    ],
  ],
  [
    'steps side by side, in the right order as the heading says',
    'Q,Order the steps,1,2,3\nQ1,Make a loaf,mix,knead,bake\nQ2,Poach an egg,boil water,add vinegar,slip it in',
    [
      ['mix', 'knead', 'bake'],
      ['boil water', 'add vinegar', 'slip it in'],
    ],
  ],
  [
    'gaps in columns of their own, fewer in one row',
    'Satz,Lücke 1,Lücke 2\nBrot braucht ___ und ___.,Mehl,Wasser\nEin Ei hat ___ und ___.,Eiweiß,Dotter\nDer ___ ist heiß.,Ofen,',
    [['Mehl', 'Wasser'], ['Eiweiß', 'Dotter'], ['Ofen']],
  ],
  [
    'gaps as rows of dots, the words in one cell',
    'Texte;Mots;Barème\nUn ………… a cinq côtés et un ………… six.;"pentagone ; hexagone";2\nLa somme vaut ………… degrés.;180;1',
    [['pentagone', 'hexagone'], ['180']],
  ],
])('%s', async (_, table, expected) => {
  const { set } = await coreFormats.read(utf8(table), 'table.csv');
  const parts = set.items.map((i) =>
    i.kind === 'matching'
      ? i.pairs.map((p) => [p.left, p.right])
      : i.kind === 'ordering'
        ? i.sequence
        : i.kind === 'cloze'
          ? i.gaps.map((g) => (g.kind === 'text' ? g.answers.map((a) => a.text).join() : ''))
          : i.kind,
  );
  expect(parts).toEqual(expected);
});

test('rows of which each kind has columns of its own are read as lines of a draft', async () => {
  const table = [
    'MC\tWhat is checked first?\tthe power\tcorrect\tthe invoice\tincorrect',
    'MA\tWhich are output devices?\tprinter\tcorrect\tkeyboard\tincorrect\tscreen\tcorrect',
    'TF\tA shared printer needs an address.\ttrue',
    'FIB\tThe number of a fault is called the ______ number.\tticket\treference',
  ].join('\n');
  const { set } = await coreFormats.read(utf8(table), 'bank.tsv');
  expect(set.items.map((i) => i.kind)).toEqual(['multiple-choice', 'multiple-response', 'true-false', 'cloze']);
  expect(set.items.slice(0, 2).map((i) => ('options' in i ? i.options.map((o) => o.credit) : []))).toEqual([
    [1, 0],
    [1, 0, 1],
  ]);
});

test('a text in which tables stand is a draft', async () => {
  const text =
    '# Quiz\n\n1.\tHow many lines has a staff?\n\ta.\tfour\t\tb.\tfive\n\tc.\tsix\t\td.\tseven\n\n2.\tA sharp sign\n\ta.\traises it\t\tb.\tlowers it\n\nKey\n1\tb\n2\ta\n';
  expect((await coreFormats.open(utf8(text), 'quiz.txt')).as).toBe('draft');
});

test('keys that two explanations say otherwise stay empty and are told; those that both say the same are kept', async () => {
  const table = 'Question,A,B,C,D,Answer\nHow many layers?,2,3,4,1,3\nHow many eggs?,4,2,1,3,2\nHow many minutes?,3,4,2,1,4';
  const { set, diagnostics } = await coreFormats.read(utf8(table), 'table.csv');
  expect(set.items.map(told)).toEqual(['How many layers? | 2 / 3 / 4 / 1', 'How many eggs? | 4 / 2* / 1 / 3', 'How many minutes? | 3 / 4 / 2 / 1']);
  expect(diagnostics.map((d) => [d.code, d.item])).toEqual([0, 2].map((i) => ['key-unsure', set.items[i]?.id]));
  expect(diagnostics[0]?.message).toContain('the key is “4” or, with the columns taken otherwise, “3”');
});

test('what was said while a mapping was found holds against it; all else is as it was found', () => {
  const before = blankMapping(3);
  const now: Mapping = { ...before, columns: ['ignore', 'question', 'ignore'], keyForm: 'numbers' };
  const proposed: Mapping = { ...blankMapping(3), header: 0, columns: ['question', 'option', 'key'], separator: ';' };
  expect(withSaidSince(before, now, proposed)).toEqual({ ...proposed, columns: ['question', 'question', 'key'], keyForm: 'numbers' });
  expect(withSaidSince(before, before, proposed)).toEqual(proposed);
});
