import type { Item, QuizSet, Section } from '../../item/model.js';

/** The items of a set in their order, as runs that belong to one part, or to none. */
export function runsOfParts(quiz: QuizSet): { section: Section | undefined; items: Item[] }[] {
  const groups: { section: Section | undefined; items: Item[] }[] = [];
  const byId = new Map(quiz.sections?.map((s) => [s.id, s]));
  for (const item of quiz.items) {
    const section = byId.get(item.section ?? '');
    const last = groups[groups.length - 1];
    if (last && last.section === section) last.items.push(item);
    else groups.push({ section, items: [item] });
  }
  return groups;
}
