/** `zakuska translate`: a set's texts out to translators, and what came back into the set. */
import { parseArgs } from 'node:util';
import {
  progressOf,
  type QuizSet,
  type ReturnedFile,
  takeTranslations,
  type TakenTranslations,
  withTranslations,
  writeTranslationSheet,
  writeXliff,
  type XliffVersion,
  xliffVersions,
} from '@zakuska/core';
import { withStableIds } from './versions.js';

/** What is said to `zakuska translate`. */
export interface TranslateOrder {
  file: string;
  language: string;
  /** Out, in this form; none where something comes in. */
  as?: XliffVersion | 'sheet';
  /** Comes in. */
  from?: string;
  out?: string;
  json: boolean;
}

const LANGUAGE = /^[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*$/;

/** Understands the arguments. @throws Error that says what is wrong with them */
export function translateOrder(args: readonly string[]): TranslateOrder {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: {
      to: { type: 'string', default: '' },
      xliff: { type: 'string' },
      sheet: { type: 'boolean', default: false },
      from: { type: 'string' },
      out: { type: 'string', short: 'o' },
      json: { type: 'boolean', default: false },
    },
  });
  const [file] = positionals;
  if (file === undefined || positionals.length > 1) throw new Error('translate takes one set');
  if (values.to && !LANGUAGE.test(values.to)) throw new Error(`--to needs a language as BCP 47 writes it, as in fr or pt-BR; ${values.to} is none`);
  const version = xliffVersions.find((v) => v === values.xliff);
  if (values.xliff !== undefined && !version) throw new Error(`--xliff needs one of ${xliffVersions.join(', ')}`);
  const ways = [values.xliff !== undefined, values.sheet, values.from !== undefined].filter(Boolean).length;
  if (ways !== 1) throw new Error('translate needs one of --xliff 1.2|2.1, --sheet, and --from FILE');
  if (values.from === undefined && !values.to) throw new Error('--to says the language of the translations');
  return {
    file,
    language: values.to,
    ...(version ? { as: version } : values.sheet ? { as: 'sheet' as const } : {}),
    ...(values.from !== undefined && { from: values.from }),
    ...(values.out !== undefined && { out: values.out }),
    json: values.json,
  };
}

/**
 * A set whose file has no ids, with ids from what stands in it, so that what goes out is known when it comes back: items by their words,
 * options by their place.
 */
export const withTextIds = (set: QuizSet): QuizSet => {
  const { items, ...rest } = withStableIds(set);
  const placed = <T extends { id: string }>(options: readonly T[]): T[] => options.map((o, i) => ({ ...o, id: String(i + 1) }));
  return {
    ...rest,
    items: items.map((item) =>
      'options' in item
        ? { ...item, options: placed(item.options) }
        : item.kind === 'cloze'
          ? { ...item, gaps: item.gaps.map((g) => (g.kind === 'choice' ? { ...g, options: placed(g.options) } : g)) }
          : item,
    ),
  };
};

/** The texts of a set for translators, with the ending that such a file has. */
export const outgoing = (set: QuizSet, order: TranslateOrder): { text: string; ending: string } =>
  order.as === 'sheet' || !order.as
    ? { text: writeTranslationSheet(set, order.language), ending: '.csv' }
    : { text: writeXliff(set, order.language, order.as), ending: '.xlf' };

/** The set with what came back, and what became of each unit. @throws Error where no language is known */
export function merged(set: QuizSet, file: ReturnedFile, order: TranslateOrder): { set: QuizSet; taken: TakenTranslations } {
  if (!file.language && !order.language) throw new Error('the file does not say its language: say it with --to');
  const taken = takeTranslations(set, file, order.language, file.language ? 'translator' : 'sheet');
  return { set: withTranslations(set, taken.language, taken.taken), taken };
}

/** In a few lines: how many were taken, and what was not, with the reason. */
export function translateReport(set: QuizSet, taken: TakenTranslations): string {
  const now = progressOf(set, taken.language);
  return [
    `${taken.language}: ${Object.keys(taken.taken).length} taken, ${taken.same} as before, ${taken.untranslated} without a translation`,
    ...taken.told.map((t) => `line ${t.line}: ${t.name}: ${t.taken ? '' : 'not taken: '}${t.why}`),
    `${taken.language} now: ${now.checked} checked, ${now.made} made, ${now.stale} stale, ${now.missing} missing`,
  ].join('\n');
}
