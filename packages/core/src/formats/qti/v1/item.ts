/** Reads an `item` of QTI 1.2 (and its Common Cartridge profile): presentation, metadata, feedback. */
import { tidyRich } from '../../../item/sameness.js';
import { childOf, type XmlNode } from '../../xmlTree.js';
import type { AssessmentItem } from '../assessmentItem.js';
import type { Surroundings } from '../content.js';
import { apart } from '../split.js';
import { OWN_TOOL } from '../ownTool.js';
import { Conditions } from './conditions.js';
import { feedbackOf, furtherFields, Metadata, statedPoints } from './metadata.js';
import { labelledMaterials, presentationOf } from './presentation.js';

/** Points that the item says; null where it says none. A maximum of 100 is per cent where the file means it so. */
function pointsOf(scorer: Conditions, meta: Metadata, kind: string): number | null {
  const stated = statedPoints(meta);
  if (stated !== undefined) return stated;
  const max = scorer.decvars.find((d) => d.name === scorer.scoreName)?.max ?? Number.POSITIVE_INFINITY;
  const percent = max === 100 && (kind.startsWith('cc.') || meta.first('cc_profile') !== undefined || /percent/i.test(meta.first('qmd_scoretype') ?? ''));
  return percent ? 1 : Number.isFinite(max) ? max : null;
}

/** Reads one item: several where it asks several things one below the other. */
export function readItem1(item: XmlNode, surroundings: Surroundings): AssessmentItem[] {
  const meta = new Metadata(item);
  const exact = meta.first('qmd_toolvendor') === OWN_TOOL;
  const scorer = new Conditions(item, exact);
  const around = { ...surroundings, exact };
  const kind = (meta.first('question_type', 'qmd_itemtype', 'qmd_questiontype', 'cc_profile') ?? '').toLowerCase();
  const node = childOf(item, 'presentation') ?? { ...item, children: [] };
  const { stem, inline, parts, unsupported, around: places } = presentationOf(node, meta, kind, scorer, exact, around);
  const { feedback, more } = feedbackOf(item, around);
  const { title, lang } = item.attributes;
  const asked: AssessmentItem = {
    identifier: item.attributes['ident'] ?? '',
    line: item.line,
    ...(title && { title }),
    ...(lang && { language: lang }),
    stem: tidyRich(stem),
    inline,
    parts,
    scorer,
    points: pointsOf(scorer, meta, kind),
    scaled: true,
    ...(exact && { exact, fullScore: 100 }),
    feedback,
    more: { ...more, ...furtherFields(item, meta, around), ...labelledMaterials(node, around) },
    ...(unsupported && { unsupported }),
  };
  return places ? apart(asked, places.each, places.rest) : [asked];
}
