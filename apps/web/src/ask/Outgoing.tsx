/** A request as it will go out, growing as the blanks are filled, with its length and the way to copy it; and the place for the reply. */
import { measure } from '@zakuska/core';
import { type ReactNode, useMemo } from 'react';
import { Button } from '../ui/Button.js';
import { AskAssistant, type Sends } from './AskAssistant.js';
import { copyText } from '../ui/copyText.js';
import { Field, TextArea } from '../ui/Field.js';
import { locale, say } from '../words/say.js';

/** Copies a request and says what to do with it. @param instead what else leads there, where the browser does not copy */
export const copyRequest = (text: string, instead = say('Select the text and copy it.')): void =>
  copyText(text, say('The request is copied. Give it to any assistant, and paste the reply below.'), instead);

interface Outgoing {
  text: string;
  /** Why it cannot go out yet. */
  problem: string | null;
  /** Said beside the length: how much of a source goes along. */
  note?: string | undefined;
  /** Low, where the reply is what one works on. */
  low?: boolean;
  onCopy: () => void;
  /** How it goes to the assistant of the workspace. */
  sends?: Sends;
}
export function RequestText({ text, problem, note, low = false, onCopy, sends }: Outgoing) {
  const length = useMemo(() => measure(text), [text]);
  return (
    <section aria-label={say('The request')} className="grid content-start gap-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h2 className="text-base font-bold">{say('As it goes out')}</h2>
        <span role="status" className="flex-1 text-[13.5px] text-ink-2 tabular-nums">
          {problem ?? (
            <span
              title={say('Tokens are estimated: four characters each in Latin letters, two in other alphabets, one each in scripts of syllables or words.')}
            >
              {say('{characters} characters, about {tokens} tokens{what}', {
                characters: length.characters.toLocaleString(locale()),
                tokens: length.tokens.toLocaleString(locale()),
                what: note ? ` · ${note}` : '',
              })}
            </span>
          )}
        </span>
        <Button look="primary" disabled={problem !== null} onClick={onCopy}>
          {say('Copy the request')}
        </Button>
      </div>
      {sends && <AskAssistant {...sends} text={text} blocked={problem !== null} />}
      <pre
        tabIndex={0}
        role="region"
        aria-label={say('Text of the request')}
        className={`${low ? 'max-h-[15vh]' : 'max-h-[46vh]'} min-h-20 overflow-auto rounded border border-rule bg-sheet p-3 font-mono text-[13px]/5 whitespace-pre-wrap`}
      >
        {problem === null ? text : ''}
      </pre>
    </section>
  );
}

/** Where the reply is pasted. */
interface Reply {
  value: string;
  /** Whether it is kept with the set as it is. */
  kept?: boolean;
  low?: boolean;
  onChange: (text: string) => void;
  children?: ReactNode;
}
export function ReplyText({ value, kept = false, low = false, onChange, children }: Reply) {
  return (
    <div className="grid gap-2">
      <Field
        label={say('The reply')}
        hint={value ? (kept ? say('Kept with the set.') : undefined) : say('Give the request to any assistant, and paste here what comes back, as it is.')}
      >
        {(id, note) => (
          <TextArea
            id={id}
            aria-describedby={note}
            rows={4}
            className={`${low ? 'max-h-[15vh]' : 'max-h-[30vh]'} min-h-24 overflow-auto font-mono text-[13px]`}
            value={value}
            maxLength={2_000_000}
            onChange={(e) => onChange(e.target.value)}
          />
        )}
      </Field>
      {children}
    </div>
  );
}
