/** The habits of a draft, from a first reading of it. */
import { W } from '../model/weights.js';
import { BARE, type Habits, type Share } from '../series/habits.js';
import type { Reading } from './search.js';
import type { State } from './state.js';

const shareOf = (share: number, some: number, many: number, most: number): Share =>
  share > most ? 'most' : share > many ? 'many' : share >= some ? 'some' : 'few';
const SOME = 0.12;
const HALF = 0.5;

/**
 * The habits that a reading of the draft shows.
 * @param whole whether it is a reading of all of the draft
 */
export function habitsOf(reading: Reading, whole: boolean): Habits {
  const question = new Map<string, number>();
  const option = new Map<string, number>();
  const sizes = new Map<number, number>();
  const bySeries = new Map<string, { all: number; answered: number; asks: number }>();
  let questions = 0;
  let plain = 0;
  let withOptions = 0;
  let keyed = 0;
  const end = (s: State | undefined): void => {
    if (s && s.qSig) {
      const n = bySeries.get(s.qSig) ?? { all: 0, answered: 0, asks: 0 };
      n.all++;
      if (s.oCount > 1 || s.keyed || s.rowLeft) n.answered++;
      if (s.stemEnd === 1 || s.gaps || s.ask || s.subSig) n.asks++;
      bySeries.set(s.qSig, n);
    }
    if (!s?.oSig) return;
    option.set(s.oSig, (option.get(s.oSig) ?? 0) + 1);
    sizes.set(s.oCount, (sizes.get(s.oCount) ?? 0) + 1);
    withOptions++;
    if (s.keyed) keyed++;
  };
  let last: State | undefined;
  for (const { sign, state } of reading.path) {
    if (sign.role === 'question' || sign.role === 'sub') {
      end(last);
      questions++;
      if (!sign.label) plain++;
      else question.set(sign.label.sig, (question.get(sign.label.sig) ?? 0) + 1);
    } else if (!state.inQuestion && last) {
      end(last);
    }
    last = state.inQuestion ? state : undefined;
  }
  end(last);
  const main = [...bySeries.values()].some((n) => n.all >= 2 && n.answered >= n.all * 0.6);
  const idle = [...bySeries].filter(([sig, n]) => main && /^(?:num|dec)/.test(sig) && n.all >= 3 && n.answered <= n.all * 0.2 && n.asks <= n.all * 0.1);
  const [size, sized] = [...sizes].sort((a, b) => b[1] - a[1])[0] ?? [0, 0];
  const of = (n: number): number => n / Math.max(1, questions);
  const worth = (counts: ReadonlyMap<string, number>): Map<string, number> =>
    new Map([...counts].filter(([, n]) => of(n) > SOME).map(([sig, n]) => [sig, of(n) > HALF ? W.habitMost : W.habitSome]));
  let letters = 0;
  for (const [sig, n] of question) if (sig.startsWith('up') || sig.startsWith('low')) letters += n;
  let bare = 0;
  for (const sig of BARE) bare += option.get(sig) ?? 0;
  return {
    questions: whole ? questions : null,
    question: worth(question),
    option: worth(option),
    idle: new Set(idle.map(([sig]) => sig)),
    plain: shareOf(of(plain), 0.2, 0.25, 0.6),
    bare: shareOf(of(bare), 0, 0.1, 0.4),
    strokes: of(option.get('strokes') ?? 0) >= 0.2,
    letters: letters >= Math.max(2, questions * HALF),
    keyed: withOptions > 0 && keyed / withOptions > 0.6,
    size: sized > withOptions * 0.7 ? size : 0,
  };
}
