/** Rows of matching tasks, word banks, and lines of steps to number. */
import { W } from '../model/weights.js';
import { labelsAt } from '../signatures/label.js';
import type { Recogniser, Sign } from './sign.js';

const ARROW = /^(.*?\S)\s*(?:-{1,3}>|→|=>|⇒|⟶|<->|↔|<=>|—>|➜|➡)\s*(\S.*)$/u;
/** "knead  •   •  to work dough": dots to join with lines. */
const DOTS = /^(.*?[^\s•●○∙])\s+[•●○∙](?:\s+[•●○∙])?\s+([^\s•●○∙][^•●○∙]*)$/u;
/** The right side has a letter, and the left one leaves little room before it. */
const TIGHT = /^(\s*[([]?\d{1,2}[.)].*?\S)\s+([a-hA-H][.)]\s+\S.*)$/u;
const COLUMNS = /^(.*?\S)(?:\s*\t+\s*|\s{3,}|(?<=.{5})\s{2}(?=[\p{L}\d][.)]\s)|\s*\.{5,}\s*|\s*…{2,}\s*|\s*_{3,}\s*(?=\S))(\S.*)$/u;
const SIDED = /^(.{1,120}?\S)\s+(?:[–—=|]|-(?=\s)|:)\s+(\S.*)$/;
const COLON = /^([^:]{1,80}\S):\s+(\S.*)$/;
const HEADS =
  /^\W*(?:column|list|columna|lista|spalte|colonne|coluna|colonna|kolom|kolumna|колонка|столбец|sütun)\s*(?:[A-H]|I{1,3}|[12]|left|right)?(?:\s+.{0,12}(?:column|list|columna|lista|spalte|colonne|coluna|colonna|kolom|kolumna|колонка|столбец|sütun)\s*(?:[A-H]|I{1,3}|[12]|left|right)?)?\W*$/iu;

/** The two sides of a line: columns of each, or null. */
export function sidesOf(text: string, from: number): { left: [number, number]; right: [number, number]; labelled: boolean } | null {
  const inner = text.slice(from).replace(/\s+$/, '');
  const columns = DOTS.exec(inner) ?? COLUMNS.exec(inner) ?? TIGHT.exec(inner);
  const right = columns ? (columns[2] ?? '') : '';
  const labelled = columns !== null && (labelsAt(right, 0).some((l) => l.form !== 'loose') || /^_+|^\(\s*\)/.test(right) || /\t/.test(inner));
  const m = labelled ? columns : (ARROW.exec(inner) ?? columns ?? SIDED.exec(inner) ?? COLON.exec(inner));
  if (!m) return null;
  const rightAt = inner.length - (m[2]?.length ?? 0);
  return {
    left: [from, from + (m[1]?.length ?? 0)],
    right: [from + rightAt, from + inner.length],
    labelled: Boolean(labelled) && labelsAt(right, 0).some((l) => l.form !== 'loose'),
  };
}

/** Rows of a task: pairs to match, statements to judge. */
export const row: Recogniser = {
  name: 'row of a matching task',
  examples: [
    ['> a -> b', 'row'],
    ['> 1. yeast    a) rises', 'row'],
  ],
  find(v) {
    const { facts, line } = v;
    if (facts.furniture && facts.furniture !== 'foot') return [];
    const t = line.text;
    const first = v.after?.facts.labels.find((l) => l.ord === 1 && l.form !== 'dec' && l.cls !== 'word');
    const heads = v.gap > 0 && facts.words <= 3 && !facts.labels.length && first !== undefined && v.after?.gap === 0 && !/[.?!]$/.test(facts.trimmed);
    if (HEADS.test(t) || heads) return [{ role: 'row', sort: 'heads', weight: 1.5, why: 'Names the columns.', at: facts.start }];
    const label = facts.labels.find((l) => l.cls !== 'word' && l.cls !== 'turn' && l.cls !== 'bonus');
    const bullet = facts.front.bullet && facts.front.bullet !== '*' ? facts.front.at : facts.start;
    const sides = sidesOf(t, facts.prefix.at > facts.start ? facts.prefix.at : label ? facts.start : bullet);
    const out: Sign[] = [];
    let w = 0;
    if (facts.keyAt !== null) w += W.saysKey;
    if (facts.field && !ARROW.test(t)) w += W.saysField * 2.5;
    if (facts.part || facts.each !== null || line.heading) w += W.oHeading;
    // "A: yeast" is a lettered side and no pair
    if (sides && !(label && sides.left[1] - sides.left[0] <= 3 && !ARROW.test(t)))
      out.push({
        role: 'row',
        sort: 'pair',
        weight: w,
        why: 'Two sides on one line, under a question that asks to match.',
        at: facts.start,
        sides,
        ...(ARROW.test(t) && { announced: true }),
        ...(facts.prefix.key && { keyInFront: facts.prefix.key }),
        ...(label && { label }),
      });
    if (label)
      out.push({
        role: 'row',
        sort: 'side',
        weight: w,
        why: 'A side of a question that asks to match.',
        at: label.at,
        label,
        ...(sides && { sides }),
        ...(facts.prefix.key && { keyInFront: facts.prefix.key }),
      });
    else out.push({ role: 'row', sort: 'bare', weight: w + W.rowBare, why: 'A side of a question that asks to match.', at: bullet });
    return out;
  },
};

const BANK_WORD =
  /^[\s\p{So}*]*(?:word ?(?:bank|box|list)|words?(?: to use)?|options|wortkasten|wörter|banco de palabras|palabras|banque de mots|mots|banca|parole|woordenbank|słowa|слова|kelimeler)\s*[:(]/iu;
const BANK_ROW = /^\s*[([|]?\s*[\p{L}'’-]+(?: [\p{L}'’-]+){0,3}(?:\s*[–·|/•,;]\s*[\p{L}'’-]+(?: [\p{L}'’-]+){0,3}){2,}\s*[)\]|]?\s*$/u;
const BANK_WIDE = /^\s*(?:[\p{L}'’-]+(?: [\p{L}'’-]+)?\s{2,}){2,}[\p{L}'’-]+\s*$/u;
/** Words to choose from. */
export const bank: Recogniser = {
  name: 'word bank',
  examples: [['> Word bank: yeast, salt, flour', 'bank']],
  find(v) {
    const t = v.line.text;
    if (v.facts.furniture) return [];
    if (BANK_WORD.test(t)) return [{ role: 'bank', weight: W.bank, why: 'Words to choose from.', at: v.facts.start }];
    const row =
      (BANK_ROW.test(t) && !/[.?!]\s*$/.test(t) && v.facts.length < 200 && v.after?.facts.furniture !== 'write-on') || (BANK_WIDE.test(t) && v.gap > 0);
    return row
      ? [{ role: 'bank', sort: 'row', weight: W.bankRow + (/^\s{4,}|^\s*[([|]/.test(t) ? 1 : 0), why: 'Words in a row, to choose from.', at: v.facts.start }]
      : [];
  },
};
