/** What something new at a service is called, and how it is set. */
import type { ServiceRow, Settings } from '@zakuska/core';
import { Field, Input, Select } from '../ui/Field.js';

interface Props {
  row: ServiceRow;
  label: string;
  title: string;
  onTitle: (title: string) => void;
  settings: Settings;
  onSettings: (settings: Settings) => void;
}

export function NewContainer({ row, label, title, onTitle, settings, onSettings }: Props) {
  const choices = row.settings.filter((s) => s.choices.length);
  const switches = row.settings.filter((s) => !s.choices.length);
  return (
    <>
      <Field label={label}>{(id) => <Input id={id} value={title} maxLength={200} onChange={(e) => onTitle(e.target.value)} />}</Field>
      {row.settings.length > 0 && (
        <details className="text-sm">
          <summary className="cursor-pointer font-semibold">How it is set</summary>
          <div className="mt-2 grid gap-2.5">
            {choices.map((s) => (
              <Field key={s.id} label={s.name}>
                {(id) => (
                  <Select id={id} value={String(settings[s.id] ?? s.usual)} onChange={(e) => onSettings({ ...settings, [s.id]: e.target.value })}>
                    {s.choices.map((c) => (
                      <option key={c.value} value={c.value}>
                        {c.name}
                      </option>
                    ))}
                  </Select>
                )}
              </Field>
            ))}
            {switches.map((s) => (
              <label key={s.id} className="flex items-start gap-2">
                <input
                  type="checkbox"
                  className="mt-1 accent-beet"
                  checked={Boolean(settings[s.id] ?? s.usual)}
                  onChange={(e) => onSettings({ ...settings, [s.id]: e.target.checked })}
                />
                {s.name}
              </label>
            ))}
          </div>
        </details>
      )}
    </>
  );
}
