/**
 * Letters typed while a field is being made are kept for it. On a slow machine that takes a moment, in which they would be taken for
 * shortcuts, or lost.
 */
import { isTyping } from './commands.js';

/** What never comes is not waited for: ms. */
const LONGEST = 15_000;
let end: (() => void) | undefined;

/** A list to choose from takes letters too, but no words. */
const isField = (e: Element | null): boolean => e !== null && isTyping(e) && e.tagName !== 'SELECT';

/** From now on letters wait for the next field that takes the focus, and are typed there. Any key that is no letter ends the waiting. */
export function holdKeys(): void {
  end?.();
  // where somebody types now is not what is being made
  const before = document.activeElement;
  let held = '';
  const arrived = (): boolean => document.activeElement !== before && isField(document.activeElement);
  const give = (): void => {
    end?.();
    // the one way to type that editors and fields alike take for typing
    if (held && arrived()) document.execCommand('insertText', false, held);
    held = '';
  };
  const onKey = (e: KeyboardEvent): void => {
    if (arrived()) return give();
    const chord = e.ctrlKey || e.metaKey || e.altKey;
    if (e.key === 'Shift') return;
    if (chord || e.isComposing || (e.key.length > 1 && e.key !== 'Backspace')) return end?.();
    if (e.key === 'Backspace') held = held.slice(0, -1);
    else held += e.key;
    e.preventDefault();
    e.stopImmediatePropagation();
  };
  // an editor puts its caret in place after it has the focus
  const onFocus = (): void => void (arrived() && requestAnimationFrame(give));
  const late = setTimeout(() => end?.(), LONGEST);
  addEventListener('keydown', onKey, true);
  addEventListener('focusin', onFocus, true);
  end = () => {
    clearTimeout(late);
    removeEventListener('keydown', onKey, true);
    removeEventListener('focusin', onFocus, true);
    end = undefined;
  };
}
