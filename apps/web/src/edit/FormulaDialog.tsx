/** A formula by hand on a visual field, or typed as TeX; each follows the other. */
import type { MathfieldElement } from 'mathlive';
import { useCallback, useRef, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, TextArea } from '../ui/Field.js';
import { Rich } from '../ui/Rich.js';
import { focusNow, mathField } from '../ui/mathField.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

const SIGNS: readonly [string, string][] = [
  ['\\frac{#0}{#?}', '\\frac{a}{b}'],
  ['#0^{#?}', 'x^n'],
  ['#0_{#?}', 'x_n'],
  ['\\sqrt{#0}', '\\sqrt{x}'],
  ['\\times', '\\times'],
  ['\\cdot', '\\cdot'],
  ['\\le', '\\le'],
  ['\\ge', '\\ge'],
  ['\\ne', '\\ne'],
  ['\\approx', '\\approx'],
  ['\\pi', '\\pi'],
  ['^{\\circ}', '{}^{\\circ}'],
  ['\\sum_{#?}^{#?}', '\\sum'],
  ['\\int_{#?}^{#?}', '\\int'],
];

export function FormulaDialog({
  tex: first,
  display: firstDisplay,
  onDone,
  onClose,
}: {
  tex: string;
  display: boolean;
  onDone: (formula: { tex: string; display: boolean } | null) => void;
  onClose: () => void;
}) {
  const [tex, setTex] = useState(first);
  const [display, setDisplay] = useState(firstDisplay);
  const field = useRef<MathfieldElement | null>(null);
  const start = useRef(first);
  /** The dialog shows its content after this component did: the field is made when its place is there. */
  const host = useCallback((place: HTMLDivElement | null) => {
    if (!place) return;
    const f = mathField(say('Formula, visual'), start.current);
    f.mathVirtualKeyboardPolicy = 'manual';
    f.style.cssText =
      'width:100%;min-height:56px;font-size:1.5em;padding:8px;border:1px solid var(--rule);border-radius:4px;background:var(--sheet);color:var(--ink)';
    f.addEventListener('input', () => setTex(f.value));
    place.append(f);
    field.current = f;
    requestAnimationFrame(() => focusNow(f));
    return () => f.remove();
  }, []);
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Formula')}
      foot={
        <>
          {first && (
            <Button look="danger" onClick={() => onDone(null)}>
              {say('Take it out')}
            </Button>
          )}
          <span className="flex-1" />
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={!tex.trim()} onClick={() => onDone({ tex: tex.trim(), display })}>
            {first ? say('Change') : say('Insert')}
          </Button>
        </>
      }
    >
      <div className="grid gap-3">
        <div ref={host} />
        <div className="flex flex-wrap gap-1" role="group" aria-label={say('Signs')}>
          {SIGNS.map(([insert, shows]) => (
            <button
              key={insert}
              type="button"
              title={shows}
              aria-label={shows}
              className="grid h-8 min-w-8 cursor-pointer place-items-center rounded border border-rule bg-sheet px-1.5 hover:border-ink-2"
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => {
                field.current?.insert(insert, { focus: true });
                setTex(field.current?.value ?? tex);
              }}
            >
              <Rich text={`\\(${shows}\\)`} />
            </button>
          ))}
        </div>
        <Field label={say('TeX')}>
          {(id) => (
            <TextArea
              id={id}
              rows={2}
              spellCheck={false}
              className="font-mono text-sm"
              value={tex}
              onChange={(e) => {
                setTex(e.target.value);
                field.current?.setValue(e.target.value, { silenceNotifications: true });
              }}
            />
          )}
        </Field>
        <div role="group" className="min-h-10 overflow-x-auto" aria-label={say('How it will look')}>
          <Rich text={display ? `\\[${tex}\\]` : `\\(${tex}\\)`} />
        </div>
        <label className="flex items-center gap-2">
          <input type="checkbox" className="size-4 accent-beet" checked={display} onChange={(e) => setDisplay(e.target.checked)} />{' '}
          {say('On a line of its own')}
        </label>
      </div>
    </Modal>
  );
}
