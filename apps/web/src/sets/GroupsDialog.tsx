/** Groups of people of a workspace, to share with all of them at once. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { newId } from '@zakuska/core';
import { useState } from 'react';
import { api, call, type Schemas, wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

interface Props {
  workspace: string;
  groups: readonly Schemas['GroupView'][];
  members: readonly Schemas['WorkspaceMember'][];
  onClose: () => void;
}
export function GroupsDialog({ workspace, groups, members, onClose }: Props) {
  const queries = useQueryClient();
  const [group, setGroup] = useState<Schemas['GroupView']>(groups[0] ?? { id: newId(), name: '', members: [] });
  const known = groups.some((g) => g.id === group.id);
  const onSuccess = (): void => {
    for (const key of ['groups', 'sharing', 'sets', 'folders']) void queries.invalidateQueries({ queryKey: [key] });
  };
  const path = { workspace, group: group.id };
  const save = useMutation({
    mutationFn: () =>
      call(api.PUT('/api/v1/workspaces/{workspace}/groups/{group}', { params: { path }, body: { name: group.name.trim(), members: group.members } })),
    onSuccess: () => {
      onSuccess();
      onClose();
    },
  });
  const remove = useMutation({
    mutationFn: () => call(api.DELETE('/api/v1/workspaces/{workspace}/groups/{group}', { params: { path } })),
    onSuccess: () => {
      onSuccess();
      onClose();
    },
  });
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Groups')}
      description={say('What is shared with a group is shared with everybody in it, also with who comes later.')}
      foot={
        <>
          <Button look="primary" disabled={!group.name.trim() || save.isPending} onClick={() => save.mutate()}>
            {say('Save the group')}
          </Button>
          {known && (
            <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate()}>
              {say('Delete the group')}
            </Button>
          )}
          {(save.isError || remove.isError) && <span className="text-[13.5px] text-brick">{wordsOf(save.error ?? remove.error)}</span>}
        </>
      }
    >
      <div className="grid gap-3">
        <Field label={say('Group')}>
          {(id) => (
            <Select
              id={id}
              value={known ? group.id : ''}
              onChange={(e) => setGroup(groups.find((g) => g.id === e.target.value) ?? { id: newId(), name: '', members: [] })}
            >
              {groups.map((g) => (
                <option key={g.id} value={g.id}>
                  {g.name}
                </option>
              ))}
              <option value="">{say('a new group')}</option>
            </Select>
          )}
        </Field>
        <Field label={say('Name')}>
          {(id) => <Input id={id} maxLength={100} value={group.name} onChange={(e) => setGroup({ ...group, name: e.target.value })} />}
        </Field>
        <fieldset className="grid gap-1">
          <legend className="text-[13.5px] font-semibold">{say('Who is in it')}</legend>
          {members.map((m) => (
            <label key={m.id} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-beet"
                checked={group.members.includes(m.id)}
                onChange={(e) => setGroup({ ...group, members: e.target.checked ? [...group.members, m.id] : group.members.filter((x) => x !== m.id) })}
              />
              {m.name} <span className="text-[13.5px] text-ink-2">{m.email}</span>
            </label>
          ))}
        </fieldset>
      </div>
    </Modal>
  );
}
