/** Where a show of slides stands, and what moves it. No interface: the keys of any window lead here. */
import type { Slide } from '@zakuska/core';
import { say } from '../words/say.js';

/** Where a show stands. */
export interface Showing {
  /** 0-based place in the slides. */
  at: number;
  /** Nothing is shown, so that people look up. */
  dark: boolean;
  /** Digits typed so far of the question to go to. */
  typed: string;
}
/** Something that is done to a show. */
export type Move = 'next' | 'back' | 'first' | 'last' | 'dark' | 'go' | { digit: string };

/** A show at its beginning. */
export const begun: Showing = { at: 0, dark: false, typed: '' };

/** The first slide of the question with a number as learners see it; -1 where there is none. */
export const placeOfQuestion = (slides: readonly Slide[], number: string): number =>
  slides.findIndex((s) => s.is === 'item' && s.place.split(' / ')[0] === number);

/** What a show becomes. It stays where it is at either end, and where no question has the number. */
export function moved(s: Showing, move: Move, slides: readonly Slide[]): Showing {
  const to = (at: number): Showing => ({ at: Math.max(0, Math.min(slides.length - 1, at)), dark: false, typed: '' });
  if (typeof move === 'object') return { ...s, typed: (s.typed + move.digit).slice(-4) };
  switch (move) {
    case 'next':
      return to(s.at + 1);
    case 'back':
      return to(s.at - 1);
    case 'first':
      return to(0);
    case 'last':
      return to(slides.length - 1);
    case 'dark':
      return { ...s, dark: !s.dark, typed: '' };
    case 'go': {
      // without a number, as any other key that goes on
      if (!s.typed) return to(s.at + 1);
      const at = placeOfQuestion(slides, s.typed);
      return to(at < 0 ? s.at : at);
    }
  }
}

/** What keys do in a show; those of a hand-held clicker are among them. */
export const showKeys: readonly { keys: readonly string[]; does: Exclude<Move, object> | 'timer' | 'window' | 'full'; words: string; shown: string }[] = [
  { keys: ['ArrowRight', 'ArrowDown', 'PageDown', ' ', 'N'], does: 'next', words: say('On to the next step'), shown: say('→ or Space') },
  { keys: ['ArrowLeft', 'ArrowUp', 'PageUp', 'Backspace', 'P'], does: 'back', words: say('Back a step'), shown: say('← or Backspace') },
  { keys: ['Home'], does: 'first', words: say('To the first slide'), shown: 'Home' },
  { keys: ['End'], does: 'last', words: say('To the last slide'), shown: 'End' },
  { keys: ['Enter'], does: 'go', words: say('To the question whose number was typed'), shown: say('Number, Enter') },
  { keys: ['B', '.'], does: 'dark', words: say('Hide the slide, and show it again'), shown: 'B' },
  { keys: ['T'], does: 'timer', words: say('Start or stop the time'), shown: 'T' },
  { keys: ['F', 'F5'], does: 'full', words: say('Fill the screen'), shown: 'F' },
  { keys: ['W'], does: 'window', words: say('Your own window, with the notes'), shown: 'W' },
];

/** Seconds that a question without a time of its own has. */
export const USUAL_SECONDS = 60;
/** Seconds as minutes and seconds: "1:05". */
export const minutes = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
