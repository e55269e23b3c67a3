/** One mark that somebody has to look at: what it looks like, what it may be, and a key for each. */
import type { SheetDoubt } from '@zakuska/core/scan';
import { useEffect, useRef, useState } from 'react';
import { type Command, useCommands } from '../../ui/commands.js';
import { Button } from '../../ui/Button.js';
import { Field, Input } from '../../ui/Field.js';
import { GreyPicture } from './GreyPicture.js';
import type { Doubt } from './stack.js';
import { say } from '../../words/say.js';

const WHY: Readonly<Record<SheetDoubt, string>> = {
  faint: say('A light mark, or one that was rubbed out.'),
  several: say('More than one circle is filled in.'),
  crossed: say('Strokes go across and beyond a circle: crossed out, or meant?'),
  number: say('These circles make no number.'),
  written: say('Something is written here. Type what it says.'),
  lost: say('These circles are not where they should be. Say what you see.'),
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
            name: say('Mark {sign}', { sign }),
            keys: [/^\p{L}$/u.test(sign) ? sign.toUpperCase() : sign],
            keysOnly: true,
            run: () => choose(value),
          }),
        )
      : []),
    ...(several ? [] : [{ name: say('Take the mark as it was read'), keys: ['Enter'], whileTyping: true, run: take }]),
    { name: say('Nothing is marked'), keys: ['Delete'], run: () => onSay([]) },
    ...(onBack ? [{ name: say('Back to the mark before'), keys: ['Backspace'], run: onBack }] : []),
  ];
  useCommands(commands);
  return (
    <section aria-label={say('To look at')} className="grid content-start gap-3 max-lg:order-first">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="text-lg font-bold">{say('Question {label}, {person}', { label: field.label, person: entry.person.trim() || entry.file })}</h2>
        <span className="text-sm text-ink-2">{say('{left, plural, one {# mark} other {# marks}} to look at', { left })}</span>
      </div>
      {field.cut && <GreyPicture of={field.cut} label={say('Question {label} on the sheet', { label: field.label })} className="w-full max-w-xl" />}
      <p>{field.doubt && WHY[field.doubt]}</p>
      {row ? (
        <div className="flex flex-wrap gap-2" role="group" aria-label={field.several ? say('What is marked') : say('Which one is meant')}>
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
        <Field label={field.is === 'grid' ? say('The number') : say('What is written')}>
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
                ? say('It is {chosen}', { chosen: chosen.map((v) => field.signs.find((s) => s.value === v)?.sign).join(', ') })
                : say('Nothing is marked')
              : typed.trim()
                ? say('It says this')
                : say('Nothing is written')}
          </Button>
        )}
        {(several || (row ? chosen.length > 0 : typed.trim() !== '')) && (
          <Button onClick={() => onSay([])}>{field.is === 'box' ? say('Nothing is written') : say('Nothing is marked')}</Button>
        )}
        {onBack && <Button onClick={onBack}>{say('Back to the one before')}</Button>}
      </div>
      <p className="text-sm text-ink-2">
        {row ? (field.several ? say('Letters mark and unmark, Enter goes on') : say('The letter of a circle goes on at once')) : say('Enter goes on')}
        {onBack && say(', Backspace goes back')}.
      </p>
    </section>
  );
}
