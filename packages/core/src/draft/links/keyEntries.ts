/** What the rows of a list of keys say: entries with the question that each names, its value and its reason. */
import { field } from '../model/fields.js';
import { stretchOf, type Line } from '../surface/lines.js';
import type { KeyRows } from '../model/outline.js';
import { entriesIn, keyValue, letterEntriesIn, lettersIn } from '../signatures/entries.js';
import { subParts } from '../signatures/subParts.js';
import { Stretch } from '../surface/stretch.js';
import { barCells } from '../surface/tables.js';
import { letterPlace, pattern } from '../../language/labels.js';
import { ANSWER, FEEDBACK, VARIES } from '../../language/words.js';

/** One entry of a list of keys. */
export interface KeyEntry {
  /** Null where keys only stand in the order of the questions. */
  number: number | null;
  sub: string;
  value: Stretch;
  reason: Stretch | null;
  line: number;
  bonus?: boolean;
}

const REASON = pattern(`^[\\s\\p{So}*•>-]*[【\\[]?(?:${FEEDBACK})\\s*\\??\\s*[】\\]:：–—-]+\\s*`);
const POINTS_BEHIND = /(?<=\S)\s+[([]\d{1,2}[)\]]\s*$/;
/** The letter of a part of a question in front of its key. */
const SUB_LABEL = /^\s*\(?([a-hA-H])[).]\s+(?=\S)/;
const WORD = pattern(`^(?:the\\s+)?(?:${ANSWER})\\s*(?:[:=]\\s*|(?:is|es|est|ist|è|é|är|er|jest)\\s+(?=[([]?[A-H1-9](?![\\p{L}\\d])))`);

/** The entries of a stretch of lines that hold keys. */
export function entriesOf(rows: KeyRows, lines: readonly Line[], subs: boolean, decimals: boolean, letters: boolean, questions = 0): KeyEntry[] {
  const out: KeyEntry[] = [];
  // lines that go on from an entry are joined once, at the end
  const tails = new Map<KeyEntry, { value: Stretch[]; reason: Stretch[] }>();
  const tail = (e: KeyEntry, to: 'value' | 'reason', words: Stretch): void => {
    const own = tails.get(e) ?? { value: [], reason: [] };
    tails.set(e, own);
    own[to].push(words);
    if (to === 'reason') e.reason ??= words;
  };
  const bareNumbers = namesQuestionsBare(rows, lines);
  let columns: TableColumns | null = null;
  const head = lines[rows.line];
  const sheet = head && rows.rows[0] && rows.rows[0].line !== rows.line ? inGrid(lines, head, rows, 0) : [];
  out.push(...sheet);
  for (let r = sheet.length; r < rows.rows.length; r++) {
    const row = rows.rows[r] as KeyRows['rows'][number];
    const line = lines[row.line];
    if (!line) continue;
    const line0 = stretchOf(line, row.at, row.to ?? line.text.length, 0).trimmed();
    // a list in brackets
    const whole =
      row.at > 0 && /^\s*\([^)]*$/.test(line.text.slice(0, row.at)) && /[^(]*\)$/.test(line0.text) && !/\([^)]*\)$/.test(line0.text)
        ? line0.slice(0, line0.text.length - 1)
        : line0;
    const text = whole.text;
    const add = (number: number | null, value: Stretch, sub = ''): void =>
      void out.push({ number, sub, value: withoutWord(value.trimmed()), reason: null, line: row.line });
    const last = out[out.length - 1];
    const ticked = inGrid(lines, line, rows, r + 1);
    if (ticked.length) {
      out.push(...ticked);
      r += ticked.length;
      continue;
    }
    if (row.cells ?? (/\|/.test(text) && /^\s*\|/.test(line.text))) {
      const cells = (row.cells ?? barCells(text).map((c) => ({ ...c, from: c.from + row.at, to: c.to + row.at }))).map((c) =>
        stretchOf(line, c.from, c.to, 0).trimmed(),
      );
      if (cells.every((c) => /^:?-*:?$/.test(c.text))) continue;
      const below = rows.rows[r + 1];
      const next = below?.cells && lines[below.line] ? below.cells.map((c) => stretchOf(lines[below.line] as Line, c.from, c.to, 0).trimmed()) : null;
      const used = tableRow(cells, next, row.line, out, columns ?? (columns = columnsOf(cells)));
      if (used === 2) r++;
      continue;
    }
    const reason = REASON.exec(text);
    const f = reason ? { name: 'feedback', at: reason[0].length } : field(text);
    if (f?.name === 'feedback' && last) {
      tail(last, 'reason', whole.slice(f.at));
      continue;
    }
    if (lettersIn(text) >= 3 && !/\d/.test(text)) {
      for (const m of text.matchAll(/\p{L}/gu)) add(null, whole.slice(m.index, m.index + 1));
      continue;
    }
    const numbersOver = numbersAlone(text);
    const under = rows.rows[r + 1];
    const values =
      under && numbersOver
        ? (lines[under.line]?.text ?? '')
            .trim()
            .split(/[\s|]+/)
            .filter(Boolean)
        : [];
    if (numbersOver && values.length === numbersOver.length && under) {
      const next = lines[under.line] as Line;
      let at = 0;
      values.forEach((v, i) => {
        at = next.text.indexOf(v, at);
        add(numbersOver[i] ?? 0, stretchOf(next, at, at + v.length, 0));
        at += v.length;
      });
      r++;
      continue;
    }
    const byNumber = entriesIn(text).filter((e) => e.kind !== 'dec' || decimals);
    const found = byNumber.length || !letters ? byNumber : letterEntriesIn(text);
    if (found.length && (bareNumbers || letters || !/^\d+$/.test(text))) {
      for (const e of found) {
        const value = whole.slice(e.from, e.to);
        if (e.until) {
          const each = value.text.replace(/[\s,;.]/g, '');
          if (each.length === e.until - e.number + 1) {
            let at = e.from;
            for (let n = e.number; n <= e.until; n++) {
              while (/[\s,;.]/.test(text[at] ?? '')) at++;
              add(n, whole.slice(at, at + 1));
              at++;
            }
            continue;
          }
        }
        if (e.kind === 'bonus') out.push({ number: null, sub: '', value: withoutWord(value.trimmed()), reason: null, line: row.line, bonus: true });
        else {
          // "1b" is question 1 and its key b, unless the draft has questions 1a, 1b …
          if (e.sub && !subs && /^[).:=\s]*$/.test(text.slice(e.start, e.from).replace(/^.*?\d+[a-h]/i, '')) && !value.text.trim()) continue;
          const parts = subs && !e.sub ? subParts(value.text) : [];
          const own = subs && !e.sub && parts.length < 2 ? SUB_LABEL.exec(value.text) : null;
          if (own) add(e.number, value.slice(own[0].length), own[1]?.toLowerCase());
          else if (parts.length > 1) parts.forEach((p) => add(e.number, value.slice(p.from, p.to), p.sub));
          else add(e.number, value, e.sub);
        }
      }
      continue;
    }
    // "(b) …" below "1. (a) …"
    const part = subs && last?.sub ? SUB_LABEL.exec(text) : null;
    if (part && last?.number != null && (part[1] ?? '').toLowerCase() > last.sub) {
      add(last.number, whole.slice(part[0].length), (part[1] ?? '').toLowerCase());
      continue;
    }
    // "D  own answers" behind the rows of the parts A, B and C
    const own = /^[A-H][.:)]?\s+(?=\S)/.exec(text);
    if (own && VARIES.test(text.slice(own[0].length))) continue;
    const bare = whole.slice(/^[-•*]\s+/.exec(text)?.[0].length ?? 0);
    // "mammal, reptile, mammal": as many as there are questions
    const each = inOrder(bare.text, questions);
    if (each && !last) {
      for (const [from, to] of each) add(null, bare.slice(from, to));
      continue;
    }
    // a line without a number: the next key of a list in order, or more of the entry above
    if (!last || (last.number === null && !last.bonus && row.line - last.line <= 2)) add(null, bare);
    else if (last.reason ?? (keyValue(last.value.text) || /^[A-Za-z][).]/.test(last.value.text))) tail(last, 'reason', whole);
    else tail(last, 'value', whole);
  }
  // "12 (2)": the points of each question behind its key
  const scored = out.filter((e) => POINTS_BEHIND.test(e.value.text));
  if (scored.length >= 3 && scored.length >= out.length * 0.6) for (const e of scored) e.value = e.value.slice(0, e.value.text.search(POINTS_BEHIND)).trimmed();
  for (const [e, more] of tails) {
    e.value = Stretch.join([e.value, ...more.value]);
    if (more.reason.length) e.reason = Stretch.join(e.reason && more.reason[0] !== e.reason ? [e.reason, ...more.reason] : more.reason);
  }
  return out;
}
/** The keys of an answer sheet: a line of letters, and rows in which one or more of them are ticked. */
function inGrid(lines: readonly Line[], head: Line, rows: KeyRows, from: number): KeyEntry[] {
  const grid = gridOf(head.text);
  const out: KeyEntry[] = [];
  for (let k = from; grid && k < rows.rows.length; k++) {
    const line = lines[rows.rows[k]?.line ?? -1];
    const found = line && tickedIn(line.text, grid);
    if (!found?.at.length) break;
    const value = Stretch.join(found.at.map((at) => stretchOf(head, at, at + 1, 0)));
    out.push({ number: found.number, sub: '', value, reason: null, line: line?.index ?? 0 });
  }
  return out;
}
/** The columns of the letters that head an answer sheet: "Nr.   A   B   C"; null where a line is something else. */
function gridOf(text: string): number[] | null {
  const m = /^\s*(?:\p{L}{2,9}\.?\s+|#\s+)?(?=\p{L}(?:\s|$))/u.exec(text);
  const head = m ? text.slice(m[0].length) : '';
  if (!m || !/^(?:[A-Ha-hА-Еа-е]\s+){1,7}[A-Ha-hА-Еа-е]\s*$/u.test(head)) return null;
  const letters = [...head.matchAll(/\p{L}/gu)];
  return letters.every((l, i) => i === 0 || letterPlace(l[0]) === letterPlace(letters[i - 1]?.[0] ?? '') + 1)
    ? letters.map((l) => m[0].length + l.index)
    : null;
}
const MARKED = /[☒☑■●◉✓✔✗✘]|\[\s?[xX✓]\s?\]|(?<![\p{L}\d])[xX](?![\p{L}\d])/u;
const MARK = new RegExp(`${MARKED.source}|[☐□○◯]|\\[\\s{0,3}\\]`, 'gu');
/** A row of an answer sheet: the number of its question, and the columns of the letters whose places are ticked. */
function tickedIn(text: string, columns: readonly number[]): { number: number; at: number[] } | null {
  const m = /^\s*(\d{1,3})[.):]?\s+/.exec(text);
  if (!m || !/^[\s[\]xX✓✔✗✘☒☑■●◉☐□○◯|]+$/u.test(text.slice(m[0].length))) return null;
  const marks = [...text.slice(m[0].length).matchAll(MARK)].map((x) => ({ at: m[0].length + x.index, ticked: MARKED.test(x[0]) }));
  if (marks.length !== columns.length && !marks.every((x) => x.ticked)) return null;
  const nearest = (at: number): number => columns.reduce((best, c) => (Math.abs(c - at) < Math.abs(best - at) ? c : best), columns[0] ?? 0);
  const at = marks.flatMap((x, i) => (x.ticked ? [marks.length === columns.length ? (columns[i] ?? 0) : nearest(x.at)] : []));
  return { number: Number(m[1]), at };
}
/** The columns of keys that stand in the order of the questions, one for each; null where there are more or fewer. */
function inOrder(text: string, questions: number): [number, number][] | null {
  if (questions < 3) return null;
  for (const sign of [/\s*;\s*/g, /\s*,\s*/g, /\s+[/|–-]\s+/g]) {
    const out: [number, number][] = [];
    let from = 0;
    for (const m of text.matchAll(sign)) {
      out.push([from, m.index]);
      from = m.index + m[0].length;
    }
    out.push([from, text.length]);
    if (out.length === questions && out.every(([a, b]) => b > a)) return out;
  }
  return null;
}
const WORD_BEHIND =
  /^((?:\d{1,2}|[A-Ha-h])[.)]?(?:(?:\s*[,&+]\s*|\s+(?:and|und|y|et|e|en|i|и|і|ve)\s+)(?:\d{1,2}|[A-Ha-h])[.)]?)*)\s+(?:antwort(?:en)?|answers?|options?|réponses?|respuestas?|risposte?|respostas?|antwoord(?:en)?|odpowied[zź]i?|ответы?|відповід[ьі])\s*$/iu;
function withoutWord(s: Stretch): Stretch {
  const tail = /\s*(?:(?:[✓✔]\ufe0f?)+|[،؛、])\s*$/u.exec(s.text);
  if (tail && tail.index > 0) return withoutWord(s.slice(0, tail.index).trimmed());
  // "1. und 3. Antwort"
  const behind = WORD_BEHIND.exec(s.text);
  if (behind) return withoutWord(s.slice(0, behind.index + (behind[1]?.length ?? 0)).trimmed());
  const m = WORD.exec(s.text);
  return m && m[0].length < s.text.length ? s.slice(m[0].length).trimmed() : s;
}
const namesQuestionsBare = (rows: KeyRows, lines: readonly Line[]): boolean =>
  rows.rows.some((r) => entriesIn(lines[r.line]?.text.slice(r.at) ?? '').length > 0);
function numbersAlone(text: string): number[] | null {
  const parts = text
    .trim()
    .split(/[\s|.)]+/)
    .filter(Boolean);
  return parts.length >= 3 &&
    parts.every((p, i) => /^\d{1,3}$/.test(p) && (i === 0 || (Number(p) > Number(parts[i - 1]) && Number(p) <= Number(parts[i - 1]) + 3)))
    ? parts.map(Number)
    : null;
}

interface TableColumns {
  /** Columns that say something else than number and key. */
  aside: ReadonlySet<number>;
  reason: number;
}
/** What the row of headings says of the columns. */
function columnsOf(cells: readonly Stretch[]): TableColumns {
  if (cells.some((c) => /^[([]?\d/.test(c.text))) return { aside: new Set(), reason: -1 };
  const names = cells.map((c) => field(`${c.text}:`)?.name ?? '');
  return {
    aside: new Set(cells.flatMap((c, i) => (names[i] === 'points' || /^(?:max\.?|score|out of|total|page|topic|level|skill)$/i.test(c.text) ? [i] : []))),
    reason: names.indexOf('feedback'),
  };
}

const NUMBER = /^(?:q(?:uestion)?\.?\s*|#|no\.?\s*|nr\.?\s*)?(\d{1,3})([a-h]?)[.):]?$/i;
/** Reads one row of a table, or a row of numbers with the row of keys below it. Returns how many rows it used. */
function tableRow(cells: readonly Stretch[], next: readonly Stretch[] | null, line: number, out: KeyEntry[], columns: TableColumns): number {
  const numbers = cells.map((c) => NUMBER.exec(c.text.trim()));
  const found = numbers.filter(Boolean).length;
  const inOrder = numbers.flatMap((n) => (n ? [Number(n[1])] : [])).every((n, i, all) => i === 0 || (n > (all[i - 1] ?? 0) && n <= (all[i - 1] ?? 0) + 3));
  if (next && found >= 3 && found >= cells.length - 1 && inOrder) {
    cells.forEach((_, i) => {
      const n = numbers[i];
      const value = next[i];
      if (n && value?.text) out.push({ number: Number(n[1]), sub: n[2] ?? '', value, reason: null, line: line + 1 });
    });
    return 2;
  }
  for (let i = 0; i + 1 < cells.length; ) {
    const n = numbers[i];
    if (!n) {
      // "1. B | 2. C"
      const inner = entriesIn(cells[i]?.text ?? '');
      if (inner.length === 1 && inner[0])
        out.push({ number: inner[0].number, sub: inner[0].sub, value: (cells[i] as Stretch).slice(inner[0].from, inner[0].to).trimmed(), reason: null, line });
      else if (i === 0 && !inner.length) break;
      i++;
      continue;
    }
    const following = cells.findIndex((_, k) => k > i + 1 && numbers[k] && !columns.aside.has(k) && columns.reason !== k);
    const end = following < 0 ? cells.length : following;
    const own = cells.slice(i + 1, end).filter((c, k) => c.text && !columns.aside.has(i + 1 + k));
    const [value, ...more] = own;
    if (value) out.push({ number: Number(n[1]), sub: n[2] ?? '', value, reason: more.length ? Stretch.join(more) : null, line });
    if (following < 0) break;
    i = following;
  }
  const lastCell = cells[cells.length - 1];
  const single = cells.length && !numbers[cells.length - 1] ? entriesIn(lastCell?.text ?? '') : [];
  if (single.length === 1 && single[0] && entriesIn(cells[0]?.text ?? '').length === 1 && cells.length > 1)
    if (!out.some((e) => e.line === line && e.number === single[0]?.number))
      out.push({ number: single[0].number, sub: '', value: (lastCell as Stretch).slice(single[0].from, single[0].to).trimmed(), reason: null, line });
  return 1;
}
