/** How something at a service is set. */
import type { Setting, Settings } from '@zakuska/core';
import { Field, Select } from '../ui/Field.js';
import { say } from '../words/say.js';

interface Props {
  settings: readonly Setting[];
  values: Settings;
  onValues: (values: Settings) => void;
}

export function HowItIsSet({ settings, values, onValues }: Props) {
  const choices = settings.filter((s) => s.choices.length);
  const switches = settings.filter((s) => !s.choices.length);
  if (!settings.length) return null;
  return (
    <details className="text-sm">
      <summary className="cursor-pointer font-semibold">{say('How it is set')}</summary>
      <div className="mt-2 grid gap-2.5">
        {choices.map((s) => (
          <Field key={s.id} label={s.name}>
            {(id) => (
              <Select id={id} value={String(values[s.id] ?? s.usual)} onChange={(e) => onValues({ ...values, [s.id]: e.target.value })}>
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
              checked={Boolean(values[s.id] ?? s.usual)}
              onChange={(e) => onValues({ ...values, [s.id]: e.target.checked })}
            />
            {s.name}
          </label>
        ))}
      </div>
    </details>
  );
}
