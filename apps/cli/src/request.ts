/** `zakuska request`: the text to give to any assistant, so that its reply reads without a doubt. */
import { parseArgs } from 'node:util';
import { type Addition, additions, askedKinds, type Wish, wishSchema } from '@zakuska/core';

/** What is said to `zakuska request`, and the file that the items are to be made from. @throws Error that says what is wrong with it */
export function requestOf(args: readonly string[]): { wish: Omit<Wish, 'source'>; source?: string } {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      topic: { type: 'string', default: '' },
      kinds: { type: 'string', default: 'multiple-choice=8,true-false=2' },
      options: { type: 'string', default: '4' },
      language: { type: 'string', default: 'en' },
      level: { type: 'string', default: '' },
      outcome: { type: 'string', multiple: true, default: [] },
      add: { type: 'string', default: 'feedback' },
      most: { type: 'string', default: '12000' },
      wish: { type: 'string', default: '' },
    },
  });
  if (positionals.length > 1) throw new Error('request takes one source');
  const counts = Object.fromEntries(countsOf(values.kinds, askedKinds));
  const add = list(values.add).map((a): Addition => {
    if (!(additions as readonly string[]).includes(a)) throw new Error(`--add needs some of ${additions.join(', ')}`);
    return a as Addition;
  });
  const said = wishSchema.safeParse({
    topic: values.topic,
    counts,
    options: Number(values.options),
    language: values.language,
    level: values.level,
    outcomes: values.outcome,
    add,
    most: Number(values.most),
    more: values.wish,
  });
  if (!said.success) {
    const [first] = said.error.issues;
    throw new Error(`--${first?.path.join('.') ?? ''}: ${first?.message ?? 'cannot be understood'}`);
  }
  return { wish: said.data, ...(positionals[0] !== undefined && { source: positionals[0] }) };
}
/** The parts of what is said with commas. */
export const list = (text: string): string[] =>
  text
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean);
/** How many items of each kind, said as "multiple-choice=8,true-false": one where no number is said. @throws Error that names the kinds there are */
export const countsOf = <K extends string>(text: string, kinds: readonly K[]): [K, number][] => list(text).map((t) => countOf(t, kinds));
function countOf<K extends string>(text: string, kinds: readonly K[]): [K, number] {
  const at = text.lastIndexOf('=');
  const kind = (at < 0 ? text : text.slice(0, at)).trim();
  const n = at < 0 ? 1 : Number(text.slice(at + 1));
  const known = kinds.find((k) => k === kind);
  if (!known) throw new Error(`--kinds needs some of ${kinds.join(', ')}, as in multiple-choice=8`);
  if (!Number.isInteger(n) || n < 1 || n > 200) throw new Error(`--kinds ${kind} needs a whole number from 1 to 200`);
  return [known, n];
}
