/** Tables in a draft: rows between bars or rows parted by tabs. They hold questions, pairs, or a stem's own table. */
import type { Kind } from '../../item/model.js';
import { field, type FieldName } from '../fields.js';
import { columnOptions, inlineOptions, lettered, numbered, pattern } from '../labels.js';
import { keyLine } from '../keys.js';
import { told, type Line } from '../lines.js';
import { shifted } from '../stretch.js';
import type { Block, Outliner, Piece } from '../outline.js';
import { KIND_NAME, QUESTION } from '../words.js';
import type { Construct } from './construct.js';

interface Row {
  line: Line;
  cells: { from: number; to: number; text: string }[];
}
interface Table {
  rows: Row[];
  /** A line of hyphens parts the first row from the others. */
  headed: boolean;
  /** Lines of the draft that it takes. */
  last: number;
  rules: Line[];
}

const BAR_RULE = /^\s*\|?\s*:?-{2,}:?\s*(?:\|\s*:?-{2,}:?\s*)*\|?\s*$/;

/** The cells of a row between bars; escaped bars are out of reach already. */
function barCells(line: Line): Row['cells'] {
  const t = line.text;
  const out: Row['cells'] = [];
  let from = 0;
  for (let i = 0; i <= t.length; i++) {
    if (i < t.length && t[i] !== '|') continue;
    out.push({ from, to: i, text: t.slice(from, i).trim() });
    from = i + 1;
  }
  if (!out[0]?.text && t.trimStart().startsWith('|')) out.shift();
  if (!out[out.length - 1]?.text && t.trimEnd().endsWith('|')) out.pop();
  return out;
}
function tabCells(line: Line): Row['cells'] {
  const out: Row['cells'] = [];
  let from = 0;
  for (const cell of line.text.split('\t')) {
    out.push({ from, to: from + cell.length, text: cell.trim() });
    from += cell.length + 1;
  }
  return out;
}

const isBarRow = (t: string): boolean => /^\s*\|.*\|/.test(t) || (t.match(/\s\|\s/g)?.length ?? 0) >= 2;
const isTabRow = (t: string): boolean =>
  (t.match(/\t/g)?.length ?? 0) >= 2 &&
  !/^\s*\t/.test(t) &&
  !columnOptions(t).length &&
  keyLine(t) === null &&
  !/\t\s*\p{L}{2,8}:\s/u.test(t) &&
  !/_{3,}|\.{5,}/.test(t);

const rowIn = (t: string): 'bars' | 'tabs' | '' => (isBarRow(t) ? 'bars' : isTabRow(t) ? 'tabs' : '');

/** The table that starts at a line, or null. */
function tableAt(o: Outliner, line: Line): Table | null {
  const kind = told(line, rowIn);
  if (!kind) return null;
  const bars = kind === 'bars';
  const rows: Row[] = [];
  const rules: Line[] = [];
  let headed = false;
  let i = line.index;
  for (; i < o.lines.length; i++) {
    const l = o.lines[i] as Line;
    if (bars && BAR_RULE.test(l.text)) {
      if (rows.length === 1) headed = true;
      rules.push(l);
    } else if (bars ? isBarRow(l.text) || /^\s*\|/.test(l.text) : l.text.includes('\t') && l.text.trim())
      rows.push({ line: l, cells: bars ? barCells(l) : tabCells(l) });
    else break;
  }
  if (rows.length < 2 && !headed) return null;
  if (!bars && rows.length < 2) return null;
  return { rows, headed, last: i - 1, rules };
}

type Column = 'number' | 'stem' | 'option' | 'options' | 'key' | 'kind' | FieldName | '';
const NUMBER_HEAD = /^(?:#|no\.?|nr\.?|n[º°]\.?|num(?:ber|ero|éro)?|№|lp\.?|id)$/i;
const STEM_HEAD = pattern(
  `^(?:(?:${QUESTION})(?: text)?|questions?|statements?|stem|prompt|sentences?|text|enunciado|aussage|satz|énoncé|affirmation|phrase|stelling|zin|zdanie|treść|утверждение|предложение|твердження|речення|ifade|cümle|afirmación|frase|affermazione|afirmação)$`,
);
const OPTION_HEAD = pattern(
  '^(?:[A-H]|(?:option|choice|answer|alternative|distractor|wrong(?: answer)?|incorrect(?: answer)?|opción|antwort|réponse|respuesta|risposta|opção|resposta|antwoord|optie|odpowiedź|opcja|вариант|ответ|варіант|відповідь|seçenek|şık)\\s*\\.?\\s*(?:\\d|[A-H]))$',
);
const OPTIONS_HEAD = pattern(
  '^(?:(?:answer |possible |response )?(?:options|choices|alternatives|answers)|opciones|alternativas|antwortmöglichkeiten|antworten|auswahl|choix|propositions|opções|opzioni|opties|antwoorden|opcje|варианты(?: ответов?)?|варіанти(?: відповідей)?|seçenekler|şıklar)$',
);
const KIND_HEAD = pattern('^(?:type|kind|question type|item type|tipo|typ|тип|tür)$');

function columnOf(head: string): Column {
  const h = head.trim().replace(/[:.]$/, '');
  if (!h) return '';
  if (NUMBER_HEAD.test(h)) return 'number';
  if (OPTION_HEAD.test(h)) return 'option';
  if (OPTIONS_HEAD.test(h)) return 'options';
  if (STEM_HEAD.test(h)) return 'stem';
  if (KIND_HEAD.test(h)) return 'kind';
  if (keyLine(`${h}:`) !== null || KIND_NAME.exec(h)?.[3]) return 'key';
  return field(`${h}:`)?.name ?? '';
}

/** What old upload sheets put in front of a row for its kind. Common practice, no source. */
const KIND_CODES: Readonly<Record<string, Kind>> = {
  MC: 'multiple-choice',
  SC: 'multiple-choice',
  MCQ: 'multiple-choice',
  MA: 'multiple-response',
  MR: 'multiple-response',
  MS: 'multiple-response',
  TF: 'true-false',
  FIB: 'cloze',
  FITB: 'cloze',
  FILL: 'cloze',
  SA: 'short-answer',
  SHORT: 'short-answer',
  NUM: 'numeric',
  NR: 'numeric',
  ORD: 'ordering',
  SEQ: 'ordering',
  MAT: 'matching',
  MATCH: 'matching',
  ESS: 'essay',
  ESSAY: 'essay',
  OPEN: 'essay',
  INFO: 'information',
};
const RIGHT_CELL = /^(?:correct|right|true|yes|richtig|correcto|juste|giusto|certo|goed|1)$/i;
const WRONG_CELL = /^(?:incorrect|wrong|false|no|falsch|incorrecto|faux|sbagliato|errado|fout|0)$/i;

const piece = (row: Row, cell: { from: number; to: number }): Piece => ({ line: row.line.index, from: cell.from, to: cell.to });
const entry = (row: Row, cell: Row['cells'][number], label: string, marked: boolean): Block['entries'][number] => {
  const l = label ? null : lettered(`${cell.text} `);
  return {
    label: label || (l?.letter ?? ''),
    form: 'cell',
    labels: label || l ? 'letter' : 'none',
    pieces: [{ ...piece(row, cell), from: cell.from + (l ? lead(cell, row) + l.at : 0) }],
    marked,
    star: false,
    feedback: [],
  };
};
const lead = (cell: { from: number; to: number }, row: Row): number => {
  const t = row.line.text.slice(cell.from, cell.to);
  return t.length - t.trimStart().length;
};

function openRow(o: Outliner, row: Row, stem: Row['cells'][number], number: string): Block {
  const b = o.open(
    row.line,
    row.line.text.length,
    number ? { label: number, ...(/^\d+$/.test(number) && { number: Number(number) }), form: 'cell' } : { form: 'cell' },
  );
  const n = number ? null : numbered(stem.text);
  if (n) Object.assign(b, { label: n.label, number: n.number });
  b.stem.push({ ...piece(row, stem), from: stem.from + lead(stem, row) + (n?.at ?? 0) });
  b.row = true;
  return b;
}

/** A break between the lines of a cell, out of reach of patterns as all markup is. */
const BREAK = new RegExp([...'<br'].map(shifted).join('') + `${shifted('/')}?` + shifted('>'), 'g');
/** The options that stand in one cell: on lines of their own, else parted by signs. */
function partsOf(cell: Row['cells'][number], row: Row): Row['cells'] {
  const t = row.line.text.slice(cell.from, cell.to);
  const sign = BREAK.test(t) ? BREAK : /;/.test(t) ? /;/g : /\s\/\s/.test(t) ? /\s\/\s/g : /,/g;
  BREAK.lastIndex = 0;
  const inline = inlineOptions(t);
  if (sign !== BREAK && inline.length > 1) return inline.map((o) => ({ from: cell.from + o.start, to: cell.from + o.to, text: t.slice(o.start, o.to).trim() }));
  const out: Row['cells'] = [];
  let from = 0;
  for (const m of [...t.matchAll(sign), { index: t.length, 0: '' }]) {
    if (t.slice(from, m.index).trim()) out.push({ from: cell.from + from, to: cell.from + m.index, text: t.slice(from, m.index).trim() });
    from = m.index + m[0].length;
  }
  return out;
}

/** Questions one a row, under a header that names the columns. */
function questionRows(o: Outliner, t: Table): boolean {
  const head = t.rows[0];
  const columns = head?.cells.map((c) => columnOf(c.text)) ?? [];
  const stemAt = columns.indexOf('stem');
  // "Answers" beside a column that says the key are the options, alone they are the key
  if (!columns.includes('key') && columns.filter((c) => c === 'options').length === 1 && !columns.includes('option')) {
    const at = columns.indexOf('options');
    if (keyLine(`${head?.cells[at]?.text ?? ''}:`) !== null) columns[at] = 'key';
  }
  if (!head || stemAt < 0 || columns.filter(Boolean).length < 2) return false;
  o.block = null;
  o.say(head.line, 'aside', 'columns', 'Names the columns of the table.');
  for (const row of t.rows.slice(1)) {
    const stem = row.cells[stemAt];
    if (!stem?.text) {
      o.aside(row.line, 'A row without a question.');
      continue;
    }
    const b = openRow(o, row, stem, row.cells[columns.indexOf('number')]?.text.replace(/[.)]$/, '') ?? '');
    row.cells.forEach((cell, i) => {
      const column = columns[i] ?? '';
      if (!cell.text || column === 'stem' || column === 'number') return;
      if (column === 'option') {
        const letter = /(?:^|\s)([A-H])$/i.exec(head.cells[i]?.text ?? '')?.[1] ?? '';
        b.entries.push(entry(row, cell, letter, false));
      } else if (column === 'options')
        for (const part of partsOf(cell, row)) b.entries.push({ ...entry(row, part, '', false), labels: lettered(`${part.text} `) ? 'letter' : 'none' });
      else if (column === 'key') b.keys.push({ line: row.line.index, pieces: [piece(row, cell)], feedback: [] });
      else if (column === 'kind') b.fields.push({ name: 'kind', line: row.line.index, pieces: [piece(row, cell)] });
      else b.fields.push({ name: column || 'tags', line: row.line.index, pieces: [piece(row, cell)] });
    });
    o.say(row.line, 'question', b.label ?? String(o.blocks.length), 'A row of a table of questions.');
  }
  o.block = null;
  return true;
}

/** Rows that start with a code for their kind. */
function codedRows(o: Outliner, t: Table): boolean {
  if (!t.rows.every((r) => r.cells.length >= 2 && Object.hasOwn(KIND_CODES, (r.cells[0]?.text ?? '').toUpperCase()))) return false;
  o.block = null;
  for (const row of t.rows) {
    const [code, stem, ...rest] = row.cells.filter((c, i) => c.text || i < 2);
    if (!stem) continue;
    const kind = KIND_CODES[(code?.text ?? '').toUpperCase()] ?? 'essay';
    const b = openRow(o, row, stem, '');
    b.kind = kind;
    const paired = rest.length > 1 && rest.every((c, i) => i % 2 === 0 || RIGHT_CELL.test(c.text) || WRONG_CELL.test(c.text));
    if ((kind === 'multiple-choice' || kind === 'multiple-response') && paired)
      rest.forEach((c, i) => i % 2 === 0 && b.entries.push(entry(row, c, '', RIGHT_CELL.test(rest[i + 1]?.text ?? ''))));
    else if (kind === 'multiple-choice' || kind === 'multiple-response') {
      rest.slice(0, -1).forEach((c) => b.entries.push(entry(row, c, '', false)));
      const last = rest[rest.length - 1];
      if (last) b.keys.push({ line: row.line.index, pieces: [piece(row, last)], feedback: [] });
    } else if (kind === 'ordering') rest.forEach((c, i) => b.entries.push({ ...entry(row, c, String(i + 1), false), labels: 'number' }));
    else if (kind === 'matching') {
      for (let i = 0; i + 1 < rest.length; i += 2)
        b.pairs.push({ left: [piece(row, rest[i] as Row['cells'][number])], right: [piece(row, rest[i + 1] as Row['cells'][number])] });
    } else {
      if (kind === 'numeric' && rest[1]) b.tolerance = [piece(row, rest[1])];
      for (const c of kind === 'numeric' ? rest.slice(0, 1) : rest) b.keys.push({ line: row.line.index, pieces: [piece(row, c)], feedback: [] });
    }
    o.say(row.line, 'question', String(o.blocks.length), `A row that says its kind (${code?.text ?? ''}) in front.`);
  }
  o.block = null;
  return true;
}

/** Rows without a header: a question, its options, and a last cell that names one of them. */
function bareRows(o: Outliner, t: Table): boolean {
  if (o.block && !o.complete(o.block) && o.kindOf(o.block) !== undefined) return false;
  const shaped = t.rows.filter((r) => {
    const full = r.cells.filter((c) => c.text);
    const last = full[full.length - 1]?.text ?? '';
    const first = /^\d+[.)]?$/.test(full[0]?.text ?? '') ? 1 : 0;
    const options = full.slice(first + 1, -1).map((c) => c.text.toLowerCase());
    return full.length >= first + 4 && (/^[A-Ha-h1-8]$/.test(last) || options.includes(last.toLowerCase()));
  });
  if (shaped.length < 2 || shaped.length < t.rows.length * 0.8) return false;
  o.block = null;
  for (const row of t.rows) {
    const full = row.cells.filter((c) => c.text);
    const first = /^\d+[.)]?$/.test(full[0]?.text ?? '') ? 1 : 0;
    const stem = full[first];
    const last = full[full.length - 1];
    if (!stem || !last || full.length < first + 3) {
      o.aside(row.line, 'A row that has not the columns of the others.');
      continue;
    }
    const b = openRow(o, row, stem, first ? (full[0]?.text.replace(/[.)]$/, '') ?? '') : '');
    for (const c of full.slice(first + 1, -1)) b.entries.push(entry(row, c, '', false));
    b.keys.push({ line: row.line.index, pieces: [piece(row, last)], feedback: [] });
    o.say(row.line, 'question', b.label ?? String(o.blocks.length), 'A row with a question, its options and a key.');
  }
  o.block = null;
  return true;
}

/** Two columns under a question that asks to match. */
function pairRows(o: Outliner, t: Table): boolean {
  const b = o.block;
  if (!b || o.kindOf(b) !== 'matching' || b.keys.length || t.rows.some((r) => r.cells.length > 3)) return false;
  t.rows.forEach((row, i) => {
    const [left, right, ...more] = row.cells;
    if ((i === 0 && t.headed) || /^column\s/i.test(left?.text ?? '') || more.some((c) => c.text)) {
      o.say(row.line, 'pair', '', 'Names the columns.');
      return;
    }
    b.pairs.push({ left: left ? [piece(row, left)] : [], right: right ? [piece(row, right)] : [] });
    o.say(row.line, 'pair', '⇄', 'A row of a table under a question that asks to match.');
  });
  return true;
}

/** A table that belongs to the stem. */
function stemTable(o: Outliner, t: Table): boolean {
  const b = o.block;
  if (!b || b.keys.length || b.entries.length) return false;
  t.rows.forEach((row, i) => {
    for (const c of row.cells) b.stem.push({ ...piece(row, c), row: i });
    o.say(row.line, 'question', '', 'A table inside the question.');
  });
  return true;
}

export const tables: Construct = {
  name: 'table',
  read(o, line) {
    const table = tableAt(o, line);
    if (!table) return false;
    const read = pairRows(o, table) || questionRows(o, table) || codedRows(o, table) || bareRows(o, table) || (isBarRow(line.text) && stemTable(o, table));
    if (!read) {
      if (!isBarRow(line.text) || told(line, numbered)) return false;
      for (const row of table.rows) o.aside(row.line, 'A table that holds no questions.');
    }
    for (const rule of table.rules) o.say(rule, 'aside', '', 'Parts the rows of a table.');
    o.taken = table.last + 1;
    return true;
  },
};
