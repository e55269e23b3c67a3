/** Reads and writes the set file (`*.zak.json`), and publishes its JSON Schema. */
import { z } from 'zod';
import {
  section as sectionSchema,
  item as itemSchema,
  setFile,
  asset as assetSchema,
  type Diagnostic,
  type Item,
  type QuizSet,
  type ReadResult,
  UNTITLED,
} from './model.js';
import { sanitiseRich } from './richText.js';
import { sanitiseFields, storable } from './sanitise.js';
import { translations as translationsSchema, type Translations } from './translations.js';
import { ReadError } from './readError.js';

/**
 * Reads a set file. An item that is not valid is left out and reported; the rest comes in.
 * @throws ReadError where the text is no set file at all
 */
export function readSetFile(text: string): ReadResult {
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (e) {
    throw new ReadError(`not a set file: ${(e as Error).message}`);
  }
  if (!raw || typeof raw !== 'object' || !('zakuska' in raw)) throw new ReadError('not a set file: no "zakuska" version in it');
  const file = raw as Record<string, unknown>;
  if (file['zakuska'] !== 1) throw new ReadError(`set file version ${String(file['zakuska'])} is not known here; this program reads version 1`);
  const diagnostics: Diagnostic[] = [];
  const told = (code: string, message: string): void => {
    diagnostics.push({ code, severity: 'error', from: 0, to: 0, line: 1, column: 1, message });
  };
  const each = <T>(value: unknown, schema: z.ZodType<T>, what: string): T[] => {
    if (value === undefined) return [];
    if (!Array.isArray(value)) {
      told('file-invalid', `"${what}s" is not a list.`);
      return [];
    }
    return value.flatMap((v, i) => {
      const r = schema.safeParse(v);
      if (r.success) return [sanitiseFields(r.data)];
      const issue = r.error.issues[0];
      told('item-invalid', `${what} ${i + 1} was left out: ${issue?.path.join('.') || what} ${issue?.message ?? 'is not valid'}.`);
      return [];
    });
  };
  const items = distinct(each<Item>(file['items'], itemSchema, 'item'), told);
  const sections = each(file['sections'], sectionSchema, 'section');
  const assets = Object.fromEntries(
    Object.entries((file['assets'] as object | undefined) ?? {}).flatMap(([k, v]) => {
      const r = assetSchema.safeParse(v);
      return /^[0-9a-f]{64}$/.test(k) && r.success ? [[k, r.data]] : [];
    }),
  );
  const string = (k: string): string | undefined => (typeof file[k] === 'string' ? file[k] : undefined);
  const set: QuizSet = { title: string('title') ?? UNTITLED, items };
  const description = string('description');
  const language = string('language');
  if (description) set.description = sanitiseRich(description);
  if (language) set.language = language;
  if (sections.length) set.sections = sections;
  if (Object.keys(assets).length) set.assets = assets;
  const others = readTranslations(file['translations'], told);
  if (others) set.translations = others;
  return { set, diagnostics, asides: [] };
}

/** The translations of a file; what is none is left out and told, by language. */
function readTranslations(value: unknown, told: (code: string, message: string) => void): Translations | null {
  if (value === undefined || value === null || typeof value !== 'object') return null;
  const out = Object.entries(value).flatMap(([language, units]) => {
    const r = translationsSchema.safeParse({ [language]: units });
    if (!r.success) told('file-invalid', `The translations into “${language.slice(0, 40)}” were left out: they are not as they should be.`);
    const own = r.success ? r.data[language] : undefined;
    return own ? [[language, Object.fromEntries(Object.entries(own).map(([id, t]) => [id, { ...t, text: sanitiseRich(storable(t.text)) }]))] as const] : [];
  });
  return out.length ? Object.fromEntries(out) : null;
}

function distinct(items: Item[], told: (code: string, message: string) => void): Item[] {
  const seen = new Set<string>();
  return items.filter((i, n) => {
    if (!seen.has(i.id)) return seen.add(i.id);
    told('item-invalid', `item ${n + 1} was left out: its id stands twice in the file.`);
    return false;
  });
}

/** Writes a set file. With a reader's result, its diagnostics and asides stand in it too. Same set, same text. */
export function writeSetFile(set: QuizSet, remarks?: Pick<ReadResult, 'diagnostics' | 'asides'>): string {
  const { title, description, language, sections, items, assets, translations } = set;
  return `${JSON.stringify({ zakuska: 1, title, description, language, sections, items, assets, translations, ...remarks }, null, 2)}\n`;
}

/** An id that is missing is made anew each time: no default to publish in a JSON Schema. */
export function withoutMadeIds({ jsonSchema }: { jsonSchema: { default?: unknown } }): void {
  if (typeof jsonSchema.default === 'string' && /^[0-9a-f]{8}-/.test(jsonSchema.default)) delete jsonSchema.default;
}

/** The JSON Schema (draft 2020-12) of the set file. */
export const setFileJsonSchema = (): object => ({
  $id: 'https://zakuska.example/set-file-1.schema.json',
  title: 'Zakuska set file, version 1',
  ...z.toJSONSchema(setFile, {
    io: 'input',
    override: withoutMadeIds,
  }),
});
