/** Reads an `item` of QTI 1.2 (and its Common Cartridge profile): presentation, metadata, feedback. */
import { bloomLevels } from '../../../item/model.js';
import { isMarkup, richToPlain } from '../../../item/richText.js';
import { tidyRich } from '../../../item/sameness.js';
import { childOf, childrenOf, descendants, textOf, type XmlNode } from '../../xmlTree.js';
import type { AssessmentItem, Choice, Interaction } from '../assessmentItem.js';
import { OWN_TOOL } from '../ownTool.js';
import { Conditions } from './conditions.js';
import { joinRich, richOfMaterial, type Surroundings } from '../content.js';
import { partsOf } from '../../../item/strip.js';

const RESPONSES = ['response_lid', 'response_str', 'response_num', 'response_grp', 'response_xy'];
const yes = (text: string | undefined): boolean => /^(yes|true|1)$/i.test(text ?? '');

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

const POINTS = ['points_possible', 'qmd_weighting', 'cc_weighting', 'qmd_maximumscore', 'qmd_maxscore', 'max_score', 'points'];
/** Seconds of an ISO 8601 duration ("PT2M", "PT90.5S"); undefined where it is none. */
export function seconds(duration: string): number | undefined {
  const m = /^P(?:(\d+)D)?T?(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:\.\d+)?)S)?$/.exec(duration.trim());
  const n = m ? Number(m[1] ?? 0) * 86400 + Number(m[2] ?? 0) * 3600 + Number(m[3] ?? 0) * 60 + Number(m[4] ?? 0) : 0;
  return n > 0 ? n : undefined;
}

type Token = { text: string } | { response: XmlNode };

/** Texts and responses in the order in which they stand. */
function tokensOf(presentation: XmlNode, around: Surroundings): Token[] {
  const out: Token[] = [];
  const walk = (n: XmlNode): void => {
    for (const c of childrenOf(n)) {
      if (RESPONSES.includes(c.name)) out.push({ response: c });
      else if (c.name === 'material' && (c.attributes['label'] === 'unit' || c.attributes['label'] === 'word-bank')) continue;
      else if (c.name === 'material' || c.name.startsWith('mat')) {
        const text = richOfMaterial(c, around);
        // white space alone still parts two gaps
        if (!text && /^\s+$/.test(textOf(childOf(c, 'mattext') ?? c)) && childOf(c, 'mattext')) out.push({ text: ' ' });
        // what stands in a block of its own is parted from what follows
        if (text) out.push({ text: inLine(c) ? keepEnds(text, c) + (n.name === 'flow_mat' ? ' ' : '') : text });
      } else walk(c);
    }
  };
  walk(presentation);
  return out;
}
const inLine = (material: XmlNode): boolean => !isMarkup(textOf(material));
/** A piece of a line keeps the blank at its ends, where a gap comes before or behind. */
const keepEnds = (text: string, material: XmlNode): string => {
  const raw = textOf(childrenOf(material)[0] ?? material);
  return `${/^\s/.test(raw) ? ' ' : ''}${text}${/\s$/.test(raw) ? ' ' : ''}`;
};

/** Reads one item. */
export function readItem1(item: XmlNode, surroundings: Surroundings): AssessmentItem {
  const scorer = new Conditions(item);
  const meta = metadataOf(item);
  const exact = meta.get('qmd_toolvendor')?.[0] === OWN_TOOL;
  const around = { ...surroundings, exact };
  const first = (...labels: string[]): string | undefined => labels.map((l) => meta.get(l)?.[0]).find((v) => v !== undefined);
  const presentation = childOf(item, 'presentation') ?? { ...item, children: [] };
  const tokens = tokensOf(presentation, around);
  const responses = tokens.flatMap((t) => ('response' in t ? [t.response] : []));
  const kind = (first('question_type', 'qmd_itemtype', 'qmd_questiontype', 'cc_profile') ?? '').toLowerCase();

  const choices = (r: XmlNode): Choice[] => {
    const shuffle = descendants(r, 'render_choice').some((c) => yes(c.attributes['shuffle']));
    return descendants(r, 'response_label').map((l) => ({
      identifier: l.attributes['ident'] ?? '',
      content: richOfMaterial(l, around),
      ...((shuffle || exact) && /^no$/i.test(l.attributes['rshuffle'] ?? '') && { pinned: true }),
    }));
  };
  const own = (r: XmlNode): string =>
    joinRich(
      childrenOf(r)
        .filter((c) => /^(material|flow_mat|flow|material_ref)$/.test(c.name))
        .map((c) => richOfMaterial(c, around)),
    );
  const ident = (r: XmlNode): string => r.attributes['ident'] ?? '';
  const shuffledBy = (r: XmlNode): { shuffle?: boolean } =>
    descendants(r, 'render_choice').some((c) => yes(c.attributes['shuffle'])) ? { shuffle: true } : {};

  const parts: Interaction[] = [];
  let inline = false;
  let unsupported: string | undefined;
  const texts = (): string =>
    joinRich(
      tokens.flatMap((t) => ('text' in t ? [t.text] : [])),
      ' ',
    );
  let stem = texts();
  /** The stem with a gap marker for each response, in one line where the texts are. */
  const woven = (make: (r: XmlNode) => Interaction): string => {
    inline = true;
    const pieces = tokens.map((t) => {
      if ('text' in t) return t.text;
      parts.push(make(t.response));
      return `${own(t.response)}[[${parts.length}]]`;
    });
    return pieces.some(isMarkup) ? joinRich(pieces) : pieces.join('');
  };
  const typed = (r: XmlNode): Interaction => ({
    type: 'typed',
    variable: ident(r),
    number: scorer.isNumber(ident(r)) || (kind.includes('numer') && responses.length === 1),
  });
  const lids = responses.filter((r) => r.name === 'response_lid');
  const names = lids.map((r) => richToPlain(own(r)).trim());

  if (responses.some((r) => r.name === 'response_xy' || descendants(r, 'render_hotspot').length > 0)) unsupported = 'hotspot';
  else if (responses.length === 0) {
    // a text to read
  } else if (exact && /blanks|dropdowns/.test(kind)) {
    const make = (r: XmlNode): Interaction => (r.name === 'response_lid' ? { type: 'gap', variable: ident(r), options: choices(r) } : typed(r));
    if (responses.every((r) => own(r) !== '')) {
      inline = true;
      responses.forEach((r, i) => {
        stem = stem.replace(`[${i + 1}]`, `[[${i + 1}]]`);
        parts.push(make(r));
      });
    } else stem = woven(make);
  } else if (exact && kind.includes('matching')) {
    parts.push({
      type: 'match',
      rows: lids.map((r) => ({ content: own(r), options: choices(r) })),
      answer: (row, o) => [ident(lids[row] as XmlNode), o.identifier],
      ...(lids.some((r) => shuffledBy(r).shuffle) && { shuffle: true }),
    });
  } else if (lids.length === responses.length && lids.length === 1) {
    const [r] = lids as [XmlNode];
    const cardinality = (r.attributes['rcardinality'] ?? 'Single').toLowerCase();
    const lead = own(r);
    if (lead) stem = joinRich([stem, lead], ' ');
    if (cardinality === 'ordered') parts.push({ type: 'order', variable: ident(r), options: choices(r), ...shuffledBy(r) });
    else parts.push({ type: 'choice', variable: ident(r), several: cardinality === 'multiple', options: choices(r), ...shuffledBy(r) });
  } else if (lids.length === responses.length && names.every((n) => n !== '' && stem.includes(`[${n}]`))) {
    // blanks named in the text: "[tool] and [use]"
    inline = true;
    lids.forEach((r, i) => {
      stem = stem.replace(`[${names[i]}]`, `[[${i + 1}]]`);
      parts.push({ type: 'gap', variable: ident(r), options: choices(r) });
    });
  } else if (lids.length === responses.length && names.every((n) => n !== '')) {
    const rows = lids.map((r) => ({ content: own(r), options: choices(r) }));
    parts.push({
      type: 'match',
      rows,
      answer: (row, o) => [ident(lids[row] as XmlNode), o.identifier],
      ...(lids.some((r) => shuffledBy(r).shuffle) && { shuffle: true }),
    });
  } else if (responses.length === 1 && responses[0]?.name === 'response_grp') {
    const [r] = responses as [XmlNode];
    const labels = descendants(r, 'response_label');
    const all = choices(r);
    const isLeft = (i: number): boolean => labels[i]?.attributes['match_group'] !== undefined;
    const lefts = all.filter((_, i) => isLeft(i));
    const rights = all.filter((_, i) => !isLeft(i));
    parts.push({
      type: 'match',
      rows: lefts.map((l) => ({ content: l.content, options: rights })),
      answer: (row, o) => [ident(r), `${lefts[row]?.identifier},${o.identifier}`],
    });
  } else if (responses.length === 1) {
    const [r] = responses as [XmlNode];
    const rows = Math.max(0, ...descendants(r, 'render_fib').map((f) => Number(f.attributes['rows'] ?? 0)));
    const open =
      !scorer.scores && (rows > 1 || /essay|text_only|long/.test(kind) || /^no$/i.test(first('qmd_computerscored') ?? '') || !scorer.literals(ident(r)).length);
    if (open && !(rows <= 1 && /short|fill|fib/.test(kind))) {
      const lines = rows > 1 || (exact && rows > 0) ? rows : undefined;
      parts.push({ type: 'extended', variable: ident(r), ...(lines && { lines }) });
    } else {
      const at = tokens.findIndex((t) => 'response' in t);
      if (tokens.slice(at + 1).some((t) => 'text' in t)) stem = woven(typed);
      else {
        parts.push(typed(r));
        const lead = own(r);
        if (lead) stem = joinRich([stem, lead], ' ');
      }
    }
  } else stem = woven((r) => (r.name === 'response_lid' ? { type: 'gap', variable: ident(r), options: choices(r) } : typed(r)));

  const feedback = new Map<string, string>();
  const more: AssessmentItem['more'] = {};
  for (const f of childrenOf(item, 'itemfeedback')) {
    const hints = descendants(f, 'hintmaterial')
      .map((h) => richOfMaterial(h, around))
      .filter(Boolean);
    if (hints.length) more.hints = [...(more.hints ?? []), ...hints];
    const solutions = descendants(f, 'solutionmaterial')
      .map((s) => richOfMaterial(s, around))
      .filter(Boolean);
    if (solutions.length) more.modelAnswer = joinRich([...(more.modelAnswer ? [more.modelAnswer] : []), ...solutions], ' ');
    const rest = richOfMaterial({ ...f, children: f.children.filter((c) => typeof c === 'string' || !/^(hint|solution)$/.test(c.name)) }, around);
    if (rest) feedback.set(f.attributes['ident'] ?? '', rest);
  }
  const rubrics = childrenOf(item, 'rubric')
    .map((r) => richOfMaterial(r, around))
    .filter(Boolean);
  if (rubrics.length) more.rubric = joinRich(rubrics, ' ');
  const time = seconds(textOf(childOf(item, 'duration') ?? { ...item, children: [] }));
  if (time) more.timeLimit = time;
  const objectives = childrenOf(item, 'objectives')
    .map((o) => richToPlain(richOfMaterial(o, around)))
    .filter(Boolean);
  const outcomes = [...objectives, ...(meta.get('outcome') ?? [])];
  if (outcomes.length) more.outcomes = outcomes;
  const tags = [
    ...(meta.get('qmd_keywords') ?? []).flatMap((k) => partsOf(k, ',')),
    ...(meta.get('keyword') ?? []),
    ...(meta.get('cc_question_category') ?? []),
    ...(meta.get('qmd_topic') ?? []),
  ].filter(Boolean);
  if (tags.length) more.tags = tags;
  const level = {
    ...(bloomLevels.find((b) => b === first('bloom')?.toLowerCase()) && { bloom: bloomLevels.find((b) => b === first('bloom')?.toLowerCase()) }),
    ...(/^[1-4]$/.test(first('depth') ?? '') && { depth: Number(first('depth')) }),
    ...(/^(0(\.\d+)?|1)$/.test(first('difficulty') ?? '') && { difficulty: Number(first('difficulty')) }),
  };
  if (Object.keys(level).length) more.level = level as NonNullable<typeof more.level>;
  const required = first('required');
  if (required !== undefined) more.required = yes(required);
  if (yes(first('bonus'))) more.bonus = true;
  const label = first('label') ?? item.attributes['label'];
  if (label) more.label = label;
  const labelled = (name: string): string[] =>
    descendants(presentation, 'material')
      .filter((m) => m.attributes['label'] === name)
      .map((m) => richToPlain(richOfMaterial(m, around)));
  const bank = labelled('word-bank')
    .flatMap((w) => partsOf(w, '\n'))
    .filter(Boolean);
  if (bank.length) more.wordBank = bank;
  const [unit] = labelled('unit');
  if (unit) more.unit = unit;

  const stated = POINTS.map((l) => first(l)).find((v) => v !== undefined && Number.isFinite(Number(v)));
  const max = scorer.decvars.find((d) => d.name === scorer.scoreName)?.max ?? Number.POSITIVE_INFINITY;
  const percent = max === 100 && (kind.startsWith('cc.') || first('cc_profile') !== undefined || /percent/i.test(first('qmd_scoretype') ?? ''));
  const { title, lang } = item.attributes;
  return {
    identifier: item.attributes['ident'] ?? '',
    line: item.line,
    ...(title && { title }),
    ...(lang && { language: lang }),
    stem: tidyRich(stem),
    inline,
    parts,
    scorer,
    points: stated !== undefined ? Number(stated) : percent ? 1 : Number.isFinite(max) ? max : null,
    scaled: true,
    ...(exact && { exact, fullScore: 100 }),
    feedback,
    more,
    ...(unsupported && { unsupported }),
  };
}
