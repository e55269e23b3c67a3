/** What is made of answers that came from elsewhere: which of several of a person counts, and what being late costs; said, and changed. */
import type { OutsideRules, QuizRules } from '@zakuska/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Due } from '../quiz/Due.js';
import { COUNTS, lateWords } from '../quiz/rulesWords.js';
import { Button } from '../ui/Button.js';
import { Field, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { answersChanged, type Source } from './sources.js';
import { say } from '../words/say.js';

interface LineProps {
  source: Source;
  /** The set that the answers are to. */
  set: string;
  mayEdit: boolean;
}
/** What counts, in a line, with the way to change it. */
export function OutsideRulesLine({ source, set, mayEdit }: LineProps) {
  const [open, setOpen] = useState(false);
  const { counts, late } = source.rules ?? {};
  const said = [counts && say('of several answers of a person {COUNTS} counts', { COUNTS: COUNTS[counts] }), late && lateWords(late)]
    .filter(Boolean)
    .join('; ');
  if (!said && !mayEdit) return null;
  return (
    <p className="mb-2 text-sm text-ink-2">
      {said ? `${said.charAt(0).toUpperCase()}${said.slice(1)}.` : say('Each answer counts by itself, whenever it came.')}{' '}
      {mayEdit && (
        <button type="button" className="link" onClick={() => setOpen(true)}>
          {say('What counts …')}
        </button>
      )}
      {open && <OutsideRulesDialog source={source} set={set} onClose={() => setOpen(false)} />}
    </p>
  );
}

interface Props extends Omit<LineProps, 'mayEdit'> {
  onClose: () => void;
}
export function OutsideRulesDialog({ source, set, onClose }: Props) {
  const queries = useQueryClient();
  const [rules, setRules] = useState<OutsideRules>(source.rules ?? {});
  const change = useMutation({
    mutationFn: () => call(api.PUT('/api/v1/placements/{placement}/rules', { params: { path: { placement: source.id } }, body: { rules } })),
    onSuccess: async () => {
      onClose();
      await Promise.all([queries.invalidateQueries({ queryKey: ['results', source.id] }), answersChanged(queries, set)]);
    },
    onError: (e) => toast.error(wordsOf(e)),
  });
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Which answers count, and what is late')}
      description={say('For the answers of this table or service, here and in all that is handed over. Nothing is changed where they came from.')}
      foot={
        <>
          <span className="flex-1" />
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={change.isPending} onClick={() => change.mutate()}>
            {say('Count them so')}
          </Button>
        </>
      }
    >
      <div className="grid gap-3">
        <Field label={say('Of several answers of a person counts')}>
          {(id) => (
            <Select
              id={id}
              value={rules.counts ?? ''}
              onChange={(e) => {
                const { counts: _, ...rest } = rules;
                setRules(e.target.value ? { ...rest, counts: e.target.value as QuizRules['counts'] } : rest);
              }}
            >
              <option value="">{say('each by itself, as they came')}</option>
              {Object.entries(COUNTS).map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Due
          late={rules.late}
          onLate={(late) => {
            const { late: _, ...rest } = rules;
            setRules(late ? { ...rest, late } : rest);
          }}
        />
      </div>
    </Modal>
  );
}
