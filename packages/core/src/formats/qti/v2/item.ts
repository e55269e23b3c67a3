/** Reads an `assessmentItem` of QTI 2.1, 2.2 or 3.0: its body, its interactions and what shows afterwards. */
import { richToPlain } from '../../../item/richText.js';
import { tidyRich } from '../../../item/sameness.js';
import { OWN_TOOL } from '../ownTool.js';
import { childOf, childrenOf, descendants, textOf, type XmlNode } from '../../xmlTree.js';
import type { AssessmentItem, Choice, Interaction } from '../assessmentItem.js';
import { richOf, richOfXhtml, type Surroundings, xhtmlOf } from '../content.js';
import { apart } from '../split.js';
import { Processing } from './processing.js';

/** Around the prompt of each thing to answer; no text holds it (Unicode: a noncharacter). */
const PLACE = '\ufdd0';

const isTrue = (text: string | undefined): boolean => text === 'true';
const classed = (n: XmlNode, name: string): boolean => (n.attributes['class'] ?? '').split(/\s+/).includes(name);
/** How many may be chosen: `maxChoices`, where 0 stands for any number (QTI 2.2, choiceInteraction). */
const mostOf = (n: XmlNode): { most?: number } => {
  const most = Number(n.attributes['maxChoices']);
  return Number.isInteger(most) && most > 0 ? { most } : {};
};
const shuffled = (n: XmlNode): { shuffle?: boolean } => (isTrue(n.attributes['shuffle']) ? { shuffle: true } : {});

/**
 * @param stimulus the text of a shared stimulus that the item names, as rich text; null where it is not there
 */
export function readItem2(root: XmlNode, around: Surroundings, stimulus: (href: string) => string | null = () => null): AssessmentItem[] {
  const exact = root.attributes['toolName'] === OWN_TOOL;
  const body = childOf(root, 'itemBody');
  const processing = new Processing(root);
  const parts: Interaction[] = [];
  const passages: string[] = childrenOf(root, 'assessmentStimulusRef').flatMap((r) => stimulus(r.attributes['href'] ?? '') ?? []);
  const more: AssessmentItem['more'] = {};
  let inline = false;
  let unsupported: string | undefined;

  const choicesOf = (nodes: readonly XmlNode[]): Choice[] =>
    nodes.map((n) => {
      const own = descendants(n, 'feedbackInline', 'feedbackBlock');
      const feedback = own
        .map((f) => richOf(f.children, around))
        .join(' ')
        .trim();
      return {
        identifier: n.attributes['identifier'] ?? '',
        content: richOf(n.children, around),
        ...(isTrue(n.attributes['fixed']) && { pinned: true }),
        ...(feedback && { feedback }),
      };
    });
  const gapMark = (part: Interaction): string => {
    inline = true;
    parts.push(part);
    return `[[${parts.length}]]`;
  };
  const prompt = (n: XmlNode): string => {
    const p = childOf(n, 'prompt');
    return `${PLACE}${p ? `<p>${xhtmlOf(p.children, around, replace)}</p>` : ''}${PLACE}`;
  };

  const pairs = (n: XmlNode, variable: string, lefts: readonly Choice[], rights: Choice[]): string => {
    parts.push({
      type: 'match',
      rows: lefts.map((l) => ({ content: l.content, options: rights })),
      answer: (row, o) => [variable, `${lefts[row]?.identifier ?? ''} ${o.identifier}`],
      ...shuffled(n),
    });
    return prompt(n);
  };

  function replace(n: XmlNode): string | undefined {
    const variable = n.attributes['responseIdentifier'] ?? 'RESPONSE';
    switch (n.name) {
      case 'choiceInteraction': {
        const cardinality = processing.responses.get(variable)?.cardinality;
        const several = cardinality ? cardinality === 'multiple' : n.attributes['maxChoices'] !== '1';
        parts.push({ type: 'choice', variable, several, options: choicesOf(childrenOf(n, 'simpleChoice')), ...shuffled(n), ...mostOf(n) });
        return prompt(n);
      }
      case 'orderInteraction':
        parts.push({ type: 'order', variable, options: choicesOf(childrenOf(n, 'simpleChoice')), ...shuffled(n) });
        return prompt(n);
      case 'matchInteraction': {
        const [lefts = [], rights = []] = childrenOf(n, 'simpleMatchSet').map((s) => choicesOf(childrenOf(s, 'simpleAssociableChoice')));
        return pairs(n, variable, lefts, rights);
      }
      case 'associateInteraction': {
        // pairs without direction: the first of each correct pair is taken as the left side
        const all = choicesOf(childrenOf(n, 'simpleAssociableChoice'));
        const first = new Set(processing.correct(variable).map((p) => p.split(' ')[0]));
        return pairs(
          n,
          variable,
          all.filter((c) => first.has(c.identifier)),
          all.filter((c) => !first.has(c.identifier)),
        );
      }
      case 'gapMatchInteraction': {
        const words = choicesOf([...childrenOf(n, 'gapText'), ...childrenOf(n, 'gapImg')]);
        const gaps = descendants(n, 'gap').map((g) => g.attributes['identifier'] ?? '');
        const filled = n.children.filter((c) => typeof c === 'string' || !/^(prompt|gapText|gapImg)$/.test(c.name));
        const text = xhtmlOf(filled, around, (g) => (g.name === 'gap' ? `[[${gaps.indexOf(g.attributes['identifier'] ?? '') + 1}]]` : undefined));
        inline = true;
        for (const gap of gaps) parts.push({ type: 'gap', variable, options: words.map((w) => ({ ...w, identifier: `${w.identifier} ${gap}` })) });
        return prompt(n) + text;
      }
      case 'textEntryInteraction': {
        const base = processing.responses.get(variable)?.base;
        return gapMark({ type: 'typed', variable, number: base === 'float' || base === 'integer' });
      }
      case 'sliderInteraction':
        return `${prompt(n)}<p>${gapMark({ type: 'typed', variable, number: true })}</p>`;
      case 'inlineChoiceInteraction':
        return gapMark({ type: 'gap', variable, options: choicesOf(childrenOf(n, 'inlineChoice')) });
      case 'extendedTextInteraction': {
        const lines = Number(n.attributes['expectedLines']);
        parts.push({ type: 'extended', variable, ...(lines > 0 && { lines }) });
        return prompt(n);
      }
      case 'endAttemptInteraction':
        return '';
      default:
    }
    if (n.name.endsWith('Interaction')) {
      unsupported ??= n.name.replace(/Interaction$/, '');
      return prompt(n);
    }
    if (exact && n.name === 'p' && classed(n, 'answer')) {
      // the blank of a typed answer that stands behind its question, with the unit behind it
      const before = parts.length;
      const behind = richToPlain(`<p>${xhtmlOf(n.children, around, replace)}</p>`)
        .replace('[[1]]', '')
        .trim();
      if (behind) more.unit = behind;
      inline = parts.length !== before + 1;
      return '';
    }
    if (exact && n.name === 'p' && classed(n, 'hints')) return '';
    if (classed(n, 'passage') && !descendants(n).some((d) => d.name.endsWith('Interaction'))) {
      passages.push(richOf(n.children, around));
      return '';
    }
    if (classed(n, 'word-bank')) {
      more.wordBank = childrenOf(n, 'li').map((li) => textOf(li).replace(/\s+/g, ' ').trim());
      return '';
    }
    if (n.name === 'rubricBlock') {
      if (/candidate/.test(n.attributes['view'] ?? '')) return `<p>${xhtmlOf(n.children, around, replace)}</p>`;
      const text = richOf(n.children, around);
      if (classed(n, 'model-answer') || /model|sample/i.test(n.attributes['label'] ?? '')) more.modelAnswer = text;
      else more.rubric = more.rubric ? `${more.rubric} ${text}` : text;
      return '';
    }
    return undefined;
  }
  const xhtml = body ? xhtmlOf(body.children, around, replace) : '';
  const stem = body ? richOfXhtml(xhtml.replaceAll(PLACE, '')) : '';

  const feedback = new Map<string, string>();
  const inOption = new Set(descendants(root, 'simpleChoice').flatMap((c) => descendants(c, 'feedbackInline', 'feedbackBlock')));
  for (const f of processing.feedback) {
    if (inOption.has(f.node)) continue;
    const text = richOf(f.node.children, around);
    if (text) feedback.set(f.id, feedback.has(f.id) ? tidyRich(`${feedback.get(f.id)} ${text}`) : text);
  }
  // a hint is what shows when its button is pressed
  for (const button of descendants(root, 'endAttemptInteraction')) {
    const id = button.attributes['responseIdentifier'] ?? '';
    const usual = processing.score({}).shown;
    const shown = [...processing.score({ [id]: ['true'] }).shown].filter((f) => !usual.has(f));
    const text = shown.flatMap((f) => feedback.get(f) ?? []).join(' ');
    for (const f of shown) feedback.delete(f);
    if (text) more.hints = [...(more.hints ?? []), text];
  }
  const normal = Number(childrenOf(root, 'outcomeDeclaration').find((o) => o.attributes['identifier'] === 'SCORE')?.attributes['normalMaximum'] ?? Number.NaN);
  const { title, label, lang } = root.attributes;
  if (label) more.label = label;
  const asked: AssessmentItem = {
    identifier: root.attributes['identifier'] ?? '',
    line: root.line,
    ...(title && { title }),
    ...(lang && { language: lang }),
    stem,
    inline,
    exact,
    ...(exact && processing.declared('MAXSCORE') && { fullScore: processing.declared('MAXSCORE') ?? 1 }),
    parts,
    ...(passages.some(Boolean) && { passage: passages.filter(Boolean).join('') }),
    scorer: processing,
    points: processing.declared('MAXSCORE') ?? (Number.isNaN(normal) ? null : normal),
    scaled: false,
    feedback,
    more,
    ...(unsupported && { unsupported }),
    ...(descendants(root, 'templateProcessing').some((t) => childrenOf(t).length > 0) && { drawn: true }),
  };
  // ahead, prompt, ahead, prompt …, behind
  const stretches = xhtml.split(PLACE);
  const places = Array.from({ length: (stretches.length - 1) / 2 }, (_, n) => ({ before: stretches[2 * n] ?? '', prompt: stretches[2 * n + 1] ?? '' }));
  return exact ? [asked] : apart(asked, places, stretches[stretches.length - 1] ?? '');
}
