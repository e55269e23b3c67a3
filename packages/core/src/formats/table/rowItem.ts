/** What the cells of one item come to: its kind, told row by row from what is there, its key and all else that is said of it. */
import { minus, plus } from '../../language/decimal.js';
import { readNumber, wordings } from '../../draft/signatures/answers.js';
import { newId } from '../../item/ids.js';
import { gapMarks } from '../../item/kinds.js';
import { defaultMatch, type Kind } from '../../item/model.js';
import { richFromPlain } from '../../item/richText.js';
import { partsOf } from '../../item/strip.js';
import { BLANK, hasBlank, WRITE_ON } from '../../language/blanks.js';
import { parseNumber, writesDecimalComma } from '../../language/numbers.js';
import { truth, truthNote } from '../../language/truths.js';
import { QUESTION } from '../../language/words.js';
import type { ColumnUse } from './headings.js';
import { many, placesIn, placesOf, truthOf } from './keyCells.js';
import { kindNamed } from './kindNames.js';
import { type Mapping, optionsIn } from './mapping.js';
import type { RowCells } from './rowCells.js';

/** A number or a word for question in front of the words: "3. ", "Q3: ", "Question: ". */
const QUESTION_LABEL = new RegExp(`^(?:(?:${QUESTION})\\s*(\\d{1,4})?\\s*[:.)]\\s+|(\\d{1,4})\\s*[.)]\\s+(?=\\p{L}))`, 'iu');
/** Seconds: "45", "45 s", "1:30", "00:01:30", "2 min". */
function seconds(cell: string): number | null {
  const clock = /^(?:(\d{1,2}):)?(\d{1,2}):(\d{2})$/.exec(cell);
  if (clock) return Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3]);
  const m = /^(\d+(?:[.,]\d+)?)\s*(m\w*|s\w*)?\.?$/i.exec(cell);
  const n = m ? Number((m[1] ?? '').replace(',', '.')) * (/^m/i.test(m[2] ?? '') ? 60 : 1) : 0;
  return n > 0 ? n : null;
}

/** What is wrong with the cells of an item. */
export type RowProblems = { code: string; severity: 'error' | 'warning'; message: string }[];

/** What reading one item needs at hand. */
interface Reading {
  cells: RowCells;
  mapping: Mapping;
  /** Whether a comma parts decimals. */
  comma: boolean;
  problems: RowProblems;
  key: string;
  named: Kind | null;
  first(use: ColumnUse): string;
}

/**
 * The item that cells make up, not yet checked against the model.
 * @param language BCP 47, decides what a comma in a number means; told from the cells where none is given
 */
export function itemOfCells(cells: RowCells, mapping: Mapping, language: string | undefined, problems: RowProblems): Record<string, unknown> {
  const { said } = cells;
  const first = (use: ColumnUse): string => said.get(use)?.[0] ?? '';
  const key = first('key');
  const numbers = ['key', 'points', 'from', 'to', 'tolerance'] as const;
  const comma = language === undefined ? numbers.some((u) => /^-?\d+,\d+$/.test(first(u))) : writesDecimalComma(language);
  const named = kindNamed(first('kind'));
  if (first('kind') && !named && !cells.options.length)
    problems.push({ code: 'field-unknown', severity: 'warning', message: `“${first('kind')}” names no kind that is known; told from the rest of the row.` });
  const reading: Reading = { cells, mapping, comma, problems, key, named, first };
  return { ...commonOf(reading), ...(choiceOf(reading) ?? written(reading)) };
}

const FEEDBACK: readonly (readonly [string, ColumnUse])[] = [
  ['correct', 'feedback right'],
  ['incorrect', 'feedback wrong'],
  ['general', 'feedback'],
];
/** What items of every kind say. */
function commonOf({ cells, comma, problems, first }: Reading): Record<string, unknown> {
  const { said } = cells;
  const rich = (use: ColumnUse): string => (first(use) ? richFromPlain((said.get(use) ?? []).join('\n')) : '');
  const number = (use: ColumnUse): number | null => {
    const bare = first(use)
      .replace(/(?:%|points?|pts?|p\.?|punkte?|puntos?|pontos?|punti|marks?|балл(?:ов|а|ы)?|бал(?:ів|и|а)?|puan)$/iu, '')
      .trim();
    return bare ? parseNumber(bare, comma) : null;
  };
  const points = number('points');
  if (first('points') && (points === null || points < 0))
    problems.push({ code: 'points-invalid', severity: 'warning', message: `“${first('points')}” is no number of points; it counts 1.` });
  const feedback = Object.fromEntries(FEEDBACK.flatMap(([name, use]) => (said.has(use) ? [[name, rich(use)] as const] : [])).filter(([, text]) => text));
  const difficulty = number('difficulty');
  const tags = [...(said.get('tags') ?? []).flatMap(many), ...(first('difficulty') && difficulty === null ? [first('difficulty').toLowerCase()] : [])];
  const time = first('time') ? seconds(first('time')) : null;
  const picture = first('picture');
  const label = QUESTION_LABEL.exec(cells.stemRich);
  const stem = label ? cells.stemRich.slice(label[0].length) : cells.stemRich;
  return {
    id: newId(),
    stem,
    points: points !== null && points >= 0 ? Math.round(points * 1e4) / 1e4 : 1,
    ...((first('number') || label?.[1] || label?.[2]) && { label: (first('number') || (label?.[1] ?? label?.[2] ?? '')).replace(/[.)]$/, '') }),
    ...(Object.keys(feedback).length && { feedback }),
    ...(first('hint') && { hints: (said.get('hint') ?? []).map(richFromPlain) }),
    ...((tags.length || picture) && { tags: [...tags, ...(picture ? [`picture: ${picture}`] : [])] }),
    ...(first('outcome') && { outcomes: (said.get('outcome') ?? []).flatMap(many) }),
    ...(difficulty !== null && difficulty >= 0 && difficulty <= 1 && { level: { difficulty } }),
    ...(time !== null && { timeLimit: time }),
  };
}

/** Yes and no stay a choice. */
const YES_NO = /^(?:yes|no|ja|nein|s[ií]|non?|oui|sim|não|nee|tak|nie|да|нет|так|ні|evet|hayır)$/i;
/** A word that says which options are right: all of them, or none. */
const ALL_OF_THEM = /^(?:all(?: of (?:them|the above))?|alle|todas?|toutes|tutte|wszystkie|все|усі|hepsi)$/i;

/** An item whose options can be chosen; null where it has none, or they are something else. */
function choiceOf(reading: Reading): Record<string, unknown> | null {
  const { cells, named } = reading;
  const { options } = cells;
  if (options.length < 2 || named === 'matching' || named === 'ordering' || named === 'short-answer' || named === 'numeric' || named === 'cloze') return null;
  const places = keyed(reading);
  if (options.length === 2) {
    const truths = options.map((o) => truth(o.text, true));
    if (truths[0] !== null && truths[1] !== null && truths[0] !== truths[1] && !options.some((o) => YES_NO.test(o.text)))
      return { kind: 'true-false', answer: places.length === 1 ? (truths[places[0] ?? 0] ?? null) : null };
  }
  const parts = options.some((o) => o.credit !== undefined && o.credit !== 0 && o.credit !== 1);
  const list = options.map((o, i) => ({
    id: newId(),
    content: o.rich,
    credit: parts ? (o.credit ?? 0) : places.includes(i) ? 1 : 0,
    ...(o.feedback && { feedback: o.feedback }),
  }));
  if (parts)
    return options.filter((o) => o.credit === 1).length === 1
      ? { kind: 'multiple-choice', options: list }
      : { kind: 'multiple-response', scoring: 'weights', options: list };
  return places.length > 1 || named === 'multiple-response'
    ? { kind: 'multiple-response', scoring: 'all-or-nothing', options: list }
    : { kind: 'multiple-choice', options: list };
}

/** The places that the key of a row names. */
function keyed({ cells, mapping, problems, key }: Reading): number[] {
  const { options } = cells;
  const marked = options.flatMap((o, i) => (o.right ? [i] : []));
  if (marked.length || options.some((o) => o.right !== undefined)) return marked;
  if (mapping.keyForm === 'first' && !key) return [0];
  if (!key) return [];
  const texts = options.map((o) => o.text);
  if (key.length > 2 && ALL_OF_THEM.test(key) && !texts.some((t) => t.toLowerCase() === key.toLowerCase())) return texts.map((_, i) => i);
  const cellsOfKey = cells.said.get('key') ?? [];
  const said = cellsOfKey.length > 1 ? [...new Set(cellsOfKey)] : cellsOfKey;
  const readings = said.map((k) => placesOf(k, texts, mapping.keyForm));
  for (const [i, r] of readings.entries()) {
    if ('unknown' in r) {
      problems.push({ code: 'key-unknown-option', severity: 'error', message: `the key “${said[i]}” is none of its ${options.length} options.` });
      return [];
    }
    if ('conflict' in r) {
      problems.push({ code: 'key-conflict', severity: 'error', message: `${r.conflict}.` });
      return [];
    }
  }
  const all = readings.flatMap((r) => ('places' in r ? [...r.places] : []));
  return all.length > 1 ? [...new Set(all)].sort((a, b) => a - b) : all;
}

/** Marks of gaps in brackets with their number or letter: "(1)", "[b]", "{2}". */
const NUMBERED_GAP = /[[({]\s*(?:\d{1,2}|[a-h]|gap ?\d?|blank ?\d?)\s*[\])}]/gi;

/** The kind of an item that names none, by what stands in its cells. */
function kindOf({ cells, key, comma }: Reading, told: { answers: readonly string[]; numbers: number; bounded: boolean; truth: boolean | null }): Kind {
  if (cells.pairs.length) return 'matching';
  if ((cells.said.get('step') ?? []).length > 1) return 'ordering';
  if (cells.gaps.some(Boolean)) return 'cloze';
  const statement = !/\?\s*$/.test(cells.stem) || truthNote(cells.stem) !== null;
  if (told.truth !== null && statement) return 'true-false';
  if (told.bounded) return 'numeric';
  const answered = told.answers.length > 0;
  if (gapMarks(cells.stem).length || hasBlank(cells.stem)) return answered ? 'cloze' : 'short-answer';
  if (key && told.numbers && readNumber(key, comma)) return 'numeric';
  return answered ? 'short-answer' : 'essay';
}

/** The wordings that a cell accepts. */
const accepted = (cell: string): { text: string; credit: number }[] => wordings(cell).map((text) => ({ text, credit: 1 }));

/** Items without options to choose, and those whose sides or steps stand in option cells. */
function written(reading: Reading): Record<string, unknown> {
  const { cells, mapping, comma, problems, key, named, first } = reading;
  const { said } = cells;
  const steps = said.get('step') ?? [];
  // options of a typed answer are the answers that are taken
  const listed =
    named === 'short-answer' || named === 'numeric' ? cells.options.filter((o) => o.right !== false && (o.credit ?? 1) > 0).map((o) => o.text) : [];
  const answers = [...(said.get('key') ?? []), ...(said.get('accepted') ?? []), ...listed];
  const numbers = answers.flatMap((a) => numbersIn(a, reading));
  const bounds = boundsOf(reading);
  const truthValue = cells.truth ?? truthOf(key, mapping.truthSigns);
  const kind = named ?? kindOf(reading, { answers, numbers: numbers.length, bounded: bounds !== null, truth: truthValue });
  switch (kind) {
    case 'true-false': {
      if (key && truthValue === null) problems.push({ code: 'key-unknown-option', severity: 'error', message: `“${key}” says neither true nor false.` });
      const note = truthNote(cells.stem);
      const bare = note ? `${cells.stem.slice(0, note.from)}${cells.stem.slice(note.to)}`.trim() : '';
      return { kind, answer: truthValue, ...(bare && { stem: richFromPlain(bare) }) };
    }
    case 'numeric': {
      const taken = bounds ? [bounds] : numbers;
      if (key && !taken.length) problems.push({ code: 'key-unknown-option', severity: 'error', message: `“${key}” is no number.` });
      const unit = first('unit') || readNumber(key, comma)?.unit || '';
      return { kind, answers: taken, ...(unit && { unit }) };
    }
    case 'cloze':
      return clozeOf(reading);
    case 'matching': {
      const own = cells.pairs.length ? cells.pairs : pairsIn(cells.options.length ? cells.options.map((o) => o.text) : partsOf(key, /[;|\n]/).filter(Boolean));
      const pairs = own.filter((p) => p[0]).map(([left, right]) => ({ left: richFromPlain(left), right: richFromPlain(right) }));
      if (pairs.length < 2) problems.push({ code: 'match-unbalanced', severity: 'error', message: 'its pairs cannot be told; write them as left = right.' });
      return { kind, pairs, extraRights: own.filter((p) => !p[0]).map((p) => richFromPlain(p[1])) };
    }
    case 'ordering': {
      const words = steps.length > 1 ? steps : cells.options.map((o) => o.text);
      const list = words.length > 1 ? words : optionsIn(key || (words[0] ?? ''), mapping.separator);
      return { kind, sequence: ordered(list, words.length > 1 ? (said.get('key') ?? []) : []).map(richFromPlain) };
    }
    case 'essay':
      return { kind, ...(key && { modelAnswer: richFromPlain(key) }) };
    case 'information':
      return { kind, points: 0 };
    case 'multiple-choice':
    case 'multiple-response':
      if (cells.options.length) return { kind: 'multiple-choice', options: cells.options.map((o) => ({ id: newId(), content: o.rich, credit: 0 })) };
      problems.push({ code: 'kind-guessed', severity: 'warning', message: 'a choice without options; read as a short answer.' });
      return { kind: 'short-answer', answers: answers.flatMap(accepted), match: defaultMatch };
    default: {
      const taken = [...new Map(answers.flatMap(accepted).map((a) => [a.text.toLowerCase(), a])).values()];
      const stem = WRITE_ON.test(cells.stem) && cells.stemRich === richFromPlain(cells.stem) ? cells.stem.replace(WRITE_ON, '') : '';
      return { kind: 'short-answer', answers: taken, match: defaultMatch, ...(stem && /[?:]$/.test(stem) && { stem: richFromPlain(stem) }) };
    }
  }
}

/** The numbers that an answer's cell takes, with the tolerance of its row. */
function numbersIn(answer: string, { comma, first }: Reading): { min: number; max: number; credit: number }[] {
  return partsOf(answer.replace(/\s+/g, ' '), /[;|]| or /).flatMap((k) => {
    const n = readNumber(k, comma);
    if (!n) return [];
    const said = first('tolerance').replace(/^(?:±|\+\s?\/?\s?[-−–])\s*/, '');
    const share = said.endsWith('%') && !/%/.test(k) && !/%/.test(first('unit'));
    const size = said ? Math.abs((share ? parseNumber(said, comma) : (readNumber(said, comma)?.max ?? parseNumber(said, comma))) ?? 0) : 0;
    const slack = share ? Math.abs(n.min) * size : size;
    return [{ min: minus(n.min, slack), max: plus(n.max, slack), credit: 1 }];
  });
}

/** The least and the greatest number that is taken, where columns say them. */
function boundsOf({ comma, first }: Reading): { min: number; max: number; credit: number } | null {
  const [a, b] = (['from', 'to'] as const).map((u) => (first(u) ? readNumber(first(u), comma) : null));
  return a && b ? { min: Math.min(a.min, b.max), max: Math.max(a.min, b.max), credit: 1 } : null;
}

function pairsIn(cells: readonly string[]): [string, string][] {
  return cells.flatMap((c): [string, string][] => {
    const sign = /=>|->|→|=|:|–|—| - /.exec(c.slice(1));
    const [left = '', right = ''] = sign ? [c.slice(0, sign.index + 1).trim(), c.slice(sign.index + 1 + sign[0].length).trim()] : [];
    return left && right ? [[left, right]] : [];
  });
}

/** Steps in their right order: by the place that each row says, or by a key that lists their letters or numbers. */
function ordered(steps: readonly string[], keys: readonly string[]): readonly string[] {
  const inOrder = (places: readonly (number | undefined)[]): boolean =>
    places.length === steps.length && [...places].sort((a, b) => (a ?? 0) - (b ?? 0)).every((p, i) => p === i);
  const own = keys.length === steps.length ? keys.map((k) => (/^\d{1,2}[.)]?$/.test(k) ? Number.parseInt(k, 10) - 1 : undefined)) : [];
  if (own.length && inOrder(own)) return own.map((_, i) => steps[own.indexOf(i)] ?? '');
  const [key = ''] = keys;
  const order = keys.length === 1 ? (placesIn(key.replace(/→|->|>|–|-/g, ','), 'letters') ?? placesIn(key.replace(/→|->|>|–|-/g, ','), 'numbers')) : null;
  return order && inOrder(order) ? order.map((i) => steps[i] ?? '') : steps;
}

function clozeOf({ cells, key, problems }: Reading): Record<string, unknown> {
  const marks = gapMarks(cells.stem);
  const blanks = marks.length ? marks.length : (cells.stem.match(BLANK)?.length ?? 0);
  const numbered = !blanks ? (cells.stem.match(NUMBERED_GAP)?.length ?? 0) : 0;
  const columns = cells.gaps.some(Boolean);
  let n = 0;
  const gapped = marks.length ? cells.stemRich : cells.stemRich.replace(numbered ? NUMBERED_GAP : BLANK, () => `[[${++n}]]`);
  const ids = marks.length ? marks : Array.from({ length: n }, (_, i) => String(i + 1));
  const values = columns
    ? cells.gaps.slice(0, Math.max(ids.length, cells.gaps.findLastIndex(Boolean) + 1))
    : key.split(ids.length > 1 ? /[;|,\n]/ : /\n/).filter((v) => v.trim());
  if (!ids.length) return { kind: 'short-answer', answers: (columns ? values : [key]).filter(Boolean).flatMap(accepted), match: defaultMatch };
  const further = ids.length === 1 ? (cells.said.get('accepted') ?? []) : [];
  if ((key || columns) && values.length !== ids.length)
    problems.push({ code: 'gap-without-answer', severity: 'error', message: `${ids.length} gaps and ${values.length} answers.` });
  return {
    kind: 'cloze',
    stem: gapped,
    gaps: ids.map((id, i) => ({
      id,
      kind: 'text',
      points: 1,
      answers: values.length <= ids.length ? [values[i] ?? '', ...further].filter((v) => v.trim()).flatMap(accepted) : [],
    })),
  };
}
