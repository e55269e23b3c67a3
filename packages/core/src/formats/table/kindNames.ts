/** The kind of item that a cell names. */
import { KIND_NAME, KIND_NAME_ORDER } from '../../language/words.js';
import type { Kind } from '../../item/model.js';
import { partsOf } from '../../item/strip.js';
import { KIND_WORDS } from './grid.js';

const CODES: Readonly<Record<string, Kind>> = {
  mc: 'multiple-choice',
  mcq: 'multiple-choice',
  sc: 'multiple-choice',
  ma: 'multiple-response',
  mr: 'multiple-response',
  tf: 'true-false',
  sa: 'short-answer',
  num: 'numeric',
  fib: 'cloze',
  mat: 'matching',
  ord: 'ordering',
  ess: 'essay',
  open: 'essay',
};
/** The kind that a cell names, in words or by a code; null where it names none. */
export function kindNamed(cell: string): Kind | null {
  const t = cell.trim().toLowerCase().replace(/\s+/g, ' ');
  if (!t) return null;
  const own = (Object.entries(KIND_WORDS) as [Kind, string][]).find(([k, w]) => w === t || k === t)?.[0];
  if (own) return own;
  const code = CODES[t];
  if (code) return code;
  const named =
    KIND_NAME.exec(
      partsOf(t, /[/-]/)
        .join('/')
        .replace(/^(.*?)s?$/, '$1'),
    ) ?? KIND_NAME.exec(t);
  const at = named ? named.slice(1).findIndex(Boolean) : -1;
  if (at >= 0) return KIND_NAME_ORDER[at] ?? null;
  if (/true|false|wahr|richtig|verdadeir|verdader|vrai|vero|prawda|правда|верно|doğru/.test(t)) return 'true-false';
  if (/open|essay|offen|abiert|ouvert/.test(t)) return 'essay';
  if (/several|multiple (?:answer|response|select)|mehrfach/.test(t)) return 'multiple-response';
  if (/number|numer|calcul/.test(t)) return 'numeric';
  if (/short|text|word/.test(t)) return 'short-answer';
  if (/choice|single/.test(t)) return 'multiple-choice';
  return null;
}
