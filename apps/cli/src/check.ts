/** `zakuska check`: the findings of a set, and what sources say of its keys, as lines of text. */
import { counted, type Aim, evidenceFor, type Finding, findingsOf, indexSources, type Item, type QuizSet, type SourceText } from '@zakuska/core';

const numberOf = (set: QuizSet, id: string): string => {
  const at = set.items.findIndex((i) => i.id === id);
  return set.items[at]?.label ?? String(at + 1);
};
const about = (set: QuizSet, f: Finding): string =>
  f.items.length === 0 || f.items.length > 4 ? 'the set' : f.items.map((id) => numberOf(set, id)).join(', ');

/** The report of one set, and whether something in it marks wrongly: an error, or a key that a source contradicts. */
export function checkReport(name: string, set: QuizSet, sources: readonly SourceText[], aim: Aim): { text: string; ok: boolean } {
  const findings = findingsOf(set, { aim });
  const index = sources.length ? indexSources(sources, set.language) : null;
  const evidence = index ? set.items.flatMap((i: Item) => evidenceFor(i, index) ?? []) : [];
  const count = (verdict: string): number => evidence.filter((e) => e.verdict === verdict).length;
  const head = [
    `${name}: ${set.items.length} items, ${counted(findings.length, 'finding')}`,
    ...(index ? [`${count('supported')} keys supported by the source, ${count('contradicted')} contradicted, ${count('none')} not found`] : []),
  ].join('; ');
  const lines = [
    ...findings.map((f) => `  ${about(set, f)}  ${f.severity}  ${f.code}  ${f.message}`),
    ...evidence
      .filter((e) => e.verdict !== 'supported')
      .flatMap((e) => [
        `  ${numberOf(set, e.item)}  ${e.verdict === 'none' ? 'note' : 'error'}  source-${e.verdict}`,
        ...e.contradicts.map((h) => `        ${h.sentence.sourceName}, ${h.sentence.place}: ${h.sentence.text}`),
      ]),
  ];
  const ok = !findings.some((f) => f.severity === 'error') && !count('contradicted');
  return { text: [head, ...lines].join('\n'), ok };
}
