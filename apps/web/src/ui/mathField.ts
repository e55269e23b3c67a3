/** Fields in which formulas are typed as they look. */
import { MathfieldElement } from 'mathlive';
import 'mathlive/fonts.css';

// fonts come with the page's own style sheet, and nothing clicks
MathfieldElement.fontsDirectory = null;
MathfieldElement.soundsDirectory = null;

/** A field that holds a formula, to be put where it belongs. @param label for who does not see it */
export function mathField(label: string, tex: string): MathfieldElement {
  const field = new MathfieldElement();
  field.value = tex;
  field.setAttribute('aria-label', label);
  // it takes the focus some frames after it is clicked: what is typed until then would be lost
  field.addEventListener('click', () => focusNow(field));
  // its own menu offers what has no place here
  field.addEventListener('mount', () => (field.menuItems = []), { once: true });
  return field;
}

/** Gives a field the focus at once; by itself it would wait sixty milliseconds, and what is typed until then would be lost. */
export function focusNow(field: MathfieldElement): void {
  const keys = field.shadowRoot?.querySelector<HTMLElement>('[part=keyboard-sink]');
  if (keys) keys.focus({ preventScroll: true });
  else field.focus();
}
