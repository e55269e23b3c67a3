/** Rows of tables as questions: under a header that names the columns, with a code for the kind, or by their shape. */
import { inlineOptions, lettered, numbered } from '../../language/labels.js';
import type { Line } from '../surface/lines.js';
import type { Block, Piece, Role } from '../model/outline.js';
import { shifted } from '../surface/stretch.js';
import { KIND_CODES } from '../../item/kindCodes.js';
import { codeAt, tableReading } from '../signs/tableReading.js';
import type { Cell, Row, TableBlock } from '../surface/tables.js';

/** How the questions of a table get into the outline. */
export interface TableWriter {
  open(line: Line, label: { label?: string; number?: number; form?: string }): Block;
  say(line: Line, role: Role, mark: string, reason: string): void;
}

const RIGHT_CELL = /^(?:correct|right|true|yes|richtig|correcto|juste|giusto|certo|goed|1)$/i;
const WRONG_CELL = /^(?:incorrect|wrong|false|no|falsch|incorrecto|faux|sbagliato|errado|fout|0)$/i;
const WRONG_HEAD = /^(?:wrong|incorrect|distractor|falsche?|incorrecta?|fausse|errata|sbagliata|errada|fout|błędna|неверн\p{L}*|неправильн\p{L}*|yanlış)/iu;
const NUMBER = /^(?:q\.?\s*|#|no\.?\s*)?(\d{1,3}[a-h]?)[.):]?$/i;

const piece = (row: Row, cell: { from: number; to: number }): Piece => ({ line: row.line.index, from: cell.from, to: cell.to });
const lead = (cell: { from: number; to: number }, row: Row): number => {
  const t = row.line.text.slice(cell.from, cell.to);
  return t.length - t.trimStart().length;
};
function entry(row: Row, cell: Cell, label: string, marked: boolean): Block['entries'][number] {
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
}

/** A break between the lines of a cell, out of reach of patterns as all markup is. */
const BREAK = new RegExp([...'<br'].map(shifted).join('') + `${shifted('/')}?` + shifted('>'), 'g');
/** The options that stand in one cell: on lines of their own, else parted by signs. */
function partsOf(cell: Cell, row: Row): Cell[] {
  const t = row.line.text.slice(cell.from, cell.to);
  const sign = BREAK.test(t) ? BREAK : /;/.test(t) ? /;/g : /\s\/\s/.test(t) ? /\s\/\s/g : /\s\|\s/.test(t) ? /\s\|\s/g : /,/g;
  BREAK.lastIndex = 0;
  const inline = inlineOptions(t);
  if (sign !== BREAK && inline.length > 1) {
    // a sign that parts the options is none of their words
    const parted = inline.slice(0, -1).every((o) => /[;,|/]\s*$/.test(t.slice(o.start, o.to)));
    const endOf = (o: { start: number; to: number }): number => o.start + t.slice(o.start, o.to).replace(parted ? /\s*[;,|/]?\s*$/ : /\s*$/, '').length;
    return inline.map((o) => ({ from: cell.from + o.start, to: cell.from + endOf(o), text: t.slice(o.start, endOf(o)) }));
  }
  const out: Cell[] = [];
  let from = 0;
  for (const m of [...t.matchAll(sign), { index: t.length, 0: '' }]) {
    if (t.slice(from, m.index).trim()) out.push({ from: cell.from + from, to: cell.from + m.index, text: t.slice(from, m.index).trim() });
    from = m.index + m[0].length;
  }
  return out;
}

/** Makes the questions of a table. */
export function questionTable(t: TableBlock, use: string, w: TableWriter): void {
  let count = 0;
  const openRow = (row: Row, stem: Cell, number: string): Block => {
    const said = NUMBER.exec(number)?.[1] ?? number;
    const b = w.open(row.line, said ? { label: said, ...(/^\d+/.test(said) && { number: parseInt(said, 10) }), form: 'cell' } : { form: 'cell' });
    const n = said ? null : numbered(stem.text);
    if (n) Object.assign(b, { label: n.label, number: n.number });
    b.stem.push({ ...piece(row, stem), from: stem.from + lead(stem, row) + (n?.at ?? 0) });
    b.row = true;
    count++;
    return b;
  };
  if (use === 'questions') byColumns(t, openRow, w);
  else if (use === 'coded') coded(t, openRow, w);
  else
    for (const row of t.rows) {
      const full = row.cells.filter((c) => c.text);
      const first = NUMBER.test(full[0]?.text ?? '') ? 1 : 0;
      const stem = full[first];
      const last = full[full.length - 1];
      if (!stem || !last || full.length < first + (use === 'cards' ? 2 : 3)) {
        w.say(row.line, 'aside', 'aside', 'A row that has not the columns of the others.');
        continue;
      }
      const b = openRow(row, stem, first ? (full[0]?.text ?? '') : '');
      if (use === 'cards') {
        const answer = full[first + 1] as Cell;
        b.keys.push({ line: row.line.index, pieces: [piece(row, answer)], feedback: [] });
      } else {
        for (const c of full.slice(first + 1, -1)) b.entries.push(entry(row, c, '', false));
        b.keys.push({ line: row.line.index, pieces: [piece(row, last)], feedback: [] });
      }
      w.say(row.line, 'question', b.label ?? String(count), 'A row with a question, its options and a key.');
    }
}

type Open = (row: Row, stem: Cell, number: string) => Block;

function byColumns(t: TableBlock, open: Open, w: TableWriter): void {
  const { columns } = tableReading(t);
  const head = t.rows[0];
  const stemAt = columns.indexOf('stem');
  if (!head) return;
  w.say(head.line, 'aside', 'columns', 'Names the columns of the table.');
  for (const row of t.rows.slice(1)) {
    const stem = row.cells[stemAt];
    if (!stem?.text) {
      w.say(row.line, 'aside', 'aside', 'A row without a question.');
      continue;
    }
    const b = open(row, stem, row.cells[columns.indexOf('number')]?.text ?? '');
    const options = row.cells.flatMap((c, i) => ((columns[i] ?? '') === 'option' && c.text ? [c.text.toLowerCase()] : []));
    // beside wrong answers the right one is an option itself
    const right = (c: Cell): boolean =>
      options.length > 0 && !options.includes(c.text.toLowerCase()) && !/^[A-Ha-h1-9][.)]?$/.test(c.text) && head.cells.some((h) => WRONG_HEAD.test(h.text));
    row.cells.forEach((cell, i) => {
      const column = columns[i] ?? '';
      if (column === 'true' || column === 'false') b.kind = 'true-false';
      if (!cell.text || column === 'stem' || column === 'number') return;
      if (column === 'true' || column === 'false') {
        b.keys.push({ line: row.line.index, pieces: [piece(row, cell)], feedback: [], truth: column === 'true' });
        return;
      }
      if (column === 'option') {
        const letter = /(?:^|\s)([A-H])$/i.exec(head.cells[i]?.text ?? '')?.[1] ?? '';
        b.entries.push(entry(row, cell, letter, false));
      } else if (column === 'options')
        for (const part of partsOf(cell, row)) b.entries.push({ ...entry(row, part, '', false), labels: lettered(`${part.text} `) ? 'letter' : 'none' });
      else if (column === 'key' && right(cell)) b.entries.push(entry(row, cell, '', true));
      else if (column === 'key') b.keys.push({ line: row.line.index, pieces: [piece(row, cell)], feedback: [] });
      else if (column === 'kind') b.fields.push({ name: 'kind', line: row.line.index, pieces: [piece(row, cell)] });
      else b.fields.push({ name: column === 'reason' ? 'feedback' : column || 'tags', line: row.line.index, pieces: [piece(row, cell)] });
    });
    w.say(row.line, 'question', b.label ?? '', 'A row of a table of questions.');
  }
}

/** Rows that start with a code for their kind. */
function coded(t: TableBlock, open: Open, w: TableWriter): void {
  for (const row of t.rows) {
    const first = codeAt(row.cells);
    const [code, stem, ...rest] = row.cells.slice(first).filter((c, i) => c.text || i < 2);
    if (!stem) continue;
    const kind = KIND_CODES[(code?.text ?? '').toUpperCase()] ?? 'essay';
    const b = open(row, stem, first > 0 ? (row.cells[0]?.text ?? '') : '');
    b.kind = kind;
    const choice = kind === 'multiple-choice' || kind === 'multiple-response';
    const paired = rest.length > 1 && rest.every((c, i) => i % 2 === 0 || RIGHT_CELL.test(c.text) || WRONG_CELL.test(c.text));
    if (choice && paired) rest.forEach((c, i) => i % 2 === 0 && b.entries.push(entry(row, c, '', RIGHT_CELL.test(rest[i + 1]?.text ?? ''))));
    else if (choice) {
      rest.slice(0, -1).forEach((c) => b.entries.push(entry(row, c, '', false)));
      const last = rest[rest.length - 1];
      if (last) b.keys.push({ line: row.line.index, pieces: [piece(row, last)], feedback: [] });
    } else if (kind === 'ordering') rest.forEach((c, i) => b.entries.push({ ...entry(row, c, String(i + 1), false), labels: 'number' }));
    else if (kind === 'matching') {
      for (let i = 0; i + 1 < rest.length; i += 2) b.pairs.push({ left: [piece(row, rest[i] as Cell)], right: [piece(row, rest[i + 1] as Cell)] });
    } else {
      if (kind === 'numeric' && rest[1]) b.tolerance = [piece(row, rest[1])];
      for (const c of kind === 'numeric' ? rest.slice(0, 1) : rest) b.keys.push({ line: row.line.index, pieces: [piece(row, c)], feedback: [] });
    }
    w.say(row.line, 'question', b.label ?? '', `A row that says its kind (${code?.text ?? ''}) in front.`);
  }
}
