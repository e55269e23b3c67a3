/** What a table holds: questions a row each, keys, pairs, or only the layout of options. */
import { field, type FieldName } from '../model/fields.js';
import { pattern } from '../../language/labels.js';
import { announced } from '../signatures/announce.js';
import { keyLine } from '../signatures/keyWords.js';
import { truth } from '../../language/truths.js';
import { KIND_NAME, QUESTION } from '../../language/words.js';
import type { Cell, TableBlock } from '../surface/tables.js';
import { keyValue } from '../signatures/entries.js';
import { KIND_CODES } from '../../item/kindCodes.js';

/** What a column of a table in a draft holds. */
export type Column = 'number' | 'stem' | 'option' | 'options' | 'key' | 'kind' | 'reason' | 'true' | 'false' | FieldName | '';
const NUMBER_HEAD = /^(?:#|no\.?|nr\.?|n[º°]\.?|num(?:ber|ero|éro)?|№|lp\.?|id|q|q\.?\s?no\.?|item)$/i;
const STEM_HEAD = pattern(
  `^(?:(?:${QUESTION})(?: text)?|questions?|statements?|stem|prompt|sentences?|text|clue|front|term|enunciado|aussage|satz|énoncé|affirmation|phrase|stelling|zin|zdanie|treść|утверждение|предложение|твердження|речення|ifade|cümle|afirmación|frase|affermazione|afirmação|fragen?|vragen|pytania|вопросы|sorular)$`,
);
const OPTION_HEAD = pattern(
  '^(?:[A-H]|(?:[RA]|op|opc|resp|rép|risp|antw|odp|отв|відп)\\.?\\s?\\d|(?:option|choice|answer|alternative|distractor|wrong(?: answer| option)?|incorrect(?: answer| option)?|falsche antwort|respuesta incorrecta|mauvaise réponse|risposta (?:errata|sbagliata)|resposta errada|fout antwoord|opción|antwort|réponse|respuesta|risposta|opção|resposta|antwoord|optie|odpowiedź|opcja|вариант|ответ|варіант|відповідь|seçenek|şık)\\s*\\.?\\s*(?:\\d|[A-H]))$',
);
const OPTIONS_HEAD = pattern(
  '^(?:(?:answer |possible |response )?(?:options|choices|alternatives|answers)|opciones|alternativas|antwortmöglichkeiten|antworten|auswahl|choix|propositions|opções|opzioni|opties|antwoorden|opcje|варианты(?: ответов?)?|варіанти(?: відповідей)?|seçenekler|şıklar)$',
);
const KIND_HEAD = pattern('^(?:type|kind|question type|item type|tipo|typ|тип|tür)$');

/** What a heading calls its column. */
export function columnOf(head: string): Column {
  const h = head
    .trim()
    .replace(/\*\*/g, '')
    .replace(/\s*\([^)]*\)$/, '')
    .replace(/[:.?]$/, '');
  if (!h) return '';
  if (NUMBER_HEAD.test(h)) return 'number';
  if (OPTION_HEAD.test(h)) return 'option';
  if (OPTIONS_HEAD.test(h)) return 'options';
  if (STEM_HEAD.test(h)) return 'stem';
  if (KIND_HEAD.test(h)) return 'kind';
  if (
    keyLine(`${h}:`) !== null ||
    announced(`${h}: `) !== null ||
    KIND_NAME.exec(h)?.[3] ||
    /^(?:back|right|right one|ok|richtige?|bonne|correct[aoe]?|corret[ao]|corretta|giusta|juiste?|poprawna|верн\p{L}*|правильн\p{L}*|вірн\p{L}*|doğru|definition|T\/F|V\/F|R\/F)$/iu.test(
      h,
    )
  )
    return 'key';
  return field(`${h}:`)?.name ?? '';
}

/** What a table in a draft is for. */
export type TableUse = 'questions' | 'coded' | 'bare' | 'keys' | 'cards' | 'other';
/** A table as it is read: its use, what its columns hold, and how sure that is (log-odds). */
export interface TableReading {
  use: TableUse;
  columns: Column[];
  weight: number;
}

const full = (cells: readonly Cell[]): Cell[] => cells.filter((c) => c.text);
const isNumber = (t: string): boolean => /^(?:q\.?\s*|#|no\.?\s*)?\d{1,3}[a-h]?[.):]?$/i.test(t.replace(/\*\*/g, ''));
const isLabelOrTruth = (t: string): boolean => /^[A-Ha-h1-8][.)]?$/.test(t) || truth(t, true) !== null;

/** The place of the code for the kind: the first cell, or the second behind a number; −1 where there is none. */
export function codeAt(cells: readonly Cell[]): number {
  const isCode = (i: number): boolean => cells.length > i + 1 && Object.hasOwn(KIND_CODES, (cells[i]?.text ?? '').toUpperCase());
  return isCode(0) ? 0 : isNumber(cells[0]?.text ?? '') && isCode(1) ? 1 : -1;
}
const readings = new WeakMap<TableBlock, TableReading>();
/** The likeliest use of a table, with how sure it is. */
export function tableReading(t: TableBlock): TableReading {
  const known = readings.get(t);
  if (known) return known;
  const made = judge(t);
  readings.set(t, made);
  return made;
}
function judge(t: TableBlock): TableReading {
  const head = t.rows[0];
  const columns = head?.cells.map((c) => columnOf(c.text)) ?? [];
  truthColumns(t, columns);
  const has = (c: Column): boolean => columns.includes(c);
  const codes = t.rows.filter((r) => codeAt(r.cells) >= 0).length;
  if (codes === t.rows.length && t.sign !== ',') return { use: 'coded', columns, weight: 9 };
  // "Answers" beside a column that says the key are the options, alone they are the key
  if (!has('key') && columns.filter((c) => c === 'options').length === 1 && !has('option')) {
    const at = columns.indexOf('options');
    if (keyLine(`${head?.cells[at]?.text ?? ''}:`) !== null) columns[at] = 'key';
  }
  // "Q" heads numbers, or the questions themselves
  const at = has('stem') ? -1 : columns.indexOf('number');
  const below = at < 0 ? [] : t.rows.slice(1).map((r) => r.cells[at]?.text ?? '');
  if (below.some(Boolean) && below.every((c) => !c || (/\p{L}{2}.*\s/u.test(c) && !isNumber(c)))) columns[at] = 'stem';
  const stems = has('stem') ? t.rows.slice(1).map((r) => r.cells[columns.indexOf('stem')]?.text ?? '') : [];
  const wordy = stems.filter((s) => /\p{L}{2}/u.test(s) && !isNumber(s)).length;
  if (has('stem') && columns.filter(Boolean).length >= 2 && wordy >= Math.max(1, stems.length * 0.5) && t.rows.length > 1)
    return { use: 'questions', columns, weight: 9 };
  if (keyTable(t)) return { use: 'keys', columns, weight: 3 };
  const shaped = t.rows.filter((r) => {
    const cells = full(r.cells);
    const last = cells[cells.length - 1]?.text ?? '';
    const first = isNumber(cells[0]?.text ?? '') ? 1 : 0;
    const options = cells.slice(first + 1, -1).map((c) => c.text.toLowerCase());
    return cells.length >= first + 4 && (/^[A-Ha-h1-8]$/.test(last) || options.includes(last.toLowerCase()));
  });
  if (shaped.length >= 2 && shaped.length >= t.rows.length * 0.8) return { use: 'bare', columns, weight: 7 };
  const pointed = t.rows.some((r) => /^[([]\d{1,2}[)\]]$/.test(full(r.cells).at(-1)?.text ?? ''));
  const cards = t.rows.filter(
    (r) => !pointed && full(r.cells).length >= 2 && /[?？]\s*$|_{3,}/.test(full(r.cells)[isNumber(r.cells[0]?.text ?? '') ? 1 : 0]?.text ?? ''),
  );
  if (cards.length >= Math.max(2, t.rows.length * 0.7) && t.rows.every((r) => full(r.cells).length <= 3)) return { use: 'cards', columns, weight: 5 };
  return { use: 'other', columns, weight: 0 };
}

const MARK = /^(?:[xX✓✔✗×+*]|☒|☑)?$/u;
/** Names two columns in which statements are ticked: one headed with a word or letter for true, one for false. */
function truthColumns(t: TableBlock, columns: Column[]): void {
  const heads = t.rows[0]?.cells.map((c) => truth(c.text.replace(/\*/g, ''), true)) ?? [];
  const [yes, no] = [heads.indexOf(true), heads.indexOf(false)];
  if (yes < 0 || no < 0 || !t.rows.slice(1).every((r) => [yes, no].every((i) => MARK.test(r.cells[i]?.text ?? '')))) return;
  columns[yes] = 'true';
  columns[no] = 'false';
}

/** Numbers with one short value each, side by side or one under the other. */
function keyTable(t: TableBlock): boolean {
  const cells = t.rows.flatMap((r) => full(r.cells));
  const numbers = cells.filter((c) => isNumber(c.text)).length;
  const values = cells.filter((c) => isLabelOrTruth(c.text) || keyValue(c.text)).length;
  if (numbers < 2) return false;
  const rows = t.rows.filter((r) => {
    const f = full(r.cells);
    const behind = f.length > 3 && !isNumber(f[0]?.text ?? '') ? f.slice(1) : f;
    return (
      f.length >= 2 &&
      (behind.every((c) => isNumber(c.text)) ||
        behind.every((c) => isLabelOrTruth(c.text)) ||
        f.every((c) => isLabelOrTruth(c.text) || /^(?:ans(?:wer)?|key)\.?:?$/i.test(c.text)) ||
        (isNumber(f[0]?.text ?? '') && (keyValue(f[1]?.text ?? '') || f.length === 2 || (f[1]?.text.length ?? 99) < 40)))
    );
  }).length;
  return rows >= Math.min(t.rows.length - 1, t.rows.length * 0.75) && rows >= 1 && values >= numbers * 0.4;
}
