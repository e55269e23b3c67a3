/** A short answer or a number, typed; a formula where one is asked for, or where somebody would rather type their number as one. */
import { useState } from 'react';
import { useLater } from '../ui/useLater.js';
import { formulaField } from './parts.js';
import { useSay } from './words/words.js';

interface Props {
  label: string;
  text: string;
  disabled: boolean;
  /** Figures are a number without the choice to type it as a formula. */
  is: 'words' | 'number' | 'figures' | 'formula';
  longest: number;
  onText: (text: string) => void;
}
export function Typed({ label, text, disabled, is, longest, onText }: Props) {
  const say = useSay();
  const [asFormula, setAsFormula] = useState(false);
  const field = useLater(formulaField, is === 'formula' || asFormula);
  return (
    <>
      {field ? (
        <field.FormulaField label={label} text={text} disabled={disabled} number={is === 'number'} onText={onText} />
      ) : (
        <input
          aria-label={label}
          value={text}
          disabled={disabled}
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          maxLength={longest}
          inputMode={is === 'number' || is === 'figures' ? 'decimal' : 'text'}
          onChange={(e) => onText(e.target.value)}
        />
      )}
      {is === 'number' && !disabled && (
        <button
          type="button"
          className="as-formula"
          aria-pressed={asFormula}
          title={say('asFormula')}
          aria-label={say('asFormula')}
          onClick={() => setAsFormula(!asFormula)}
        >
          <span aria-hidden>
            <i>a</i>/<i>b</i>
          </span>
        </button>
      )}
    </>
  );
}
