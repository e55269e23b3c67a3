/** A workspace itself: its name, and its end. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { mayAs } from '@zakuska/core';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import type { Administered } from './Members.js';

export function TheWorkspace({ workspace }: { workspace: Administered }) {
  const queries = useQueryClient();
  const path = { workspace: workspace.id };
  const [name, setName] = useState(workspace.name);
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState('');
  const rename = useMutation({
    mutationFn: () => call(api.PATCH('/api/v1/workspaces/{workspace}', { params: { path }, body: { name } })),
    onSuccess: (s) => {
      queries.setQueryData(['session'], s);
      toast.success('The workspace has its new name.');
    },
  });
  const remove = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/workspaces/{workspace}', { params: { path, query: { name: typed } } })),
    onSuccess: () => location.assign('/'),
  });
  return (
    <div className="grid gap-8">
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          rename.mutate();
        }}
      >
        <Field label="Name of the workspace" error={rename.isError ? wordsOf(rename.error) : undefined}>
          {(id, note) => (
            <Input
              id={id}
              className="w-96! max-w-full"
              required
              maxLength={200}
              aria-describedby={note}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <Button type="submit" disabled={rename.isPending || !name.trim() || name.trim() === workspace.name}>
          Change the name
        </Button>
      </form>
      {mayAs(workspace.role, 'owner') && (
        <section aria-label="Delete the workspace" className="grid gap-2">
          <h2 className="text-lg font-bold">Delete the workspace</h2>
          <p className="text-ink-2">All its sets, quizzes, answers, classes and what happened go with it.</p>
          <Button look="danger" className="justify-self-start" onClick={() => setAsking(true)}>
            Delete the workspace …
          </Button>
        </section>
      )}
      {asking && (
        <Modal
          open
          onClose={() => setAsking(false)}
          title={`Delete ${workspace.name}?`}
          description="Everything in it goes, for all members. This cannot be undone."
        >
          <form
            className="grid gap-3"
            onSubmit={(e: FormEvent) => {
              e.preventDefault();
              remove.mutate();
            }}
          >
            <Field label={`Type its name: ${workspace.name}`} error={remove.isError ? wordsOf(remove.error) : undefined}>
              {(id, note) => <Input id={id} autoComplete="off" aria-describedby={note} value={typed} onChange={(e) => setTyped(e.target.value)} />}
            </Field>
            <div className="flex gap-2">
              <Button type="submit" look="danger" disabled={remove.isPending || typed !== workspace.name}>
                Delete for good
              </Button>
              <Button onClick={() => setAsking(false)}>Cancel</Button>
            </div>
          </form>
        </Modal>
      )}
    </div>
  );
}
