/** A formula typed as it looks, with a keyboard of its own where there is none. */
import { numberOfTex, onlyFormula } from '@zakuska/core/formulas';
import { useEffect, useRef } from 'react';
import { mathField } from '../ui/mathField.js';

export interface FormulaFieldProps {
  label: string;
  /** What was answered so far: a formula, or plain signs. */
  text: string;
  disabled: boolean;
  /** Whether a number is asked for: it is written as numbers are. */
  number?: boolean;
  onText: (text: string) => void;
}
export function FormulaField({ label, text, disabled, number = false, onText }: FormulaFieldProps) {
  const place = useRef<HTMLSpanElement>(null);
  const start = useRef(text);
  const tell = useRef(onText);
  tell.current = onText;
  useEffect(() => {
    const field = mathField(label, onlyFormula(start.current) ?? start.current);
    field.readOnly = disabled;
    field.mathVirtualKeyboardPolicy = 'auto';
    field.className = 'formula-field';
    field.addEventListener('input', () => {
      const tex = field.value.trim();
      tell.current(!tex ? '' : number ? numberOfTex(tex) : `\\(${tex}\\)`);
    });
    place.current?.append(field);
    return () => field.remove();
  }, [disabled, label, number]);
  return <span ref={place} className="formula-place" />;
}
