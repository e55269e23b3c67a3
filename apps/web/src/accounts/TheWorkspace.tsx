/** A workspace itself: its name, and its end. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { mayAs } from '@zakuska/core';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { NameForm } from './NameForm.js';
import type { Administered } from './Members.js';
import { say } from '../words/say.js';

export function TheWorkspace({ workspace }: { workspace: Administered }) {
  const queries = useQueryClient();
  const path = { workspace: workspace.id };
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState('');
  const rename = async (name: string): Promise<void> => {
    queries.setQueryData(['session'], await call(api.PATCH('/api/v1/workspaces/{workspace}', { params: { path }, body: { name } })));
    toast.success(say('The workspace has its new name.'));
  };
  const remove = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/workspaces/{workspace}', { params: { path, query: { name: typed } } })),
    onSuccess: () => location.assign('/'),
  });
  return (
    <div className="grid gap-8">
      <NameForm label={say('Name of the workspace')} value={workspace.name} onName={rename} />
      {mayAs(workspace.role, 'owner') && (
        <section aria-label={say('Delete the workspace')} className="grid gap-2">
          <h2 className="text-lg font-bold">{say('Delete the workspace')}</h2>
          <p className="text-ink-2">{say('All its sets, quizzes, answers, classes and what happened go with it.')}</p>
          <Button look="danger" className="justify-self-start" onClick={() => setAsking(true)}>
            {say('Delete the workspace …')}
          </Button>
        </section>
      )}
      {asking && (
        <Modal
          open
          onClose={() => setAsking(false)}
          title={say('Delete {name}?', { name: workspace.name })}
          description={say('Everything in it goes, for all members. This cannot be undone.')}
        >
          <form
            className="grid gap-3"
            onSubmit={(e: FormEvent) => {
              e.preventDefault();
              remove.mutate();
            }}
          >
            <Field label={say('Type its name: {name}', { name: workspace.name })} error={remove.isError ? wordsOf(remove.error) : undefined}>
              {(id, note) => <Input id={id} autoComplete="off" aria-describedby={note} value={typed} onChange={(e) => setTyped(e.target.value)} />}
            </Field>
            <div className="flex gap-2">
              <Button type="submit" look="danger" disabled={remove.isPending || typed !== workspace.name}>
                {say('Delete for good')}
              </Button>
              <Button onClick={() => setAsking(false)}>{say('Cancel')}</Button>
            </div>
          </form>
        </Modal>
      )}
    </div>
  );
}
