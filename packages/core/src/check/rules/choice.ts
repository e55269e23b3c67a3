/** Clues and form of options. */
import type { Item, Option } from '../../item/model.js';
import { letterOf } from '../../item/kinds.js';
import { parseNumber } from '../../mark/numbers.js';
import { guideline, type Rule } from '../finding.js';
import { contentWords, plainOf } from '../words.js';

const optionsOf = (i: Item): Option[] => ('options' in i ? i.options : []);
const keys = (options: readonly Option[]): Option[] => options.filter((o) => o.credit > 0);
const nameOf = (options: readonly Option[], o: Option): string => letterOf(options.indexOf(o));

export const keyLongest: Rule = {
  code: 'key-longest',
  name: 'The key is the longest option',
  why: 'Who writes a key takes care to make it right, and it grows. Learners know, and choose the longest.',
  source: guideline(24),
  ofItem(item, { lengthRatio }) {
    const options = optionsOf(item);
    const [key] = keys(options);
    if (item.kind !== 'multiple-choice' || !key || options.length < 3) return [];
    const own = plainOf(key.content).length;
    const others = Math.max(...options.filter((o) => o !== key).map((o) => plainOf(o.content).length));
    // short options differ by a word without saying anything
    if (own < 25 || own < others * lengthRatio || own - others < 12) return [];
    return [{ severity: 'warning', place: 'options', option: key.id, message: `The key ${nameOf(options, key)} is much longer than the other options.` }];
  },
};

const ALL_ABOVE =
  /^(?:all|both|each) of (?:the above|these|them)\b|^alle (?:genannten|antworten)|^todas las anteriores|^toutes ces réponses|^todas as anteriores|^tutte le precedenti|^alle bovenstaande|^wszystkie (?:powyższe|odpowiedzi)/i;
const NONE_ABOVE =
  /^none of (?:the above|these|them)\b|^keine (?:der genannten|antwort)|^ninguna de las anteriores|^aucune de ces réponses|^nenhuma das anteriores|^nessuna delle precedenti|^geen van bovenstaande|^żadna z powyższych/i;
export const aboveOptions: Rule = {
  code: 'all-or-none-of-the-above',
  name: '“All of the above” or “none of the above”',
  why: 'Who knows that two options are right knows that “all” is; who sees that one is wrong knows that it is not. “None” does not show that somebody knows what is right.',
  source: `${guideline(25)} and 26`,
  ofItem(item) {
    const options = optionsOf(item);
    return options.flatMap((o) => {
      const text = plainOf(o.content);
      const which = ALL_ABOVE.test(text) ? 'all' : NONE_ABOVE.test(text) ? 'none' : null;
      return which
        ? [
            {
              severity: 'note' as const,
              place: 'options' as const,
              option: o.id,
              message: `Option ${nameOf(options, o)} is “${which} of the above”${o.credit > 0 ? ', and it is the key' : ''}.`,
            },
          ]
        : [];
    });
  },
};

const ABSOLUTE =
  /(?<![\p{L}])(?:always|never|all|none|only|every|everyone|nobody|completely|impossible|immer|nie|niemals|alle|keine|nur|siempre|nunca|todos|jamás|toujours|jamais|tous|sempre|mai|nessuno|nunca|altijd|nooit|zawsze|nigdy)(?![\p{L}])/iu;
export const absolutes: Rule = {
  code: 'absolute-words',
  name: 'Absolute words in some options only',
  why: '“Always” and “never” are seldom true, and learners know it: options with them are struck out unread.',
  source: `${guideline(28)} a, specific determiners`,
  ofItem(item) {
    const options = optionsOf(item);
    const marked = options.filter((o) => ABSOLUTE.test(plainOf(o.content)) && !ALL_ABOVE.test(plainOf(o.content)) && !NONE_ABOVE.test(plainOf(o.content)));
    // words that all options have are the subject of the question
    if (!marked.length || marked.length > options.length / 2 || marked.some((o) => o.credit > 0) || options.length < 3) return [];
    return marked.map((o) => ({
      severity: 'note' as const,
      place: 'options' as const,
      option: o.id,
      message: `Option ${nameOf(options, o)} says “${ABSOLUTE.exec(plainOf(o.content))?.[0] ?? ''}”, which marks it as wrong.`,
    }));
  },
};

export const repeatedWords: Rule = {
  code: 'clue-repeated-words',
  name: 'The key repeats words of the question',
  why: 'A rare word that the question and the key have in common, and no other option has, points to the key.',
  source: `${guideline(28)} b, clang associations`,
  ofItem(item) {
    const options = optionsOf(item);
    const [key, ...more] = keys(options);
    if (!key || more.length || options.length < 3) return [];
    const stem = new Set(contentWords(plainOf(item.stem)));
    const others = new Set(options.filter((o) => o !== key).flatMap((o) => contentWords(plainOf(o.content))));
    const shared = [...new Set(contentWords(plainOf(key.content)))].filter((w) => w.length > 4 && !/\d/.test(w) && stem.has(w) && !others.has(w));
    return shared.length
      ? [
          {
            severity: 'warning',
            place: 'options',
            option: key.id,
            message: `Only the key ${nameOf(options, key)} repeats “${shared[0] ?? ''}…” of the question.`,
          },
        ]
      : [];
  },
};

export const articles: Rule = {
  code: 'clue-grammar',
  name: 'The article before the blank fits some options only',
  why: '“An” at the end of the question rules out every option that begins with a consonant.',
  source: `${guideline(28)} d, grammatical inconsistencies`,
  ofItem(item) {
    const options = optionsOf(item);
    const article = /(?<![\p{L}])(an?)\s*(?:_{2,}|…|\.{3})?[\s:.?]*$/iu.exec(plainOf(item.stem))?.[1]?.toLowerCase();
    if (!article || options.length < 2) return [];
    const fits = (o: Option): boolean => /^[aeiou]/i.test(plainOf(o.content)) === (article === 'an');
    const begun = options.filter((o) => /^[a-z]/i.test(plainOf(o.content)) && !/^(?:an?|the)\s/i.test(plainOf(o.content)));
    // sounds decide, not letters: hour, university
    if (begun.length < options.length || begun.some((o) => /^(?:ho(?:ur|nest|nour)|heir|uni|use|eu|one|u[bcfhjkqrstn][aeiou])/i.test(plainOf(o.content))))
      return [];
    if (begun.every(fits) || !keys(options).every(fits)) return [];
    return [
      {
        severity: 'warning',
        place: 'stem',
        message: `The question ends with “${article}”, which only some options follow.`,
        fix: {
          label: 'Write “a/an”',
          operations: [{ type: 'change', id: item.id, set: { stem: item.stem.replace(/(?<![\p{L}])an?(\s*(?:_{2,}|…|\.{3})?[\s:.?]*)$/iu, 'a/an$1') } }],
        },
      },
    ];
  },
};

export const numberOrder: Rule = {
  code: 'options-out-of-order',
  name: 'Numbers out of order',
  why: 'Numbers in order are found at a glance; out of order they cost time and test reading.',
  source: guideline(21),
  ofItem(item) {
    const options = optionsOf(item);
    if (options.length < 3 || options.some((o) => o.pinned)) return [];
    const values = options.map((o) => parseNumber(plainOf(o.content).replace(/^[€$£]\s?|\s?(?:°\s?[CF]|[\p{L}µ%€$£²³/]{1,6})$/gu, '')));
    if (values.some((v) => v === null)) return [];
    const numbers = values as number[];
    const rises = numbers.every((v, i) => i === 0 || v >= (numbers[i - 1] ?? v));
    const falls = numbers.every((v, i) => i === 0 || v <= (numbers[i - 1] ?? v));
    if (rises || falls) return [];
    const sorted = options.map((o, i) => ({ o, v: numbers[i] ?? 0 })).sort((a, b) => a.v - b.v);
    return [
      {
        severity: 'note',
        place: 'options',
        message: 'The options are numbers that stand in no order.',
        fix: { label: 'Put them in order', operations: [{ type: 'change', id: item.id, set: { options: sorted.map((s) => s.o) } }] },
      },
    ];
  },
};

const startsCapital = (t: string): boolean | null => (/^\p{Lu}/u.test(t) ? true : /^\p{Ll}/u.test(t) ? false : null);
export const optionForm: Rule = {
  code: 'options-unequal-form',
  name: 'Options written in different ways',
  why: 'One option with a full stop or a capital among others without looks like the one that was worked on.',
  source: guideline(23),
  ofItem(item) {
    const options = optionsOf(item);
    if (options.length < 3) return [];
    const texts = options.map((o) => plainOf(o.content));
    const stops = texts.filter((t) => /[^.]\.$/.test(t)).length;
    if (stops > 0 && stops < texts.length) {
      const few = stops <= texts.length / 2;
      return [
        {
          severity: 'note',
          place: 'options',
          message: `${stops} of ${texts.length} options end with a full stop.`,
          ...(few && {
            fix: {
              label: 'Take the full stops off',
              operations: [
                {
                  type: 'change' as const,
                  id: item.id,
                  set: { options: options.map((o) => ({ ...o, content: o.content.replace(/([^.])\.((?:<\/\w+>)*)$/, '$1$2') })) },
                },
              ],
            },
          }),
        },
      ];
    }
    const capitals = texts.map(startsCapital);
    const upper = capitals.filter((c) => c === true).length;
    // names and chemical signs begin with a capital for reasons of their own: only one that differs from at least two others is told
    const lower = capitals.filter((c) => c === false).length;
    if (lower === 1 && upper >= 2 && texts.every((t) => t.split(' ').length > 1))
      return [{ severity: 'note', place: 'options', message: 'One option begins with a small letter, the others with a capital.' }];
    return [];
  },
};
