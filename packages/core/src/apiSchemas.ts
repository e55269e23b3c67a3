/** JSON Schemas of what travels between browser and server, from the schemas of the model: one description for both sides. */
import { z } from 'zod';
import { item, section, setFile } from './item/model.js';
import { withoutMadeIds } from './item/setFile.js';
import { aim, operation, review, simpleOperation } from './item/operations.js';
import { paperLook } from './formats/paper/look.js';
import { wish } from './compose/request.js';
import { sense } from './lexicon/lexicon.js';
import { decision } from './mark/decisions.js';
import { response } from './mark/mark.js';
import { outsideRules, quizRules, rulesChange } from './take/rules.js';

/** The schema of a set as it travels: a set file without the reader's remarks. */
export const quizSet = setFile.omit({ zakuska: true, diagnostics: true, asides: true });
const setDocument = z.object({
  set: quizSet,
  reviews: z.record(z.string(), review),
  dismissed: z.record(z.string(), z.string()).optional(),
  aim: aim.optional(),
});
const mark = z.object({
  credit: z.number(),
  points: z.number(),
  state: z.enum(['right', 'partly', 'wrong', 'unanswered', 'by-hand']),
  reason: z.string(),
  comment: z.string().optional(),
});

const NAMED = {
  Item: item,
  Section: section,
  QuizSet: quizSet,
  Review: review,
  SetDocument: setDocument,
  SimpleOperation: simpleOperation,
  Operation: operation,
  Response: response,
  Mark: mark,
  Decision: decision,
  Wish: wish,
  Sense: sense,
  PaperLook: paperLook,
  QuizRules: quizRules,
  OutsideRules: outsideRules,
  RulesChange: rulesChange,
} as const;
/** Names of the schemas. */
export type ApiSchema = keyof typeof NAMED;

/**
 * All schemas by their names, JSON Schema 2020-12.
 * @param uri where a schema of a name is found, for references of one to another
 */
export function apiSchemas(uri: (name: string) => string): Record<ApiSchema, object> {
  const registry = z.registry<{ id: string }>();
  for (const [id, schema] of Object.entries(NAMED)) registry.add(schema, { id });
  const { schemas } = z.toJSONSchema(registry, { uri, io: 'output', unrepresentable: 'any', override: withoutMadeIds });
  return Object.fromEntries(Object.entries(schemas).map(([name, { $id: _id, $schema: _schema, ...rest }]) => [name, rest])) as Record<ApiSchema, object>;
}
