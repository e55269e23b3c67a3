/** What is arranged with one person of a class: later than the others, or once more. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { asInstant, asLocal } from '../ui/localTime.js';
import { localMoment } from './rulesWords.js';
import { say } from '../words/say.js';

type Person = Schemas['InvitedView'];

/** What is arranged, in words; '' where nothing is. */
export const arrangedWords = ({ until, attempts }: Pick<Person, 'until' | 'attempts'>): string =>
  [
    until ? say('until {localMoment}', { localMoment: localMoment(until) }) : '',
    attempts ? say('{attempts, plural, one {# more attempt} other {# more attempts}}', { attempts }) : '',
  ]
    .filter(Boolean)
    .join(', ');

export function ArrangeDialog({ delivery, person, onClose }: { delivery: string; person: Person; onClose: () => void }) {
  const queries = useQueryClient();
  const [until, setUntil] = useState(person.until);
  const [attempts, setAttempts] = useState(person.attempts);
  const arrange = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/deliveries/{delivery}/arrange', {
          params: { path: { delivery } },
          body: { members: [person.id], attempts, until: until ?? null },
        }),
      ),
    onSuccess: (now) => {
      queries.setQueryData(['people', delivery], now);
      onClose();
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Arrange with {name}', { name: person.name })}
      foot={
        <>
          <span className="flex-1" />
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={arrange.isPending} onClick={() => arrange.mutate()}>
            {say('Arrange')}
          </Button>
        </>
      }
    >
      <div className="grid gap-4">
        <Field
          label={say('May take it until')}
          hint={say('Where the quiz closes at a set time. Answers that are shown after closing are shown to the others by then. Empty: as the others.')}
        >
          {(id, note) => (
            <Input id={id} aria-describedby={note} type="datetime-local" value={asLocal(until)} onChange={(e) => setUntil(asInstant(e.target.value))} />
          )}
        </Field>
        <Field label={say('Attempts more than the others')}>
          {(id) => (
            <Input
              id={id}
              type="number"
              min={0}
              max={20}
              value={attempts}
              onChange={(e) => setAttempts(Math.max(0, Math.min(20, Math.round(e.target.valueAsNumber || 0))))}
            />
          )}
        </Field>
      </div>
    </Modal>
  );
}
