/** Two wordings of an item in one column of text: what goes struck out, what comes marked, the key on both. */
import { type Item, keySign, richToPlain, writtenRange } from '@zakuska/core';
import { diffWordsWithSpace } from 'diff';
import { useMemo } from 'react';
import { say } from '../words/say.js';

interface Part {
  value: string;
  added?: boolean;
  removed?: boolean;
}

/** All that an item says, line by line, in plain words. */
export const saidBy = (item: Item): string =>
  [
    richToPlain(item.stem),
    ...('options' in item
      ? item.options.map(
          (o, i) =>
            `${o.credit > 0 ? '✓' : '·'} ${String.fromCharCode(65 + i)} ${richToPlain(o.content)}${o.credit !== 0 && o.credit !== 1 ? ` (${o.credit * 100} %)` : ''}`,
        )
      : []),
    ...(item.kind === 'matching' ? item.pairs.map((p) => `${richToPlain(p.left)} → ${richToPlain(p.right)}`) : []),
    ...(item.kind === 'ordering' ? item.sequence.map((s, i) => `${i + 1} ${richToPlain(s)}`) : []),
    ...(item.kind === 'short-answer' ? item.answers.map((a) => `= ${a.text}`) : []),
    ...(item.kind === 'numeric' ? item.answers.map((a) => `= ${writtenRange(a)} ${item.unit ?? ''}`) : []),
    ...(item.kind === 'true-false' || item.kind === 'cloze' ? [say('key {keySign}', { keySign: keySign(item) })] : []),
    say('{points, plural, one {# point} other {# points}}', { points: item.points }),
    ...Object.entries(item.feedback ?? {}).map(([k, v]) => say('feedback ({k}): {richToPlain}', { k, richToPlain: richToPlain(v) })),
    ...(item.hints ?? []).map((h) => say('hint: {richToPlain}', { richToPlain: richToPlain(h) })),
    ...(item.tags?.length ? [say('tags: {tags}', { tags: item.tags.join(', ') })] : []),
    ...(item.outcomes?.length ? [say('outcomes: {outcomes}', { outcomes: item.outcomes.join(', ') })] : []),
    ...(item.timeLimit ? [`${item.timeLimit} s`] : []),
  ].join('\n');

/** One change after another, with nothing but blanks between them, read as one. */
function runsOf(parts: readonly Part[]): Part[] {
  const out: Part[] = [];
  let [gone, come] = ['', ''];
  const close = (): void => {
    if (gone) out.push({ value: gone, removed: true });
    if (come) out.push({ value: come, added: true });
    [gone, come] = ['', ''];
  };
  parts.forEach((p, i) => {
    if (p.removed) gone += p.value;
    else if (p.added) come += p.value;
    else if ((gone || come) && /^[^\S\n]+$/.test(p.value) && i < parts.length - 1) {
      gone += p.value;
      come += p.value;
    } else {
      close();
      out.push({ value: p.value });
    }
  });
  close();
  return out;
}

/** Less than this share of the letters. */
const LITTLE = 0.55;
export function WordsChanged({ before, after }: { before: Item; after: Item }) {
  const parts = useMemo(() => runsOf(diffWordsWithSpace(saidBy(before), saidBy(after))), [before, after]);
  const words = (list: typeof parts): number => list.reduce((n, p) => n + p.value.length, 0);
  // words of one text among those of another are no text: where little stays, both are shown whole
  if (words(parts.filter((p) => !p.added && !p.removed)) < LITTLE * words(parts.filter((p) => !p.added)))
    return (
      <div className="grid gap-3 sm:grid-cols-2">
        <del dir="auto" className="whitespace-pre-wrap text-brick">
          {saidBy(before)}
        </del>
        <ins dir="auto" className="whitespace-pre-wrap text-dill no-underline">
          {saidBy(after)}
        </ins>
      </div>
    );
  return (
    <p dir="auto" className="whitespace-pre-wrap">
      {parts.map((p, i) =>
        p.added ? (
          <ins key={i} className="bg-dill-soft text-dill no-underline">
            {p.value}
          </ins>
        ) : p.removed ? (
          <del key={i} className="bg-brick-soft text-brick">
            {p.value}
          </del>
        ) : (
          p.value
        ),
      )}
    </p>
  );
}
