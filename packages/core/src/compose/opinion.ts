/** A second opinion on the keys: the items go out without them, and the answers that come back are laid beside them. */
import { readDraft } from '../draft/read.js';
import { writeNotation } from '../formats/notation/notation.js';
import type { Finding } from '../check/finding.js';
import { isGraded, keyProblem, keySign, letterOf } from '../item/kinds.js';
import { type Item, UNTITLED } from '../item/model.js';
import { plainOf } from '../item/richText.js';
import { partsOf, stripEnd } from '../item/strip.js';
import { mark } from '../mark/mark.js';
import { rightResponse } from '../mark/answers.js';
import { compareKeys } from '../rework/keys.js';

/** What can be asked for an opinion: items that have a key and mark themselves. */
export const mayBeAsked = (i: Item): boolean => isGraded(i) && keyProblem(i) === null;

/** An item without its key, and without what gives it away. Matching and ordering are shown in an order that says nothing. */
function withoutKey(i: Item): Item {
  const { feedback: _f, hints: _h, section: _s, ...rest } = i;
  const item = rest as Item;
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return { ...item, options: item.options.map(({ feedback: __, ...o }) => ({ ...o, credit: 0 })) };
    case 'true-false':
      return { ...item, answer: null, optionFeedback: undefined } as Item;
    case 'short-answer':
    case 'numeric':
      return { ...item, answers: [] } as Item;
    case 'cloze':
      return {
        ...item,
        gaps: item.gaps.map((g) => (g.kind === 'choice' ? { ...g, options: g.options.map((o) => ({ ...o, credit: 0 })) } : { ...g, answers: [] })),
      } as Item;
    default:
      return item;
  }
}
/** The rights of a matching item, or the steps of an ordering one, in an order that says nothing: by the alphabet. */
const shown = (list: readonly string[]): string[] => [...new Set(list)].sort((a, b) => plainOf(a).localeCompare(plainOf(b)));
const rightsOf = (i: Extract<Item, { kind: 'matching' }>): string[] => shown([...i.pairs.map((p) => p.right), ...i.extraRights]);
const stepsOf = (i: Extract<Item, { kind: 'ordering' }>): string[] => shown(i.sequence);

/** One item as the request shows it, numbered. */
function shownAs(i: Item, n: number): string {
  const plain = (s: string): string => plainOf(s).replace(/\s+/g, ' ').trim();
  if (i.kind === 'matching')
    return [`${n}. ${plain(i.stem)}`, ...i.pairs.map((p, k) => `${k + 1}) ${plain(p.left)}`), ...rightsOf(i).map((r, k) => `${letterOf(k)}) ${plain(r)}`)].join(
      '\n',
    );
  if (i.kind === 'ordering') return [`${n}. ${plain(i.stem)}`, ...stepsOf(i).map((s, k) => `${letterOf(k)}) ${plain(s)}`)].join('\n');
  if (i.kind === 'cloze') {
    const words = i.stem.replace(/\[\[([^\][]+)\]\]/g, (whole, id: string) => {
      const at = i.gaps.findIndex((g) => g.id === id);
      const g = i.gaps[at];
      return !g ? whole : g.kind === 'choice' ? `(${at + 1}: ${g.options.map((o) => plain(o.content)).join(' / ')})` : `(${at + 1}) ____`;
    });
    return [`${n}. ${plain(words)}`, ...(i.wordBank?.length ? [`Words: ${i.wordBank.join(', ')}`] : [])].join('\n');
  }
  return writeNotation({ title: UNTITLED, items: [withoutKey({ ...i, label: String(n) } as Item)] })
    .replace(/^\d+\./, `${n}.`)
    .trim();
}
const FORMS: Readonly<Partial<Record<Item['kind'], string>>> = {
  'multiple-choice': 'the letter of the right option: "3. B | because …"',
  'multiple-response': 'the letters of all right options: "3. A, C | because …"',
  'true-false': '"3. true | because …" or "3. false | because …"',
  'short-answer': 'the word or words: "3. yeast | because …"',
  numeric: 'the number: "3. 42 | because …"',
  cloze: 'the words of the blanks in order, parted by " / ": "3. flour / water | because …"',
  matching: 'number and letter of each pair: "3. 1B 2A | because …"',
  ordering: 'the letters in the right order: "3. B A C | because …"',
};

/** Composes the request that asks for answers without showing the keys; items without a key are left out. */
export function composeOpinion(items: readonly Item[]): { text: string; asked: Item[] } {
  const list = items.filter(mayBeAsked);
  const forms = [...new Set(list.map((i) => i.kind))].flatMap((k) => FORMS[k] ?? []);
  const text = `${[
    `Answer these ${list.length} questions as well as you can. Do not guess what an author may have had in mind: say what is right. Where a question has no right answer, or more than one, say so in the reason.`,
    `Give one line for each, in order: the number, the answer, a stroke "|", and the reason in one sentence.\n${forms.map((f) => `- ${f}`).join('\n')}\nWrite nothing else.`,
    list.map((i, n) => shownAs(i, n + 1)).join('\n\n'),
  ].join('\n\n')}\n`;
  return { text, asked: list };
}

/** How an answer that came back stands to the key. */
export interface Opinion {
  item: Item;
  /** As it came back; undefined where nothing did. */
  said?: string;
  reason?: string;
  /** Whether it is right by the item's own key; null where nothing came back, or nothing that could be compared. */
  agrees: boolean | null;
}

const ENTRY = /^\s*(?:[-*•]\s*)?(?:\*\*)?\s*(?:(?:question|item|answer|no\.?|q)\s*)?#?(\d{1,4})\s*(?:[.):\]|–—-]|\*\*)+\s*(.*)$/iu;
/** What a reply says of each number: the answer and the reason. Lines that go on from the one above belong to its reason. */
export function answersIn(reply: string): Map<number, { said: string; reason: string }> {
  const out = new Map<number, { said: string; reason: string }>();
  let last: { said: string; reason: string } | undefined;
  for (const raw of reply.split(/\r?\n/)) {
    const line = raw.replace(/\\([|.])/g, '$1').trim();
    // cells of a table
    const cells = /^\|(.+)\|$/
      .exec(line)?.[1]
      ?.split('|')
      .map((c) => c.trim());
    const row = cells && /^\d{1,4}\.?$/.test(cells[0] ?? '') ? `${(cells[0] ?? '').replace('.', '')}. ${cells[1] ?? ''} | ${cells.slice(2).join(' ')}` : line;
    const m = ENTRY.exec(row);
    if (m) {
      const number = Number(m[1]);
      const [said = '', ...reasons] = parted((m[2] ?? '').replace(/\*\*|__|`/g, '').trim());
      last = { said: said.replace(/^(?:answer|key|correct(?: answer)?)\s*[:=]\s*/i, '').trim(), reason: reasons.join(' ').trim() };
      // the first that says something counts; what is said of a number twice is no opinion
      if (!out.has(number)) out.set(number, last);
    } else if (last && line && !/^[-=*_]{3,}$/.test(line))
      last.reason = `${last.reason} ${line.replace(/^\s*(?:reason|because|explanation)\s*[:–-]?\s*/i, '').replace(/\*\*|`/g, '')}`.trim();
  }
  return out;
}
/** Answer and reason: parted by a stroke, else by a dash, a full stop behind a letter, "because", or brackets. */
function parted(words: string): string[] {
  const stroke = words.indexOf('|');
  if (stroke >= 0) return [words.slice(0, stroke), words.slice(stroke + 1)];
  const m = /\s+[–—-]{1,2}\s+|\s*[;,.]?\s+(?=(?:because|since|as)\b)|(?<=^\(?[A-Ha-h]\)?)[.:]\s+|(?<=^(?:true|false))[.,:]\s+|\s+\((?=[^()]{8,}\)$)/iu.exec(
    words,
  );
  return m ? [words.slice(0, m.index), words.slice(m.index + m[0].length).replace(/\)$/, '')] : [words];
}

const LETTERS = /(?<![\p{L}\p{N}])[([]?([A-Za-z])[)\].]?(?![\p{L}\p{N}])/gu;
const lettersOf = (said: string): number[] => [...said.matchAll(LETTERS)].map((m) => (m[1] ?? '').toUpperCase().charCodeAt(0) - 65);

/** Whether an answer is right by the item's key; null where it cannot be told. */
function agreesWith(item: Item, said: string): boolean | null {
  if (!said) return null;
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const words = item.options.findIndex((o) => plainOf(o.content).trim().toLowerCase() === said.toLowerCase().replace(/[.]$/, ''));
      // "B) sugars from the flour": the letter in front
      const lead = /^[([]?([A-Za-z])[)\].:]+\s*\S/u.exec(said)?.[1];
      const places =
        words >= 0
          ? [words]
          : lead && item.kind === 'multiple-choice'
            ? [lead.toUpperCase().charCodeAt(0) - 65]
            : lettersOf(said.replace(/\b(?:and|or|options?|answers?|both)\b/gi, ' '));
      const chosen = [...new Set(places)].flatMap((p) => item.options[p]?.id ?? []);
      if (!chosen.length || chosen.length !== new Set(places).size) return null;
      return mark(item, { options: chosen }).credit === 1;
    }
    case 'matching': {
      const rights = rightsOf(item);
      const given = [...said.matchAll(/(\d{1,2})\s*[-–:=→>.)]*\s*([A-Za-z])(?![\p{L}])/gu)];
      if (!given.length) return null;
      const pairs = item.pairs.map((_, k) => rights[(given.find((g) => Number(g[1]) === k + 1)?.[2] ?? '').toUpperCase().charCodeAt(0) - 65] ?? null);
      return mark(item, { pairs }).credit === 1;
    }
    case 'ordering': {
      const steps = stepsOf(item);
      const order = lettersOf(said).flatMap((p) => steps[p] ?? []);
      return order.length === steps.length ? mark(item, { order }).credit === 1 : null;
    }
    case 'cloze': {
      const parts = partsOf(said, /[/;]/);
      if (parts.length !== item.gaps.length) return item.gaps.length === 1 ? mark(item, gapsOf(item, [said])).credit === 1 : null;
      return mark(item, gapsOf(item, parts)).credit === 1;
    }
    case 'true-false': {
      const truth = /^\W*(?:true|t|yes)\b/i.test(said) ? true : /^\W*(?:false|f|no)\b/i.test(said) ? false : null;
      return truth === null ? null : mark(item, { truth }).credit === 1;
    }
    case 'short-answer':
      return mark(item, { text: stripEnd(said.replace(/^["“]/, ''), /["”.]/) }).credit === 1;
    case 'numeric': {
      // "29.375" as it stands, before a reader of drafts could take its point for one of thousands
      if (mark(item, { text: said }).credit === 1) return true;
      const read = readDraft(`1. ${plainOf(item.stem)}\nKind: numeric\nAnswer: ${said}\n`).set.items[0];
      const given = read ? rightResponse(read) : null;
      return given && 'text' in given ? mark(item, given).credit === 1 || !compareKeys(item, read as Item, false).changed : null;
    }
    default:
      return null;
  }
}
function gapsOf(item: Extract<Item, { kind: 'cloze' }>, parts: readonly string[]): { gaps: Record<string, string> } {
  return {
    gaps: Object.fromEntries(
      item.gaps.map((g, i) => {
        const part = (parts[i] ?? '').replace(/^\(?\d+[):.]\s*/, '').trim();
        const option = g.kind === 'choice' ? g.options.find((o) => plainOf(o.content).trim().toLowerCase() === part.toLowerCase()) : undefined;
        return [g.id, option?.id ?? part];
      }),
    ),
  };
}

/**
 * Lays the answers of a reply beside the keys.
 * @param asked the items of the request, in its order; undefined where one is gone since
 * @param request its text: an item that reads otherwise by now cannot be compared, because its options may stand elsewhere
 * @param known what was found for items before, of the same request and reply: an item that did not change is not looked at again
 */
export function opinionsOf(asked: readonly (Item | undefined)[], reply: string, request?: string, known = new WeakMap<Item, Opinion>()): Opinion[] {
  const answers = answersIn(reply);
  const shownThen = request === undefined ? undefined : `${request.trimEnd()}\n\n`;
  const opinionOf = (item: Item, number: number): Opinion => {
    const a = answers.get(number);
    if (!a?.said) return { item, agrees: null };
    const same = shownThen === undefined || shownThen.includes(`\n\n${shownAs(item, number)}\n\n`);
    return { item, said: a.said, ...(a.reason && { reason: a.reason }), agrees: same ? agreesWith(item, a.said) : null };
  };
  return asked.flatMap((item, n): Opinion[] => {
    if (!item) return [];
    const opinion = known.get(item) ?? opinionOf(item, n + 1);
    known.set(item, opinion);
    return [opinion];
  });
}

/** What a second opinion says against keys, as findings. */
export const opinionFindings = (opinions: readonly Opinion[]): Finding[] =>
  opinions
    .filter((o) => o.agrees === false)
    .map((o) => ({
      code: 'second-opinion',
      severity: 'warning',
      items: [o.item.id],
      place: 'key',
      message: `A second opinion on the key ${keySign(o.item)} says “${o.said ?? ''}”${o.reason ? `: ${o.reason}` : '.'}`,
    }));
