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
  // its own menu offers what has no place here
  field.addEventListener('mount', () => (field.menuItems = []), { once: true });
  return field;
}
