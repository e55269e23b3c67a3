/** Several drafts laid side by side: what is in each, how its keys lie, what the checks find, what the sources say, how hard it reads. */
import { readDraft } from '../draft/read.js';
import { type Checking, type Finding, findingsOf } from '../check/index.js';
import { readabilityOf, readingYear } from '../check/readability.js';
import { setText } from '../check/readText.js';
import { isQuestion, keyPlaces, keyProblem } from '../item/kinds.js';
import { type Item, type Kind, kindNames, type QuizSet } from '../item/model.js';
import { evidenceFor } from '../source/evidence.js';
import { indexSources, type SourceText } from '../source/sentences.js';

/** What the table says of one draft. */
export interface DraftFigures {
  /** Questions of each kind that is there, in the order of the kinds. */
  kinds: { kind: Kind; count: number }[];
  /** How often the key of a choice item stands at each place, from A on. */
  places: number[];
  /** Statements that are true, and all of them. */
  truths: { yes: number; of: number };
  withoutKey: number;
  /** Places where the reader was in doubt. */
  doubts: number;
  /** What the checks find, the gravest first, those of the whole draft before those of single items. */
  findings: Finding[];
  /** School year that the wording reads like; undefined where there are too few words. */
  year?: number;
  /** Items whose key the sources support, contradict, or say nothing of; undefined without sources. */
  evidence?: { supported: number; contradicted: number; silent: number };
}
/** A draft with its figures. */
export interface ComparedDraft {
  items: Item[];
  figures: DraftFigures;
}

const GRAVITY = { error: 0, warning: 1, note: 2 } as const;

/** Reads drafts and computes what they are compared by. @param language BCP 47, of the set they are for */
export function compareDrafts(
  texts: readonly string[],
  language: string | undefined,
  checking: Checking = {},
  sources: readonly SourceText[] = [],
): ComparedDraft[] {
  const index = sources.length ? indexSources(sources, language) : null;
  return texts.map((text) => {
    const { set: read, diagnostics } = readDraft(text, language ? { language } : {});
    const set: QuizSet = { ...read, ...(language && { language }) };
    const items = set.items.filter(isQuestion);
    const reading = readabilityOf(setText(set));
    const places: number[] = [];
    for (const i of items)
      if (i.kind === 'multiple-choice')
        for (const p of keyPlaces(i)) {
          while (places.length <= p) places.push(0);
          places[p] = (places[p] ?? 0) + 1;
        }
    const statements = items.flatMap((i) => (i.kind === 'true-false' && i.answer !== null ? [i.answer] : []));
    const verdicts = index?.sentences.length ? items.flatMap((i) => evidenceFor(i, index)?.verdict ?? []) : [];
    const findings = findingsOf({ ...set, items }, checking);
    return {
      items: set.items,
      figures: {
        kinds: kindNames.flatMap((kind) => {
          const count = items.filter((i) => i.kind === kind).length;
          return count ? [{ kind, count }] : [];
        }),
        places,
        truths: { yes: statements.filter(Boolean).length, of: statements.length },
        withoutKey: items.filter((i) => keyProblem(i) !== null).length,
        doubts: diagnostics.filter((d) => d.severity !== 'info').length,
        findings: findings.sort((a, b) => GRAVITY[a.severity] - GRAVITY[b.severity] || b.items.length - a.items.length),
        ...(reading && { year: readingYear(reading, language) }),
        ...(index && {
          evidence: {
            supported: verdicts.filter((v) => v === 'supported').length,
            contradicted: verdicts.filter((v) => v === 'contradicted' || v === 'disputed').length,
            silent: items.length - verdicts.filter((v) => v !== 'none').length,
          },
        }),
      },
    };
  });
}
