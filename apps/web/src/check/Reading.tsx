/** How hard an item and its set are to read, by published formulas, and what makes them so. */
import { hardWords, type Item, type Readability, readabilityOf, readingYear, readText, richToPlain, type Section, sentencesOf } from '@zakuska/core';
import { useMemo } from 'react';
import { Say, say } from '../words/say.js';
import { fixed } from '../ui/figures.js';

const english = (language: string | undefined): boolean => !language || language.startsWith('en');
/** The formulas of English tell nothing of another language; LIX counts letters only. */
const rowsOf = (r: Readability, language: string | undefined): [string, number][] => [
  ...(english(language)
    ? ([
        [say('Flesch–Kincaid, school year'), r.fleschKincaid],
        [say('Flesch reading ease, of 100'), r.fleschEase],
        [say('Gunning fog, school year'), r.fog],
        [say('SMOG, school year'), r.smog],
        [say('Coleman–Liau, school year'), r.colemanLiau],
        [say('ARI, school year'), r.ari],
      ] as [string, number][])
    : []),
  ['LIX', r.lix],
  [say('words a sentence'), r.words / r.sentences],
];

export function Reading({
  item,
  passage,
  set,
  language,
  year,
  sentenceWords,
  marked,
  onMark,
}: {
  item: Item | undefined;
  passage: Section | undefined;
  set: Readability;
  language: string | undefined;
  year: number | undefined;
  sentenceWords: number;
  marked: boolean;
  onMark: (on: boolean) => void;
}) {
  const own = useMemo(() => (item ? readabilityOf(readText(item)) : null), [item]);
  const ofPassage = useMemo(() => (passage?.passage ? readabilityOf(richToPlain(passage.passage)) : null), [passage]);
  const { words, long } = useMemo(() => {
    const text = item ? readText(item) : '';
    return {
      words: [...new Set(hardWords(text, language).map((w) => w.word.toLowerCase()))],
      long: sentencesOf(text).filter((s) => s.words > sentenceWords).length,
    };
  }, [item, language, sentenceWords]);
  const columns = (
    [
      [say('Item'), own],
      [say('Passage'), ofPassage],
      [say('Set'), set],
    ] as [string, Readability | null][]
  ).filter((c): c is [string, Readability] => c[1] !== null);
  const names = rowsOf(set, language).map(([name]) => name);
  const over = year !== undefined && readingYear(set, language) >= year + 1;
  return (
    <details className="text-[13.5px] text-ink-2">
      <summary className="cursor-pointer">
        {say('Reads like year {max}', { max: Math.max(1, Math.round(readingYear(set, language))) })}
        {year !== undefined && <span className={over ? 'font-semibold text-amber' : ''}> {say('(meant for year {year})', { year })}</span>}
      </summary>
      <table className="mt-1 w-full tabular-nums">
        <thead>
          <tr className="text-left">
            <th className="font-medium">{say('Formula')}</th>
            {columns.map(([name]) => (
              <th key={name} className="pl-2 text-right font-medium">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {names.map((name, i) => (
            <tr key={name}>
              <th className="text-left font-normal">{name}</th>
              {columns.map(([c, r]) => (
                <td key={c} className="pl-2 text-right">
                  {fixed(rowsOf(r, language)[i]?.[1] ?? 0, 1)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {own && own.words < 30 && <p className="mt-1">{say('Formulas of so short a text are rough.')}</p>}
      {words.length > 0 && (
        <p className="mt-1">
          <Say
            text="Hard words here: {span}{more}"
            values={{
              span: <span className="text-ink">{words.slice(0, 12).join(', ')}</span>,
              more: words.length > 12 && say(' and {n} more', { n: words.length - 12 }),
            }}
          />
        </p>
      )}
      {long > 0 && <p>{say('{long, plural, one {One sentence here is long.} other {# sentences here are long.}}', { long })}</p>}
      <label className="mt-1 flex items-center gap-2">
        <input type="checkbox" className="size-4 accent-beet" checked={marked} onChange={(e) => onMark(e.target.checked)} />
        {say('Mark hard words and long sentences in the items')}
      </label>
    </details>
  );
}
