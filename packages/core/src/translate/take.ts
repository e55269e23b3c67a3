/** What came back from translators, held against the set: taken unit by unit, or told why not. */
import type { QuizSet } from '../item/model.js';
import { sanitiseRich } from '../item/richText.js';
import { storable } from '../item/sanitise.js';
import type { Translation } from '../item/translations.js';
import { BrokenCodes, piecesOf, type Returned, richOf } from './inline.js';
import { printOf, unitsOf } from './units.js';

/** One unit as a file has it. */
export interface ReturnedUnit {
  /** Empty in a sheet without ids: then it is found by its original. */
  id: string;
  /** 1-based, where it stands in the file. */
  line: number;
  /** The original as it went out, with its codes; none where the file leaves it out. */
  source?: Returned[] | undefined;
  /** The translation; empty where there is none. */
  target: Returned[];
  checked: boolean;
  /** Why the unit could not be read. */
  broken?: string;
}
/** A file that came back. */
export interface ReturnedFile {
  /** The language of the translations; empty where the file does not say it. */
  language: string;
  units: ReturnedUnit[];
}

/** What became of the units of a file. */
export interface TakenTranslations {
  language: string;
  /** Taken, by the id of the unit. */
  taken: Record<string, Translation>;
  /** Units without a translation in the file. */
  untranslated: number;
  /** Units that say what the set says already. */
  same: number;
  /** Units that were not taken, or taken with a doubt. */
  told: { line: number; unit?: string; name: string; taken: boolean; why: string }[];
}

const wordsOf = (list: readonly Returned[]): string => list.map((r) => (typeof r === 'string' ? r : wordsOf(r.children ?? []))).join('');
/** Tools break and indent lines within texts: where the original is one line, its translation is one. */
const inOneLine = (list: readonly Returned[]): Returned[] =>
  list.map((r) => (typeof r === 'string' ? r.replace(/ ?\n\s*/g, ' ') : { ...r, ...(r.children && { children: inOneLine(r.children) }) }));
const key = (text: string): string => text.normalize('NFC').replace(/\s+/g, ' ').trim();

/**
 * Takes what came back into a set; nothing but texts can change.
 * @param file what was read
 * @param language of the translations, where the file does not say it
 * @param by who made them
 */
export function takeTranslations(set: QuizSet, file: ReturnedFile, language: string, by: string): TakenTranslations {
  const out: TakenTranslations = { language: file.language || language, taken: {}, untranslated: 0, same: 0, told: [] };
  const units = unitsOf(set);
  const byId = new Map(units.map((u) => [u.id, u]));
  const byText = new Map<string, typeof units>();
  const words = (u: (typeof units)[number]): string => key(wordsOf(u.rich ? returnedOf(u.text) : [u.text]));
  for (const u of units) byText.set(words(u), [...(byText.get(words(u)) ?? []), u]);
  const own: Record<string, Translation> = set.translations?.[out.language] ?? {};
  for (const r of file.units) {
    const named = byId.get(r.id);
    const name = named?.name ?? (r.source ? `“${wordsOf(r.source).slice(0, 60)}”` : r.id || 'a line');
    const tell = (why: string, taken = false): void => void out.told.push({ line: r.line, ...(named && { unit: named.id }), name, taken, why });
    if (r.broken) {
      tell(r.broken);
      continue;
    }
    const found = named ? [named] : r.id || !r.source ? [] : (byText.get(key(wordsOf(r.source))) ?? []);
    if (!found.length) {
      tell(r.id ? 'no text of this set has its id' : 'no text of this set reads so');
      continue;
    }
    if (!wordsOf(r.target).trim() && !r.target.some((t) => typeof t !== 'string')) {
      out.untranslated++;
      continue;
    }
    for (const u of found) {
      if (Object.hasOwn(out.taken, u.id)) {
        tell('it stands in the file twice; the first one is taken');
        continue;
      }
      try {
        const target = u.text.includes('\n') ? r.target : inOneLine(r.target);
        const text = storable(u.rich ? sanitiseRich(richOf(target, u.text)) : wordsOf(target)).trim();
        let print = printOf(u.text);
        // a unit whose original was another when it went out is of that one
        if (r.source && key(wordsOf(r.source)) !== words(u)) {
          print = printOf(wordsOf(r.source));
          tell('its original has changed since it went out', true);
        }
        const next: Translation = { text, print, state: r.checked ? 'checked' : 'made', ...(by && { by }) };
        const before = own[u.id];
        if (before && before.text === text && before.print === print && before.state === next.state) out.same++;
        else out.taken[u.id] = next;
      } catch (e) {
        if (!(e instanceof BrokenCodes)) throw e;
        tell(e.message);
      }
    }
  }
  return out;
}
/** The pieces of a text as if they had come back unchanged. */
const returnedOf = (text: string): Returned[] => {
  const strip = (list: ReturnType<typeof piecesOf>): Returned[] =>
    list.map((p) => (typeof p === 'string' ? p : 'children' in p ? { id: p.id, children: strip(p.children) } : { id: p.id }));
  return strip(piecesOf(text));
};
