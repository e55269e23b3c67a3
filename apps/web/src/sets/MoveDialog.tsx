/** Where sets or a folder go, chosen from all folders. */
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { FolderSelect } from './FolderSelect.js';
import type { FolderTree } from './useFolders.js';
import { say } from '../words/say.js';

interface Props {
  /** What is moved, as it is named. */
  what: string;
  tree: FolderTree;
  from: string;
  /** Folders that it cannot go into. */
  without?: (id: string) => boolean;
  onMove: (into: string | null) => void;
  onClose: () => void;
}
export function MoveDialog({ what, tree, from, without, onMove, onClose }: Props) {
  const [into, setInto] = useState(from);
  return (
    <Modal open onClose={onClose} title={say('Move {what}', { what })}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          onMove(into || null);
          onClose();
        }}
      >
        <Field label={say('Into')}>
          {(id) => (
            <FolderSelect id={id} autoFocus tree={tree} value={into} onFolder={setInto} none={say('no folder: at the top')} {...(without && { without })} />
          )}
        </Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button type="submit" look="primary" disabled={into === from}>
            {say('Move')}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
