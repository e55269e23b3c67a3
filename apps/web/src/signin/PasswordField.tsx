/** A field for a password, the one there is or a new one. */
import type { ReactNode } from 'react';
import { Field, Input } from '../ui/Field.js';
import { say } from '../words/say.js';

/** What is said of new passwords. */
export const PASSWORD_HINT = say('At least ten characters. A few words that do not belong together are easy to keep in mind.');

interface Props {
  label?: string;
  value: string;
  onChange: (password: string) => void;
  /** A new one: password managers offer to make it. */
  fresh?: boolean;
  error?: string | undefined;
  hint?: ReactNode;
  className?: string;
  autoFocus?: boolean;
}
export function PasswordField({ label = say('Password'), value, onChange, fresh = false, error, hint, className = '', autoFocus = false }: Props) {
  return (
    <Field label={label} error={error} hint={hint}>
      {(id, note) => (
        <Input
          id={id}
          type="password"
          className={className}
          autoComplete={fresh ? 'new-password' : 'current-password'}
          autoFocus={autoFocus}
          required
          aria-describedby={note}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Field>
  );
}
