/** A cell of a response table as the response to an item: options by their words, letter or number, several in a cell, rows of a grid. */
import { letterOf } from '../item/kinds.js';
import type { Item, Option } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import { partsOf } from '../item/strip.js';
import { truth } from '../language/truths.js';
import type { Response } from '../mark/mark.js';
import { amount, sameAnswer } from './answers.js';

/** A cell with the heading that it stands under. */
export interface Cell {
  heading: string;
  cell: string;
}

const plain = (s: string): string => s.toLowerCase().replace(/\s+/g, ' ').trim();

const bare = new WeakMap<Option, string>();
/** The words of an option without looks: tables ask for them in every cell. */
function wordsOf(o: Option): string {
  const known = bare.get(o);
  if (known !== undefined) return known;
  const words = plain(plainOf(o.content));
  bare.set(o, words);
  return words;
}

/** The option that an answer names: by its words, by letter with or without them, by its number. */
function optionNamed(options: readonly Option[], said: string): Option | undefined {
  const s = plain(said);
  if (!s) return undefined;
  const byWords = options.find((o) => wordsOf(o) === s);
  if (byWords) return byWords;
  const letter = /^[([]?(\p{L})[)\].:]?(?:\s|$)/u.exec(said.trim())?.[1];
  const alone = /^[([]?\p{L}[)\].:]?$/u.test(said.trim());
  if (letter && (alone || /^[([]?\p{L}[)\].:]/u.test(said.trim()))) {
    const o = options.find((_, i) => letterOf(i).toLowerCase() === letter.toLowerCase());
    const words = plain(said.trim().replace(/^[([]?\p{L}[)\].:]?\s*/u, ''));
    // a letter whose words are another option's says the words
    const other = words ? options.find((x) => wordsOf(x) === words) : undefined;
    if (other ?? o) return other ?? o;
  }
  return (
    options.find((o) => sameAnswer(said, plainOf(o.content))) ??
    (/^\d{1,2}$/.test(s) && options.every((o) => !/^\d/.test(plainOf(o.content))) ? options[Number(s) - 1] : undefined)
  );
}

/** The options that a cell names, several at once: the longest wordings first, since options may hold the sign that parts them. */
function optionsNamed(options: readonly Option[], cell: string): Option[] {
  const whole = optionNamed(options, cell);
  if (whole) return [whole];
  let rest = ` ${plain(cell)} `;
  const found: Option[] = [];
  for (const o of [...options].sort((a, b) => plainOf(b.content).length - plainOf(a.content).length)) {
    const words = wordsOf(o);
    const at = words.length > 1 ? rest.indexOf(words) : -1;
    const edge = (c: string | undefined): boolean => c === undefined || !/[\p{L}\p{N}]/u.test(c);
    if (at < 0 || !edge(rest[at - 1]) || !edge(rest[at + words.length])) continue;
    found.push(o);
    rest = `${rest.slice(0, at)} ; ${rest.slice(at + words.length)}`;
  }
  for (const piece of rest.split(/[,;|\n]+/)) {
    const letters = /^\s*[A-H]{2,6}\s*$/i.test(piece) && options.every((o) => plainOf(o.content).length > 1) ? [...piece.trim()] : [piece];
    for (const l of letters) {
      const o = l.trim() ? optionNamed(options, l) : undefined;
      if (o && !found.includes(o)) found.push(o);
    }
  }
  return found;
}

/**
 * The response that cells say to an item; null where nothing was answered.
 * @param cells of the columns that are about it, in their order
 */
export function responseOf(item: Item, cells: readonly Cell[]): Response | null {
  const cell = cells[0]?.cell.trim() ?? '';
  if (!cells.some((c) => c.cell.trim())) return null;
  switch (item.kind) {
    case 'multiple-choice': {
      const o = optionNamed(item.options, cell);
      return { options: o ? [o.id] : ['?'] };
    }
    case 'multiple-response':
      return { options: optionsNamed(item.options, cell).map((o) => o.id) };
    case 'true-false': {
      const value = truth(cell.replace(/^[([]?\p{L}[)\].:]\s+/u, ''), true);
      return value === null ? null : { truth: value };
    }
    case 'cloze': {
      const given = cells.length > 1 ? cells.map((c) => c.cell) : item.gaps.length > 1 ? partsOf(cell, /[;|\n]|,\s/) : [cell];
      return {
        gaps: Object.fromEntries(
          item.gaps.map((g, i) => [g.id, g.kind === 'choice' ? (optionNamed(g.options, given[i] ?? '')?.id ?? given[i] ?? '') : (given[i] ?? '')]),
        ),
      };
    }
    case 'matching': {
      const by = new Map(cells.map((c) => [plain(/[[(]([^\][()]+)[\])]\s*$/.exec(c.heading)?.[1] ?? ''), c.cell]));
      const inOrder = cells.length === 1 ? partsOf(cell, /[;|\n]/) : cells.map((c) => c.cell);
      return {
        pairs: item.pairs.map((p, i) => {
          const said =
            by.get(plain(plainOf(p.left))) ??
            inOrder.find((x) => plain(x).startsWith(`${plain(plainOf(p.left))} `))?.replace(/^.*?(?:→|->|=|:|–|-)\s*/, '') ??
            inOrder[i] ??
            '';
          return [...item.pairs.map((x) => x.right), ...item.extraRights].find((r) => plain(plainOf(r)) === plain(said)) ?? (said || null);
        }),
      };
    }
    case 'ordering':
      return { order: partsOf(cell, /[;|\n>→]|,\s/).map((s) => item.sequence.find((x) => plain(plainOf(x)) === plain(s)) ?? s) };
    case 'numeric': {
      // a unit that the question does not ask for is no mistake
      const said = item.unit ? null : amount(cell);
      return { text: said ? String(said.value) : cell };
    }
    default:
      return { text: cell };
  }
}
