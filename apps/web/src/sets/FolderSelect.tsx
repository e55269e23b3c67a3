/** A folder to choose, or none. */
import type { SelectHTMLAttributes } from 'react';
import { Select } from '../ui/Field.js';
import { type FolderTree, inOrder, mayFill } from './useFolders.js';
import { say } from '../words/say.js';

interface Props extends Omit<SelectHTMLAttributes<HTMLSelectElement>, 'onChange'> {
  tree: FolderTree;
  value: string;
  onFolder: (id: string) => void;
  /** What no folder is called. */
  none?: string;
  /** Folders that cannot be chosen, with all below them. */
  without?: (id: string) => boolean;
}
export function FolderSelect({ tree, value, onFolder, none = say('no folder'), without, ...rest }: Props) {
  return (
    <Select {...rest} value={value} onChange={(e) => onFolder(e.target.value)}>
      <option value="">{none}</option>
      {inOrder(tree.top).map((f) => (
        <option key={f.id} value={f.id} disabled={!mayFill(f) || without?.(f.id)}>
          {'\u2003'.repeat(f.path.length - 1)}
          {f.name}
        </option>
      ))}
    </Select>
  );
}
