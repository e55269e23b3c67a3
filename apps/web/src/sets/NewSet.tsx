/** A new set: what it is called and where it lies. */
import { UNTITLED } from '@zakuska/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, call, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { FolderSelect } from './FolderSelect.js';
import type { FolderTree } from './useFolders.js';
import { say } from '../words/say.js';

interface Props {
  workspace: string;
  tree: FolderTree;
  /** The folder that is shown. */
  folder: string;
  onClose: () => void;
}
export function NewSet({ workspace, tree, folder: shown, onClose }: Props) {
  const [title, setTitle] = useState('');
  const [folder, setFolder] = useState(shown);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const create = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/workspaces/{workspace}/sets', {
          params: { path: { workspace } },
          body: { title: title.trim() || UNTITLED, ...(folder && { folder }) },
        }),
      ),
    onSuccess: (s) => {
      for (const key of ['sets', 'folders']) void queries.invalidateQueries({ queryKey: [key] });
      void navigate(`/sets/${s.id}/draft`);
    },
  });
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    create.mutate();
  };
  return (
    <Modal open onClose={onClose} title={say('New set')}>
      <form onSubmit={submit} className="grid gap-3">
        <Field label={say('Title')} error={create.isError ? wordsOf(create.error) : undefined}>
          {(id) => (
            <Input id={id} autoFocus maxLength={300} value={title} onChange={(e) => setTitle(e.target.value)} placeholder={say('Starters and proofing')} />
          )}
        </Field>
        <Field label={say('Folder')}>{(id) => <FolderSelect id={id} tree={tree} value={folder} onFolder={setFolder} />}</Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button type="submit" look="primary" disabled={create.isPending}>
            {say('Start the set')}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
