/** A dialog that asks for one name. */
import { useState } from 'react';
import { wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

interface Props {
  title: string;
  label: string;
  value?: string;
  action: string;
  /** @throws what is then said below the field */
  onName: (name: string) => Promise<unknown>;
  onClose: () => void;
}
export function NameDialog({ title, label, value = '', action, onName, onClose }: Props) {
  const [name, setName] = useState(value);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const submit = async (): Promise<void> => {
    setBusy(true);
    try {
      if (name.trim() !== value) await onName(name.trim());
      onClose();
    } catch (e) {
      setProblem(wordsOf(e));
      setBusy(false);
    }
  };
  return (
    <Modal open onClose={onClose} title={title}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <Field label={label} error={problem}>
          {(id, described) => (
            <Input
              id={id}
              aria-describedby={described}
              autoFocus
              required
              maxLength={200}
              value={name}
              onFocus={(e) => e.target.select()}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button type="submit" look="primary" disabled={busy || !name.trim()}>
            {action}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
