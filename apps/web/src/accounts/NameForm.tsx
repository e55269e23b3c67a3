/** A name that can be changed in its place. */
import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { say } from '../words/say.js';

interface Props {
  label: string;
  value: string;
  /** @throws what is then said below the field */
  onName: (name: string) => Promise<unknown>;
}
export function NameForm({ label, value, onName }: Props) {
  const [name, setName] = useState(value);
  const rename = useMutation({ mutationFn: () => onName(name) });
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(e: FormEvent) => {
        e.preventDefault();
        rename.mutate();
      }}
    >
      <Field label={label} error={rename.isError ? wordsOf(rename.error) : undefined}>
        {(id, note) => (
          <Input id={id} className="w-80! max-w-full" required maxLength={200} aria-describedby={note} value={name} onChange={(e) => setName(e.target.value)} />
        )}
      </Field>
      <Button type="submit" disabled={rename.isPending || !name.trim() || name.trim() === value}>
        {say('Change the name')}
      </Button>
    </form>
  );
}
