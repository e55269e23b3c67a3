/** Records in JSON (RFC 8259) under whatever names people and programs give them. All content is made up. */
import fc from 'fast-check';
import { ReadError } from '../../item/readError.js';
import { utf8 } from '../encoding.js';
import { coreFormats } from '../index.js';
import { writtenOut } from '../writtenOut.js';
import { recordsIn } from './records.js';

/** Each question in a line: its stem, its options with the key starred, or its answers. */
async function read(json: string, name = 'questions.json'): Promise<string[]> {
  const { set } = await coreFormats.read(utf8(json), name);
  return set.items.map((i) => {
    const said =
      'options' in i
        ? i.options.map((o) => `${o.credit > 0 ? '*' : ''}${o.content}${o.feedback ? ` (${o.feedback})` : ''}`).join(', ')
        : i.kind === 'matching'
          ? i.pairs.map((p) => `${p.left}=${p.right}`).join(', ')
          : i.kind === 'true-false'
            ? String(i.answer)
            : i.kind === 'short-answer'
              ? i.answers.map((a) => a.text).join(' / ')
              : i.kind === 'numeric'
                ? i.answers.map((a) => a.min).join(' / ')
                : i.kind;
    return `${i.stem} ${said}${i.points === 1 ? '' : ` (${i.points})`}${i.feedback?.general ? ` because ${i.feedback.general}` : ''}`;
  });
}
const options = '"options": ["leek", "rye", "salt"]';

test.each([
  ['words of the option', `[{"question": "A grain?", ${options}, "answer": "rye"}]`, ['A grain? leek, *rye, salt']],
  ['a letter', `[{"question": "A grain?", ${options}, "correct_answer": "B"}]`, ['A grain? leek, *rye, salt']],
  ['letters', `[{"prompt": "Plants?", ${options}, "correctAnswers": ["A", "B"]}]`, ['Plants? *leek, *rye, salt']],
  [
    'options by letter',
    '[{"stem": "A grain?", "choices": {"A": "leek", "B": "rye"}, "key": "B", "explanation": "Of course."}]',
    ['A grain? leek, *rye because Of course.'],
  ],
  [
    'options with labels in their words',
    '[{"Pregunta": "¿Un cereal?", "Opciones": ["a) puerro", "b) centeno"], "Respuesta correcta": "b) centeno"}]',
    ['¿Un cereal? puerro, *centeno'],
  ],
  ['an index', `[{"question": "A grain?", ${options}, "correctIndex": 1}]`, ['A grain? leek, *rye, salt']],
  ['an index that is an option itself', '[{"question": "3 + 1?", "options": ["3", "4"], "answer": "4"}]', ['3 + 1? 3, *4']],
  [
    'options that say it of themselves, and why',
    '[{"questionText": "A grain?", "answerOptions": [{"answerText": "leek", "isCorrect": false, "rationale": "a vegetable"}, {"answerText": "rye", "isCorrect": true}]}]',
    ['A grain? leek (a vegetable), *rye'],
  ],
  [
    'wrong answers by themselves',
    '[{"q": "A grain?", "correct": "rye", "incorrect_answers": ["leek", "salt"], "points": 2}]',
    ['A grain? *rye, leek, salt (2)'],
  ],
  [
    'options as fields',
    '[{"question": "A grain?", "option_a": "leek", "option_b": "rye", "answer": "b"}, {"question": "A fat?", "option_a": "lard", "option_b": "rye", "answer": "a"}]',
    ['A grain? leek, *rye', 'A fat? *lard, rye'],
  ],
  [
    'true and false',
    '[{"question": "Salt is sweet.", "type": "true_false", "answer": false}, {"question": "Yeast lives.", "type": "true_false", "answer": true}]',
    ['Salt is sweet. false', 'Yeast lives. true'],
  ],
  [
    'several wordings',
    '[{"question": "What gas makes dough rise?", "answer": ["carbon dioxide", "CO2"]}]',
    ['What gas makes dough rise? carbon dioxide / CO2'],
  ],
  [
    'pairs',
    '[{"question": "Match.", "pairs": {"whisk": "to beat", "peeler": "to peel"}}, {"question": "A grain?", "answer": "rye"}]',
    ['Match. whisk=to beat, peeler=to peel', 'A grain? rye'],
  ],
  [
    'a list somewhere inside',
    `{"quiz": {"title": "Bread", "parts": [{"name": "A", "items": [{"question": "A grain?", ${options}, "answer": "rye"}]}]}}`,
    ['A grain? leek, *rye, salt'],
  ],
  [
    'records by name',
    `{"q1": {"question": "A grain?", ${options}, "answer": "rye"}, "q2": {"question": "A herb?", ${options}, "answer": "leek"}}`,
    ['A grain? leek, *rye, salt', 'A herb? *leek, rye, salt'],
  ],
])('keys as %s', async (_, json, items) => {
  expect(await read(json)).toEqual(items);
});

test('places without a word for it count from 0 or 1 where the lists show which, and are no keys where they do not', async () => {
  const two = (a: number, b: number): string => `[{"question": "A grain?", ${options}, "answer": ${a}}, {"question": "A herb?", ${options}, "answer": ${b}}]`;
  expect(await read(two(1, 0))).toEqual(['A grain? leek, *rye, salt', 'A herb? *leek, rye, salt']);
  expect(await read(two(2, 3))).toEqual(['A grain? leek, *rye, salt', 'A herb? leek, rye, *salt']);
  const { set, diagnostics } = await coreFormats.read(utf8(two(1, 2)), 'questions.json');
  expect(set.items.every((i) => 'options' in i && i.options.every((o) => o.credit === 0))).toBe(true);
  expect(diagnostics.filter((d) => d.code === 'key-missing')).toHaveLength(2);
});

test('a record on each line, and records within what an assistant says around them', async () => {
  const one = `{"question": "A grain?", ${options}, "answer": "rye"}`;
  expect(await read(`${one}\n${one}\n`, 'questions.jsonl')).toHaveLength(2);
  const reply = `Here you are:\n\n\`\`\`json\n[${one}]\n\`\`\`\nTell me if you want more.`;
  expect(writtenOut(reply)?.text).toBe('1. A grain?\nA) leek\nB) rye *\nC) salt\n');
  const opened = await coreFormats.open(utf8(reply), 'reply.txt');
  expect(opened).toMatchObject({ as: 'draft', text: '1. A grain?\nA) leek\nB) rye *\nC) salt\n', notes: ['1 question in JSON was written out as a draft.'] });
});

test('what holds no questions says what is needed, and text with brackets stays a draft', async () => {
  await expect(coreFormats.read(utf8('{"name": "oven", "version": "1.0"}'), 'oven.json')).rejects.toThrow(ReadError);
  expect(recordsIn('1. Salt is [sweet] {no}: "true"?')).toBeNull();
  expect(writtenOut('1. A grain?\na) leek\nb) rye *\n\n2. Write {"question": "x", "answer": "y"} in JSON.')).toBeNull();
});

test('any value in JSON is read or refused, and never fails', () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.constantFrom('question', 'q', 'items'), (value, name) => {
      const sheet = recordsIn(JSON.stringify([{ [name]: 'What?', answer: value, options: value }]));
      for (const row of sheet?.rows ?? []) expect(row).toHaveLength(sheet?.rows[0]?.length ?? 0);
    }),
  );
});
