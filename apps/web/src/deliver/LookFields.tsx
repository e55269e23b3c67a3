/** How a printed paper is set. */
import type { PaperLook } from '@zakuska/core';
import { say } from '../words/say.js';

const LOOKS = { large: say('Large print'), wide: say('Wider spacing, for readers with dyslexia') } as const;

export function LookFields({ look, onLook }: { look: PaperLook; onLook: (look: PaperLook) => void }) {
  return (
    <fieldset className="grid gap-1.5 text-sm">
      <legend className="mb-1 text-[13.5px] font-semibold">{say('How it is set')}</legend>
      {(['large', 'wide'] as const).map((name) => (
        <label key={name} className="flex items-center gap-2">
          <input type="checkbox" checked={look[name]} onChange={(e) => onLook({ ...look, [name]: e.target.checked })} />
          {LOOKS[name]}
        </label>
      ))}
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={look.columns === 2} onChange={(e) => onLook({ ...look, columns: e.target.checked ? 2 : 1 })} />
        {say('Two columns')}
      </label>
    </fieldset>
  );
}
