// Writes the tables of docs/formats.md from the code: what each format makes of each kind and each field.
//   node scripts/formats-doc.mjs [--check]   with --check: says whether the tables are those of the code, and changes nothing
import fs from 'node:fs';
import path from 'node:path';
import { build, root } from './install.mjs';

await build();
const { fit, kinds, setLosses } = await import(path.join(root, 'packages/core/dist/index.js'));
const { allFormats } = await import(path.join(root, 'packages/documents/dist/index.js'));

const option = (id, content, credit, more = {}) => ({ id, content, credit, ...more });
const match = { caseSensitive: false, spaces: 'collapse', punctuation: 'keep', accents: 'keep', numbersAsValues: true, anyOrder: true, spelling: 0 };
/** One plain item of each kind, with a complete key. */
const items = {
  'multiple-choice': { options: [option('a', 'flour', 1), option('b', 'salt', 0)] },
  'multiple-response': { scoring: 'all-or-nothing', options: [option('a', 'lentils', 1), option('b', 'beans', 1), option('c', 'rice', 0)] },
  'true-false': { answer: true },
  'short-answer': { answers: [{ text: 'levain', credit: 1 }], match },
  numeric: { answers: [{ min: 4, max: 5, credit: 1 }] },
  cloze: {
    stem: 'A [[1]] rests in a [[2]].',
    gaps: [
      { id: '1', kind: 'text', points: 1, answers: [{ text: 'dough', credit: 1 }] },
      { id: '2', kind: 'choice', points: 1, options: [option('a', 'bowl', 1), option('b', 'cup', 0)] },
    ],
  },
  matching: {
    pairs: [
      { left: 'water', right: 'wet' },
      { left: 'flour', right: 'dry' },
    ],
    extraRights: [],
  },
  ordering: { sequence: ['mix', 'rest', 'bake'] },
  essay: {},
  information: { points: 0 },
};
const item = (kind, more = {}) => ({ id: 'x', kind, stem: 'What is it?', points: 1, label: '1', ...items[kind], ...more });
/** One item for each field of the model. */
const fields = [
  ['points', item('true-false', { points: 2 })],
  ['number of its own', item('true-false', { label: '3a' })],
  ['title', item('true-false', { title: 'Starters' })],
  ['feedback, always', item('multiple-choice', { feedback: { general: 'See page 3.' } })],
  ['feedback, right and wrong', item('short-answer', { feedback: { correct: 'Yes.', incorrect: 'No.' } })],
  ['feedback of options', item('multiple-choice', { options: [option('a', 'flour', 1, { feedback: 'Yes.' }), option('b', 'salt', 0)] })],
  ['feedback of typed answers', item('short-answer', { answers: [{ text: 'levain', credit: 1, feedback: 'Yes.' }] })],
  ['hints', item('true-false', { hints: ['Think of it.'] })],
  ['tags', item('true-false', { tags: ['yeast'] })],
  ['outcomes', item('true-false', { outcomes: ['Explains proofing'] })],
  ['level', item('true-false', { level: { bloom: 'apply', depth: 2, difficulty: 0.4 } })],
  ['bonus', item('true-false', { bonus: true })],
  ['required', item('true-false', { required: true })],
  ['shuffle', item('multiple-choice', { shuffle: true })],
  ['option that stays put', item('multiple-choice', { options: [option('a', 'flour', 1), option('b', 'none', 0, { pinned: true })] })],
  ['language of its own', item('true-false', { language: 'es' })],
  ['time limit', item('true-false', { timeLimit: 30 })],
  ['part credit', item('multiple-choice', { options: [option('a', 'flour', 1), option('b', 'bran', 0.5), option('c', 'salt', 0)] })],
  ['negative credit', item('multiple-choice', { options: [option('a', 'flour', 1), option('c', 'salt', -0.5)] })],
  ['per-option scoring', item('multiple-response', { scoring: 'per-option', options: [option('a', 'x', 1), option('b', 'y', 1), option('c', 'z', 0)] })],
  ['right minus wrong', item('multiple-response', { scoring: 'right-minus-wrong', options: [option('a', 'x', 1), option('b', 'y', 1), option('c', 'z', 0)] })],
  ['weights', item('multiple-response', { scoring: 'weights', options: [option('a', 'x', 0.75), option('b', 'y', 0.25), option('c', 'z', -0.5)] })],
  ['capitals count', item('short-answer', { answers: [{ text: 'pH', credit: 1 }], match: { ...match, caseSensitive: true } })],
  ['numbers as values', item('short-answer', { answers: [{ text: '1/2', credit: 1 }] })],
  ['list in any order', item('short-answer', { answers: [{ text: 'salt, water', credit: 1 }] })],
  ['accents ignored', item('short-answer', { match: { ...match, accents: 'ignore' } })],
  ['spelling forgiven', item('short-answer', { match: { ...match, spelling: 1 } })],
  ['range of numbers', item('numeric')],
  ['unit', item('numeric', { unit: 'g' })],
  ['gaps that count differently', item('cloze', { gaps: [{ ...items.cloze.gaps[0], points: 2 }, items.cloze.gaps[1]] })],
  ['words to choose from', item('cloze', { wordBank: ['dough', 'bowl'] })],
  ['more right sides', item('matching', { extraRights: ['hot'] })],
  ['model answer', item('essay', { modelAnswer: 'Because.' })],
  ['rubric', item('essay', { rubric: 'Two reasons.' })],
  ['lines to write on', item('essay', { lines: 6 })],
  ['bold, lists, tables', item('true-false', { stem: '<p>A <strong>table</strong></p><ul><li>x</li></ul>' })],
  ['formulas (TeX)', item('true-false', { stem: '\\(x^2\\)' })],
  ['pictures', item('true-false', { stem: `<p><img src="asset:${'a'.repeat(64)}" alt="a loaf"/></p>` })],
  ['title of a part', item('true-false', { section: 's1' }), [{ id: 's1', title: 'Part A' }]],
  ['instructions', item('true-false', { section: 's1' }), [{ id: 's1', title: 'A', instructions: 'Take your time.' }]],
  ['passage', item('true-false', { section: 's1' }), [{ id: 's1', title: 'A', passage: 'A loaf is baked.' }]],
];
const assets = { ['a'.repeat(64)]: { mediaType: 'image/png', name: 'a.png', data: '' } };

const columns = [
  ['GIFT', 'gift'],
  ['QTI 1.2', 'qti12'],
  ['QTI 2.1, 2.2, 3.0', 'qti21'],
  ['Common Cartridge', 'cc13'],
  ['Table, a row each item', 'csv'],
  ['Sheet of choices', 'csv-choices'],
  ['Paper (DOCX)', 'docx-paper'],
  ['Paper (HTML, Markdown)', 'html'],
  ['Notation', 'text'],
  ['Set file', 'set'],
].map(([name, id]) => ({ name, profile: allFormats.formats.find((f) => f.id === id).profile }));

const fitted = (it, profile, sections) => fit(it, profile, { title: 'T', items: [it], assets, ...(sections && { sections }) });
/** One cell: what is said of the item beyond what is said of any item of its kind. */
const cell = (it, profile, sections, known) => {
  const f = fitted(it, profile, sections);
  if (!f.items.length) return `**stays**: ${f.notes[0].brief}`;
  const notes = f.notes.filter((n) => !known.includes(n.message));
  return notes.length ? [...new Set(notes.map((n) => n.brief))].join(', ') : 'yes';
};
const table = (head, rows, beyondKind) =>
  [
    `| ${[head, ...columns.map((c) => c.name)].join(' | ')} |`,
    `|${' --- |'.repeat(columns.length + 1)}`,
    ...rows.map(([name, it, sections]) => {
      const known = (profile) => [
        ...fitted(item('true-false'), profile)
          .notes.filter((n) => n.minor && name !== 'number of its own')
          .map((n) => n.message),
        ...(beyondKind && !/scoring|right minus wrong|weights/.test(name)
          ? fitted(item(it.kind), profile)
              .notes.filter((n) => !n.minor)
              .map((n) => n.message)
          : []),
      ];
      return `| ${[name, ...columns.map(({ profile }) => cell(it, profile, sections, known(profile)))].join(' | ')} |`;
    }),
  ].join('\n');

/** What the set itself says, and whether it goes along. */
const ofSet = Object.entries({ title: 'T', description: '<p>A <strong>week</strong> of bread.</p>', language: 'de', translations: { es: {} } }).map(
  ([field, value]) => {
    const lost = (profile) => setLosses({ title: '', items: [], [field]: value }, profile).find((l) => l.field === field);
    return `| ${[field === 'translations' ? field : `${field} of the set`, ...columns.map(({ profile }) => lost(profile)?.brief ?? 'yes')].join(' | ')} |`;
  },
);

const generated = {
  kinds: table(
    'kind',
    Object.keys(items).map((k) => [kinds[k].name, item(k)]),
    false,
  ),
  fields: [table('field', fields, true), ...ofSet].join('\n'),
  formats: [
    '| id | name | read | written |',
    '| --- | --- | --- | --- |',
    ...allFormats.formats.map(
      (f) =>
        `| \`${f.id}\` | ${f.name} | ${f.read || /^(qti|cc)/.test(f.id) ? 'yes' : f.id === 'text' || f.id === 'markdown' ? 'as a draft' : '–'} | ${f.write ? 'yes' : '–'} |`,
    ),
  ].join('\n'),
};

const file = path.join(root, 'docs/formats.md');
const before = fs.readFileSync(file, 'utf8');
const after = Object.entries(generated).reduce(
  (text, [name, content]) => text.replace(new RegExp(`(<!-- ${name} -->\n)[\\s\\S]*?(\n<!-- end -->)`), (_, a, b) => a + content + b),
  before,
);
if (process.argv.includes('--check')) {
  if (before === after) process.exit(0);
  console.log('docs/formats.md does not say what the code does: run node scripts/formats-doc.mjs');
  process.exit(1);
}
fs.writeFileSync(file, after);
