/** What read sheets say, as people with responses: several pages of one person together, letters as the options that they stand for. */
import { goingSet } from '../bank/going.js';
import { fitSet } from '../fit/fit.js';
import { displayOrder } from '../formats/displayOrder.js';
import { rightsOnPaper } from '../formats/paper/key.js';
import { printedProfile } from '../formats/paper/profile.js';
import { type AnswerSheet, sheetOf, sheetPrint } from '../formats/paper/sheet.js';
import { atLetter } from '../item/kinds.js';
import type { Item, QuizSet } from '../item/model.js';
import type { SetDocument } from '../item/operations.js';
import type { Response } from '../mark/mark.js';
import type { KeptPerson } from '../responses/keep.js';

/** A sheet that may be met: of the set as it is, or of one of its versions. */
export interface KnownSheet {
  /** Name of the version; '' for the whole set. */
  version: string;
  set: QuizSet;
  sheet: AnswerSheet;
}

/** The answer sheets of a set and of all its versions, by the print in their codes. */
export function knownSheets(document: SetDocument): Map<string, KnownSheet> {
  const versions = [undefined, ...(document.drawn?.versions.map((v) => v.name) ?? [])];
  const languages = [undefined, ...Object.keys(document.set.translations ?? {})];
  const out = new Map<string, KnownSheet>();
  for (const [version, language] of versions.flatMap((v) => languages.map((l) => [v, l] as const))) {
    const going = goingSet(document, version, language);
    if (!going) continue;
    // as it is printed
    const { set } = fitSet(going, printedProfile);
    const print = sheetPrint(set);
    if (!out.has(print)) out.set(print, { version: version ?? '', set, sheet: sheetOf(set) });
  }
  return out;
}

/** What a field says, once nobody has to look at it any more. */
export interface SettledField {
  item: string;
  part?: string;
  /** Values of the circles, or what was written. */
  given: readonly string[];
}
/** One page, settled. */
export interface SettledPage {
  print: string;
  page: number;
  /** Whose it is, by the code or as somebody said. */
  name: string;
  fields: readonly SettledField[];
}

/** The response that an item's fields say; null where nothing was answered. */
function responseTo(item: Item, fields: readonly SettledField[]): Response | null {
  if (!fields.some((f) => f.given.some((v) => v.trim()))) return null;
  const given = fields[0]?.given ?? [];
  const of = (part: string): string | undefined => fields.find((f) => f.part === part)?.given[0];
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return { options: given.flatMap((l) => atLetter(item.options, l)?.id ?? []) };
    case 'true-false':
      return { truth: given[0] === 'true' };
    case 'cloze':
      return {
        gaps: Object.fromEntries(
          item.gaps.flatMap((g) => {
            const said = of(g.id);
            const value = said && g.kind === 'choice' ? atLetter(g.options, said)?.id : said;
            return value ? [[g.id, value]] : [];
          }),
        ),
      };
    case 'matching': {
      const rights = rightsOnPaper(item);
      return { pairs: item.pairs.map((_, i) => atLetter(rights, of(String(i))) ?? null) };
    }
    case 'ordering': {
      const printed = displayOrder(item.sequence.length).map((i) => item.sequence[i] ?? '');
      const places = printed.map((_, row) => of(String(row)));
      // a place that two steps have, or none, is nobody's
      return {
        order: printed.map((_, place) => printed.filter((__, row) => places[row] === String(place + 1))).map((s) => (s.length === 1 ? (s[0] as string) : '')),
      };
    }
    default:
      return given[0]?.trim() ? { text: given[0].trim() } : null;
  }
}

/** Who answered what, by the sheets of one print. */
export interface SheetPeople {
  print: string;
  version: string;
  items: Item[];
  people: KeptPerson[];
  /** What somebody should know before it is kept. */
  notes: string[];
}

/**
 * Puts pages together: those of one name and one print are one person's.
 * @returns the people of each print, in the order in which their first pages came
 */
export function peopleOf(pages: readonly SettledPage[], known: ReadonlyMap<string, KnownSheet>): SheetPeople[] {
  return [...known].flatMap(([print, { version, set, sheet }]) => {
    const here = pages.filter((p) => p.print === print);
    if (!here.length) return [];
    const notes: string[] = [];
    const byName = new Map<string, SettledPage[]>();
    for (const p of here) byName.set(p.name, [...(byName.get(p.name) ?? []), p]);
    const people = [...byName].map(([name, all]): KeptPerson => {
      const fields = new Map<string, SettledField[]>();
      for (let n = 1; n <= sheet.pages.length; n++) {
        const of = all.filter((p) => p.page === n);
        const page = sheet.pages.length > 1 ? `page ${n} of ${name}` : name;
        if (!of.length) notes.push(`There is no ${page}: its questions count as not answered.`);
        if (of.length > 1) notes.push(`There are ${of.length} sheets of ${page}: the last one counts.`);
        for (const f of of.at(-1)?.fields ?? []) fields.set(f.item, [...(fields.get(f.item) ?? []), f]);
      }
      const responses: KeptPerson['responses'] = {};
      for (const item of set.items) {
        const r = responseTo(item, fields.get(item.id) ?? []);
        if (r) responses[item.id] = r;
      }
      return { name, responses };
    });
    for (const { label } of sheet.left) notes.push(`Question ${label} has no place on the sheet: it is no part of these results.`);
    const asked = new Set(sheet.pages.flatMap((p) => p.fields.map((f) => f.item)));
    return [{ print, version, items: set.items.filter((i) => asked.has(i.id)), people, notes }];
  });
}
