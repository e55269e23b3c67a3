/** `zakuska draft`: items from a source by computation alone, as notation or as JSON with the sentence of each. */
import { parseArgs } from 'node:util';
import { guessLanguage, type SourceText, writeNotation } from '@zakuska/core';
import { type DraftedItems, type DraftedKind, draftedKinds, Drafter, type DraftWish } from '@zakuska/core/drafter';
import { english } from '@zakuska/documents/lexicon';
import { countsOf } from './request.js';

/** What is said to `zakuska draft`. */
export interface DraftOrder {
  file: string;
  wish: DraftWish;
  language?: string;
  json: boolean;
}

const USUAL: readonly DraftedKind[] = ['multiple-choice', 'true-false', 'numeric', 'short-answer'];

/** Understands the arguments. @throws Error that says what is wrong with them */
export function draftOrder(args: readonly string[]): DraftOrder {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      items: { type: 'string' },
      kinds: { type: 'string', default: USUAL.join(',') },
      options: { type: 'string', default: '4' },
      language: { type: 'string' },
      seed: { type: 'string', default: '1' },
      unsure: { type: 'boolean', default: false },
      json: { type: 'boolean', default: false },
    },
  });
  const [file] = positionals;
  if (file === undefined || positionals.length > 1) throw new Error('draft takes one source');
  const said = countsOf(values.kinds, draftedKinds);
  const options = Number(values.options);
  if (!Number.isInteger(options) || options < 3 || options > 6) throw new Error('--options needs a whole number from 3 to 6');
  let counts = said;
  if (values.items !== undefined) {
    const items = Number(values.items);
    if (!Number.isInteger(items) || items < 1 || items > 500) throw new Error('--items needs a whole number from 1 to 500');
    if (values.kinds.includes('=')) throw new Error('say the numbers with --items, or with each of --kinds');
    // spread over the kinds, the first ones taking what is left over
    counts = said.map(([kind], i) => [kind, Math.floor(items / said.length) + (i < items % said.length ? 1 : 0)]);
  }
  return {
    file,
    wish: { counts: Object.fromEntries(counts.filter(([, n]) => n > 0)), options, seed: values.seed, unsure: values.unsure },
    ...(values.language !== undefined && { language: values.language }),
    json: values.json,
  };
}

/** Drafts from a source; the language is guessed from it where none is said. */
export function draftFrom(source: SourceText, order: DraftOrder): DraftedItems {
  const text = source.cues?.map((c) => c.text).join(' ') ?? source.text;
  return new Drafter([source], order.language ?? guessLanguage(text) ?? 'en').draft(order.wish, english);
}

/** The items in the notation. */
export const draftText = (d: DraftedItems): string => (d.drafted.length ? writeNotation({ title: '', items: d.drafted.map((x) => x.item) }) : '');
/** The items with where each comes from and how it was made, and what could not be. */
export const draftJson = (d: DraftedItems): unknown => ({
  items: d.drafted.map(({ item, evidence, how, doubt }) => ({
    item,
    how,
    ...(doubt && { doubt }),
    evidence: evidence.map(({ sourceName, place, text, from, to, time }) => ({
      source: sourceName,
      place,
      text,
      from,
      to,
      ...(time !== undefined && { time }),
    })),
  })),
  fewer: d.fewer,
  sentences: d.sentences,
  usable: d.usable,
  ...(d.caution && { caution: d.caution }),
});
