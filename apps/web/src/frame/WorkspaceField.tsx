/** Which workspace a page is of; nothing where there is one. */
import { Field, Select } from '../ui/Field.js';
import { say } from '../words/say.js';

interface Props {
  workspaces: readonly { id: string; name: string }[];
  value: string | undefined;
  onChange: (id: string) => void;
}
export function WorkspaceField({ workspaces, value, onChange }: Props) {
  if (workspaces.length < 2) return null;
  return (
    <Field label={say('Workspace')}>
      {(id) => (
        <Select id={id} className="w-72!" value={value} onChange={(e) => onChange(e.target.value)}>
          {workspaces.map((w) => (
            <option key={w.id} value={w.id}>
              {w.name}
            </option>
          ))}
        </Select>
      )}
    </Field>
  );
}
