/** Fields of plain text and numbers whose value is handed on when typing rests. */
import { parseNumber } from '@zakuska/core';
import { type ReactNode, useState } from 'react';
import { Field, Input, TextArea, useTyped } from '../ui/Field.js';
import { say } from '../words/say.js';

export function TypedArea({
  label,
  value,
  onCommit,
  hint,
  rows = 1,
}: {
  label: string;
  value: string;
  onCommit: (v: string) => void;
  hint?: ReactNode;
  rows?: number;
}) {
  const typed = useTyped(value, onCommit);
  return (
    <Field label={label} hint={hint}>
      {(id, note) => <TextArea id={id} aria-describedby={note} dir="auto" rows={rows} {...typed} />}
    </Field>
  );
}

export function TypedInput({
  name,
  value,
  onCommit,
  className,
  placeholder,
  list,
}: {
  name: string;
  value: string;
  onCommit: (v: string) => void;
  className?: string;
  placeholder?: string;
  list?: string;
}) {
  const typed = useTyped(value, onCommit);
  return <Input aria-label={name} dir="auto" list={list} {...typed} {...(className && { className })} {...(placeholder && { placeholder })} />;
}

/** A number that is typed as text; what is no number, or out of bounds, is not taken and said so. */
export function TypedNumber({
  label,
  value,
  min = 0,
  max = Number.POSITIVE_INFINITY,
  bare = false,
  optional = false,
  suffix,
  onCommit,
}: {
  label: string;
  value: number | null;
  min?: number;
  max?: number;
  /** Only the field; its name is for those who do not see it. */
  bare?: boolean;
  /** Empty is a value: none. */
  optional?: boolean;
  suffix?: string;
  onCommit: (v: number | null) => void;
}) {
  const [wrong, setWrong] = useState(false);
  const typed = useTyped(value === null ? '' : String(value), (v) => {
    if (optional && !v.trim()) {
      setWrong(false);
      return onCommit(null);
    }
    const n = parseNumber(v);
    const fits = n !== null && n >= min && n <= max;
    setWrong(!fits);
    if (fits) onCommit(n);
  });
  if (bare)
    return (
      <span className="flex flex-none items-center gap-1">
        <Input
          aria-label={label}
          title={label}
          inputMode="decimal"
          aria-invalid={wrong}
          className={`w-16! text-right ${wrong ? 'border-brick!' : ''}`}
          {...typed}
        />
        {suffix}
      </span>
    );
  return (
    <Field label={label} error={wrong ? say('This is not a number that fits.') : undefined}>
      {(id, note) => (
        <span className="flex items-center gap-1.5">
          <Input id={id} inputMode="decimal" aria-describedby={note} aria-invalid={wrong} className="w-24!" {...typed} /> {suffix}
        </span>
      )}
    </Field>
  );
}
