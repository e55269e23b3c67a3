/** What those who answered say of items, as findings: beside what the checks find in their words. */
import { keySign } from '../item/kinds.js';
import type { Item } from '../item/model.js';
import type { Finding } from './finding.js';

/** How an item did where it was answered. */
export interface AnswerFigures {
  answers: number;
  /** Mean share of its points that was earned, 0 to 1. */
  share?: number | undefined;
  /** Correlation of its points with the points on all other items, −1 to 1. */
  discrimination?: number | undefined;
  /** Whether it was changed since somebody last answered it: then the figures are of another item. */
  changed?: boolean | undefined;
}

/** Below so many answers nothing is said, as of results. Common practice, no source. */
const ENOUGH = 20;
const HARD = 0.1;
const EASY = 0.95;
const percent = (n: number): string => `${Math.round(n * 100)} %`;

/**
 * What is worth a look: who has more points does worse, nearly nobody or nearly everybody gets it right.
 * @param figures by the id of the item
 */
export const answerFindings = (items: readonly Item[], figures: Readonly<Record<string, AnswerFigures>>): Finding[] =>
  items.flatMap((item): Finding[] => {
    const f = Object.hasOwn(figures, item.id) ? figures[item.id] : undefined;
    if (!f || f.answers < ENOUGH || f.changed || f.share === undefined) return [];
    const asked = `${f.answers} people answered it`;
    const about = { items: [item.id], place: 'key' as const };
    if (f.discrimination !== undefined && f.discrimination < 0)
      return [
        {
          ...about,
          code: 'answers-against',
          severity: 'warning',
          message: `${asked}, and who had more points elsewhere did worse here: the key ${keySign(item)} may be wrong, or the question read otherwise.`,
        },
      ];
    if (f.share < HARD)
      return [{ ...about, code: 'answers-none', severity: 'note', message: `${asked}, and next to nobody got it right (${percent(f.share)} of the points).` }];
    if (f.share > EASY)
      return [
        {
          ...about,
          code: 'answers-all',
          severity: 'note',
          message: `${asked}, and nearly everybody got it right (${percent(f.share)}): it tells people hardly apart.`,
        },
      ];
    return [];
  });
