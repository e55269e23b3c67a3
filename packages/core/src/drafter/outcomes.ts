/** Outcomes that a source allows, proposed by computation: what it says most about, and what it says of it. */
import { definitionsOf, factsOf, type Ground, PALE, runsOf } from './facts.js';
import { mentions } from './mentions.js';
import type { Statement } from './statements.js';

/** Words that tell what makes what happen. */
const CAUSES = /(?<!\p{L})(?:because|since|so that|therefore|causes?|caused|leads? to|makes?|slows?|speeds?|prevents?|needs?|depends?)(?!\p{L})/iu;

interface Topic {
  term: string;
  statements: Statement[];
  score: number;
}

/** What the statements are about: nouns that come again, those of several words before single ones, spread over the source. */
function topicsOf({ statements }: Ground): Topic[] {
  const all = new Map<string, { forms: Map<string, number>; of: Set<Statement>; words: number }>();
  for (const s of statements)
    for (const run of runsOf(s.words, s.text)) {
      const last = run.words.at(-1);
      if (!last || run.text.length < 3 || run.words.length > 4 || (run.words.length === 1 && PALE.has(last.base)) || /\d|['’]s\b/.test(run.text)) continue;
      // months and days are said of much, and are no topic
      if (run.words.some((w) => w.marks.has('Date') || w.marks.has('Month') || w.marks.has('WeekDay'))) continue;
      const key = run.words.map((w) => w.base.toLowerCase()).join(' ');
      const kept = all.get(key) ?? { forms: new Map<string, number>(), of: new Set<Statement>(), words: run.words.length };
      kept.of.add(s);
      // names keep their capital letter, others stand as in the middle of a sentence
      const form = run.words.every((w) => w.role === 'name') ? run.text : run.text.toLowerCase();
      kept.forms.set(form, (kept.forms.get(form) ?? 0) + 1);
      all.set(key, kept);
    }
  return [...all]
    .map(([, t]) => ({
      term: [...t.forms].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '',
      statements: [...t.of],
      score: t.of.size * (1 + 0.4 * (t.words - 1)) * (1 + [...t.of].reduce((n, s) => n + s.weight, 0) / (3 * t.of.size)),
    }))
    .sort((a, b) => b.score - a.score || a.term.localeCompare(b.term));
}

/** Whether a statement is about a thing: it opens with it, behind an article at most. */
const beginsWith = (s: Statement, term: string): boolean => mentions(s.text.slice(0, term.length + 6), term);

/**
 * Outcomes in the order in which the source comes to them; of English sources as sentences, of others the topics alone.
 * @param most how many at most
 */
export function outcomesOf(ground: Ground, most: number): string[] {
  const defined = definitionsOf(ground);
  const chosen: { text: string; at: number; term: string }[] = [];
  for (const { term, statements } of topicsOf(ground)) {
    if (chosen.length >= most) break;
    // one of them is enough: not "starter" beside "stiff starter"
    if (chosen.some((c) => mentions(c.term, term) || mentions(term, c.term))) continue;
    const definition = defined.find((d) => mentions(d.term, term));
    if (statements.length < 2 && !definition) continue;
    const facts = statements.flatMap((s) => factsOf(s, ground));
    const plural = statements.some((s) => s.words.some((w) => w.marks.has('Plural') && w.lower === term.split(' ').at(-1)?.toLowerCase()));
    const text = !ground.english
      ? term
      : definition
        ? `Explain what ${definition.term} ${definition.plural ? 'are' : 'is'}`
        : statements.some((s) => CAUSES.test(s.text) && beginsWith(s, term))
          ? `Explain what ${term} ${plural ? 'do' : 'does'}, and why`
          : facts.some((f) => f.sort === 'number' || f.sort === 'year')
            ? `Name the numbers that belong to ${term}`
            : `Describe ${term}`;
    chosen.push({ text, term, at: Math.min(...statements.map((s) => s.at)) });
  }
  return chosen.sort((a, b) => a.at - b.at).map((c) => c.text);
}
