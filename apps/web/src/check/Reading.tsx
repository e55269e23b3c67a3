/** How hard an item and its set are to read, by published formulas, and what makes them so. */
import { hardWords, type Item, type Readability, readabilityOf, readingYear, readText, richToPlain, type Section, sentencesOf } from '@zakuska/core';
import { useMemo } from 'react';

const english = (language: string | undefined): boolean => !language || language.startsWith('en');
/** The formulas of English tell nothing of another language; LIX counts letters only. */
const rowsOf = (r: Readability, language: string | undefined): [string, number][] => [
  ...(english(language)
    ? ([
        ['Flesch–Kincaid, school year', r.fleschKincaid],
        ['Flesch reading ease, of 100', r.fleschEase],
        ['Gunning fog, school year', r.fog],
        ['SMOG, school year', r.smog],
        ['Coleman–Liau, school year', r.colemanLiau],
        ['ARI, school year', r.ari],
      ] as [string, number][])
    : []),
  ['LIX', r.lix],
  ['words a sentence', r.words / r.sentences],
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
      ['Item', own],
      ['Passage', ofPassage],
      ['Set', set],
    ] as [string, Readability | null][]
  ).filter((c): c is [string, Readability] => c[1] !== null);
  const names = rowsOf(set, language).map(([name]) => name);
  const over = year !== undefined && readingYear(set, language) >= year + 1;
  return (
    <details className="text-[13.5px] text-ink-2">
      <summary className="cursor-pointer">
        Reads like year {Math.max(1, Math.round(readingYear(set, language)))}
        {year !== undefined && <span className={over ? 'font-semibold text-amber' : ''}> (meant for year {year})</span>}
      </summary>
      <table className="mt-1 w-full tabular-nums">
        <thead>
          <tr className="text-left">
            <th className="font-medium">Formula</th>
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
                  {rowsOf(r, language)[i]?.[1].toFixed(1)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {own && own.words < 30 && <p className="mt-1">Formulas of so short a text are rough.</p>}
      {words.length > 0 && (
        <p className="mt-1">
          Hard words here: <span className="text-ink">{words.slice(0, 12).join(', ')}</span>
          {words.length > 12 && ` and ${words.length - 12} more`}
        </p>
      )}
      {long > 0 && <p>{long === 1 ? 'One sentence here is long.' : `${long} sentences here are long.`}</p>}
      <label className="mt-1 flex items-center gap-2">
        <input type="checkbox" className="size-4 accent-beet" checked={marked} onChange={(e) => onMark(e.target.checked)} />
        Mark hard words and long sentences in the items
      </label>
    </details>
  );
}
