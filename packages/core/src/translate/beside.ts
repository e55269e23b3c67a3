/** The texts of a set with their translations side by side, as a person types them. */
import type { QuizSet } from '../item/model.js';
import { sanitiseRich } from '../item/richText.js';
import { storable } from '../item/sanitise.js';
import type { Translation } from '../item/translations.js';
import { lookUp } from '../language/lookUp.js';
import { fromCell, inCell, piecesOf, richOf } from './inline.js';
import { printOf, stateOf, type Unit, type UnitState, unitsOf } from './units.js';

/** A text with its translation; markup, gaps and formulas stand as codes: `<1>…</1>`, `<2/>`. */
export interface TranslationRow {
  unit: Unit;
  state: UnitState;
  original: string;
  /** Empty where there is none. */
  translated: string;
  /** What is kept of it. */
  kept?: Translation;
  /** What each code stands for, where there are any: "2: [gap]". */
  codes: string;
}

/** A text as the translation of a unit as it is now. */
const made = (unit: Unit, text: string, by: string): Translation => ({ text, print: printOf(unit.text), state: 'made', ...(by && { by }) });

const cellOf = (unit: Unit, text: string): string => (unit.rich ? inCell(piecesOf(text)) : text);

/** All texts of a set with their translations into a language, in the order of reading. */
export function sideBySide(set: QuizSet, language: string): TranslationRow[] {
  const own = set.translations?.[language] ?? {};
  return unitsOf(set).map((unit) => {
    const kept = lookUp(own, unit.id);
    const shown = (list: ReturnType<typeof piecesOf>): string[] =>
      list.flatMap((p) => (typeof p === 'string' ? [] : 'children' in p ? [`${p.id}: ${p.name}`, ...shown(p.children)] : [`${p.id}: ${p.raw.slice(0, 40)}`]));
    return {
      unit,
      state: stateOf(unit, kept),
      original: cellOf(unit, unit.text),
      translated: kept ? cellOf(unit, kept.text) : '',
      ...(kept && { kept }),
      codes: unit.rich ? shown(piecesOf(unit.text)).join(', ') : '',
    };
  });
}

/**
 * A translation as a person typed it.
 * @param typed with codes as `sideBySide` writes them
 * @throws BrokenCodes where a code is missing, comes twice, or is unknown
 */
export function typedTranslation({ unit }: Pick<TranslationRow, 'unit'>, typed: string, by: string): Translation {
  const text = storable(unit.rich ? sanitiseRich(richOf(fromCell(typed), unit.text)) : typed).trim();
  return made(unit, text, by);
}

/** The translation of a row as checked against the original as it is now; a checked one becomes open again. Nothing where there is none. */
export const checkedTranslation = ({ unit, state, kept }: TranslationRow, by: string): Translation | undefined =>
  kept && { ...kept, print: printOf(unit.text), state: state === 'checked' ? 'made' : 'checked', by };

/** Texts in another language as translations of the units of a set that they belong to; empty ones, and those of other units, are none. */
export function translationsFrom(set: QuizSet, texts: Readonly<Record<string, string>>, by: string): Record<string, Translation> {
  return Object.fromEntries(
    unitsOf(set).flatMap((unit) => {
      const text = lookUp(texts, unit.id);
      return text?.trim() ? [[unit.id, made(unit, text, by)]] : [];
    }),
  );
}
