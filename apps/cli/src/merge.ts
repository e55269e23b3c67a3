/** `zakuska merge`: what is said of a reply matched with a set. */
import { counted, type Merged, nameOf, type QuizSet } from '@zakuska/core';

/** What is printed for `--json`. */
export const mergedJson = ({ pairs, added }: Merged): unknown => ({
  pairs: pairs.map(({ item, reply, keyChanged, optionsReordered, changes }) => ({ item, reply, keyChanged, optionsReordered, changes })),
  added,
});

/** What is printed without `--json`: a line for each item that has something to tell. */
export function mergedReport(set: QuizSet, reply: QuizSet, { pairs, added, translated }: Merged): string {
  const found = pairs.filter((p) => p.reply !== null).length;
  const keys = pairs.filter((p) => p.keyChanged).length;
  const lines = pairs.flatMap((p, i) => {
    const item = set.items[i];
    const said = [
      p.reply === null && 'is not in the reply',
      p.keyChanged && 'ITS KEY CHANGED',
      p.keyMissing && 'comes without a key; the one before stays',
      p.by === 'place' && 'was matched by its place',
      p.optionsReordered && 'options in another order',
      p.changes.length > 0 && `changed: ${p.changes.join(', ')}`,
    ].filter(Boolean);
    return said.length && item ? [`  ${item.label ?? i + 1}  ${nameOf(item, 50)}: ${said.join('; ')}`] : [];
  });
  const news = added.flatMap((k) => (reply.items[k] ? [`  +  ${nameOf(reply.items[k], 60)}`] : []));
  return [
    `${found} of ${counted(pairs.length, 'item')} are in the reply${translated ? ', in another language' : ''}; ${counted(keys, 'key')} changed, ${added.length} added`,
    ...lines,
    ...news,
  ].join('\n');
}
