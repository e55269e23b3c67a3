/** What a QTI 1.2 item says beside its presentation: metadata, feedback, hints, rubric, time, level. */
import { bloomLevels } from '../../../item/model.js';
import { richToPlain } from '../../../item/richText.js';
import { partsOf } from '../../../item/strip.js';
import { childOf, childrenOf, descendants, textOf, type XmlNode } from '../../xmlTree.js';
import type { AssessmentItem } from '../assessmentItem.js';
import { joinRich, richOfMaterial, type Surroundings } from '../content.js';

/** Whether a flag of a file says yes. */
export const yes = (text: string | undefined): boolean => /^(yes|true|1)$/i.test(text ?? '');

/** The fields of `qtimetadata`, by their labels in lower case; several of one label stay several. */
export function metadataOf(item: XmlNode): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const f of descendants(childOf(item, 'itemmetadata') ?? { ...item, children: [] }, 'qtimetadatafield')) {
    const label = textOf(childOf(f, 'fieldlabel') ?? f)
      .trim()
      .toLowerCase();
    const entry = textOf(childOf(f, 'fieldentry') ?? { ...f, children: [] }).trim();
    if (entry) out.set(label, [...(out.get(label) ?? []), entry]);
  }
  return out;
}

/** Seconds of an ISO 8601 duration ("PT2M", "PT90.5S"); undefined where it is none. */
export function seconds(duration: string): number | undefined {
  const m = /^P(?:(\d+)D)?T?(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:\.\d+)?)S)?$/.exec(duration.trim());
  const n = m ? Number(m[1] ?? 0) * 86400 + Number(m[2] ?? 0) * 3600 + Number(m[3] ?? 0) * 60 + Number(m[4] ?? 0) : 0;
  return n > 0 ? n : undefined;
}

/** The fields of an item by their labels, the first of each. */
export class Metadata {
  readonly fields: ReadonlyMap<string, string[]>;
  constructor(item: XmlNode) {
    this.fields = metadataOf(item);
  }
  /** The first entry of the first label that there is. */
  first(...labels: string[]): string | undefined {
    return labels.map((l) => this.fields.get(l)?.[0]).find((v) => v !== undefined);
  }
  /** All entries of some labels. */
  all(...labels: string[]): string[] {
    return labels.flatMap((l) => this.fields.get(l) ?? []);
  }
}

const POINTS = ['points_possible', 'qmd_weighting', 'cc_weighting', 'qmd_maximumscore', 'qmd_maxscore', 'max_score', 'points'];
/** The points that the metadata state; undefined where they state none. */
export function statedPoints(meta: Metadata): number | undefined {
  const stated = POINTS.map((l) => meta.first(l)).find((v) => v !== undefined && Number.isFinite(Number(v)));
  return stated === undefined ? undefined : Number(stated);
}

type More = AssessmentItem['more'];

/** The texts of some elements as rich text, without empty ones. */
const richOf = (nodes: readonly XmlNode[], around: Surroundings): string[] => nodes.map((n) => richOfMaterial(n, around)).filter(Boolean);

/** Feedback by its ident; hints and solutions that stand in it are fields of their own. */
export function feedbackOf(item: XmlNode, around: Surroundings): { feedback: Map<string, string>; more: More } {
  const feedback = new Map<string, string>();
  const hints: string[] = [];
  const solutions: string[] = [];
  for (const f of childrenOf(item, 'itemfeedback')) {
    hints.push(...richOf(descendants(f, 'hintmaterial'), around));
    solutions.push(...richOf(descendants(f, 'solutionmaterial'), around));
    const rest = richOfMaterial({ ...f, children: f.children.filter((c) => typeof c === 'string' || !/^(hint|solution)$/.test(c.name)) }, around);
    if (rest) feedback.set(f.attributes['ident'] ?? '', rest);
  }
  return { feedback, more: { ...(hints.length && { hints }), ...(solutions.length && { modelAnswer: joinRich(solutions, ' ') }) } };
}

/** The level that the metadata state. */
function levelOf(meta: Metadata): NonNullable<More['level']> {
  const bloom = bloomLevels.find((b) => b === meta.first('bloom')?.toLowerCase());
  const depth = meta.first('depth') ?? '';
  const difficulty = meta.first('difficulty') ?? '';
  return {
    ...(bloom && { bloom }),
    ...(/^[1-4]$/.test(depth) && { depth: Number(depth) }),
    ...(/^(0(\.\d+)?|1)$/.test(difficulty) && { difficulty: Number(difficulty) }),
  } as NonNullable<More['level']>;
}

/** All further fields of an item. */
export function furtherFields(item: XmlNode, meta: Metadata, around: Surroundings): More {
  const rubrics = richOf(childrenOf(item, 'rubric'), around);
  const time = seconds(textOf(childOf(item, 'duration') ?? { ...item, children: [] }));
  const outcomes = [...richOf(childrenOf(item, 'objectives'), around).map(richToPlain).filter(Boolean), ...meta.all('outcome')];
  const tags = [...meta.all('qmd_keywords').flatMap((k) => partsOf(k, ',')), ...meta.all('keyword', 'cc_question_category', 'qmd_topic')].filter(Boolean);
  const level = levelOf(meta);
  const required = meta.first('required');
  const label = meta.first('label') ?? item.attributes['label'];
  return {
    ...(rubrics.length && { rubric: joinRich(rubrics, ' ') }),
    ...(time && { timeLimit: time }),
    ...(outcomes.length && { outcomes }),
    ...(tags.length && { tags }),
    ...(Object.keys(level).length && { level }),
    ...(required !== undefined && { required: yes(required) }),
    ...(yes(meta.first('bonus')) && { bonus: true }),
    ...(label && { label }),
  };
}
