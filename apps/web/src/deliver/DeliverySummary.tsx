/** What goes, in a few words. */
import { kinds, maximumOf, type Fit, type QuizSet } from '@zakuska/core';
import { inSentence, known, say } from '../words/say.js';

export function DeliverySummary({ set, fits }: { set: QuizSet; fits: readonly Fit[] | null }) {
  const items = set.items.filter((_, i) => !fits || (fits[i]?.items.length ?? 0) > 0);
  const byKind = new Map<string, number>();
  for (const i of items) byKind.set(known(kinds[i.kind].name), (byKind.get(known(kinds[i.kind].name)) ?? 0) + 1);
  return (
    <ul className="my-2 list-disc pl-5 text-sm">
      <li>{say('{items} items, {maximum} points', { items: items.length, maximum: maximumOf(items) })}</li>
      <li>{[...byKind].map(([k, n]) => `${n} ${inSentence(k)}`).join(', ')}</li>
    </ul>
  );
}
