/** One mark that somebody has to look at: what it looks like, what it may be, and a key for each. */
import { counted } from '@zakuska/core';
import type { SheetDoubt } from '@zakuska/core/scan';
import { useEffect, useRef, useState } from 'react';
import { type Command, useCommands } from '../../ui/commands.js';
import { Button } from '../../ui/Button.js';
import { Field, Input } from '../../ui/Field.js';
import { GreyPicture } from './GreyPicture.js';
import type { Doubt } from './stack.js';

const WHY: Readonly<Record<SheetDoubt, string>> = {
  faint: 'A light mark, or one that was rubbed out.',
  several: 'More than one circle is filled in.',
  crossed: 'Strokes go across and beyond a circle: crossed out, or meant?',
  number: 'These circles make no number.',
  written: 'Something is written here. Type what it says.',
  lost: 'These circles are not where they should be. Say what you see.',
};

interface Props {
  doubt: Doubt;
  left: number;
  onSay: (given: readonly string[]) => void;
  onBack: (() => void) | undefined;
}
/** Is drawn anew for each doubt (by its key), so that nothing is left from the one before. */
export function DoubtCard({ doubt: { entry, field }, left, onSay, onBack }: Props) {
  const [chosen, setChosen] = useState<readonly string[]>(field.given);
  const [typed, setTyped] = useState(field.given[0] ?? '');
  const row = field.is === 'bubbles';
  const input = useRef<HTMLInputElement>(null);
  // what is typed goes where the eye is already, also after a click elsewhere
  useEffect(() => {
    input.current?.focus();
    const typing = (e: KeyboardEvent): void => {
      if (e.target === document.body && e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey) input.current?.focus();
    };
    addEventListener('keydown', typing, true);
    return () => removeEventListener('keydown', typing, true);
  }, []);
  const choose = (value: string): void => {
    if (!field.several) onSay([value]);
    else
      setChosen((now) =>
        now.includes(value) ? now.filter((v) => v !== value) : field.signs.map((s) => s.value).filter((v) => v === value || now.includes(v)),
      );
  };
  const take = (): void => onSay(row ? chosen : typed.trim() ? [typed.trim()] : []);
  const several = row && !field.several && chosen.length > 1;
  const commands: Command[] = [
    ...(row
      ? field.signs.map(
          ({ value, sign }): Command => ({
            name: `Mark ${sign}`,
            keys: [/^\p{L}$/u.test(sign) ? sign.toUpperCase() : sign],
            keysOnly: true,
            run: () => choose(value),
          }),
        )
      : []),
    ...(several ? [] : [{ name: 'Take the mark as it was read', keys: ['Enter'], whileTyping: true, run: take }]),
    { name: 'Nothing is marked', keys: ['Delete'], run: () => onSay([]) },
    ...(onBack ? [{ name: 'Back to the mark before', keys: ['Backspace'], run: onBack }] : []),
  ];
  useCommands(commands);
  return (
    <section aria-label="To look at" className="grid content-start gap-3 max-lg:order-first">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="text-lg font-bold">
          Question {field.label}, {entry.person.trim() || entry.file}
        </h2>
        <span className="text-sm text-ink-2">{counted(left, 'mark')} to look at</span>
      </div>
      {field.cut && <GreyPicture of={field.cut} label={`Question ${field.label} on the sheet`} className="w-full max-w-xl" />}
      <p>{field.doubt && WHY[field.doubt]}</p>
      {row ? (
        <div className="flex flex-wrap gap-2" role="group" aria-label={field.several ? 'What is marked' : 'Which one is meant'}>
          {field.signs.map(({ value, sign }) => (
            <Button
              key={value}
              aria-pressed={chosen.includes(value)}
              look={chosen.includes(value) && !several ? 'primary' : undefined}
              className="min-w-11 font-mono"
              onClick={() => choose(value)}
            >
              {sign}
            </Button>
          ))}
        </div>
      ) : (
        <Field label={field.is === 'grid' ? 'The number' : 'What is written'}>
          {(id) => (
            <Input
              id={id}
              ref={input}
              value={typed}
              autoComplete="off"
              inputMode={field.is === 'grid' ? 'decimal' : undefined}
              onChange={(e) => setTyped(e.target.value)}
            />
          )}
        </Field>
      )}
      <div className="flex flex-wrap gap-2">
        {!several && (
          <Button look="primary" onClick={take}>
            {row
              ? chosen.length
                ? `It is ${chosen.map((v) => field.signs.find((s) => s.value === v)?.sign).join(', ')}`
                : 'Nothing is marked'
              : typed.trim()
                ? 'It says this'
                : 'Nothing is written'}
          </Button>
        )}
        {(several || (row ? chosen.length > 0 : typed.trim() !== '')) && (
          <Button onClick={() => onSay([])}>{field.is === 'box' ? 'Nothing is written' : 'Nothing is marked'}</Button>
        )}
        {onBack && <Button onClick={onBack}>Back to the one before</Button>}
      </div>
      <p className="text-sm text-ink-2">
        {row ? (field.several ? 'Letters mark and unmark, Enter goes on' : 'The letter of a circle goes on at once') : 'Enter goes on'}
        {onBack && ', Backspace goes back'}.
      </p>
    </section>
  );
}
