/** One question shown by a person: what each of the selected lines is. The reader reads all lines like them in its light. */
import type { LineRole, Role } from '@zakuska/core';
import { useRef, useState } from 'react';
import { Button, Kbd } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { ROLES } from './roles.js';
import { inSentence, say } from '../words/say.js';

interface ShownLine {
  line: number;
  text: string;
}

/** What a line is likely to be: as it was read, where a person could say that; else a question first and options below. */
function guess(read: LineRole | undefined, place: number): Role {
  if (read && ROLES.some((r) => r.role === read.role)) return read.role === 'question' && !read.mark && place > 0 ? 'more' : read.role;
  return place === 0 ? 'question' : 'option';
}

export function ShowQuestion({
  lines,
  roles,
  onClose,
  onSay,
}: {
  lines: readonly ShownLine[];
  roles: readonly LineRole[];
  onClose: () => void;
  onSay: (said: { line: number; role: Role }[]) => void;
}) {
  const full = lines.filter((l) => l.text.trim());
  const [said, setSaid] = useState<readonly Role[]>(() => full.map((l, i) => guess(roles[l.line], i)));
  const box = useRef<HTMLUListElement>(null);
  const setRole = (i: number, role: Role): void => setSaid((now) => now.map((r, k) => (k === i ? role : r)));
  const onKeyDown = (e: React.KeyboardEvent, i: number): void => {
    const hit = e.ctrlKey || e.metaKey || e.altKey ? undefined : ROLES.find((r) => r.key === e.key.toLowerCase());
    if (!hit) return;
    e.preventDefault();
    setRole(i, hit.role);
    (box.current?.querySelectorAll('select')[i + 1] as HTMLElement | undefined)?.focus();
  };
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={say('Show what these lines are')}
      description={say('The draft is read anew with what you say here: these lines for certain, and all lines like them in their light.')}
    >
      <ul ref={box} className="max-h-[50vh] overflow-auto border-y border-rule">
        {full.map((l, i) => (
          <li key={l.line} className="flex items-center gap-3 border-b border-rule py-1.5 last:border-b-0">
            <span className="w-8 shrink-0 text-right font-mono text-[12px] text-ink-2">{l.line + 1}</span>
            <span className="min-w-0 flex-1 truncate font-mono text-[13.5px]" title={l.text}>
              {l.text}
            </span>
            <span className="w-48 shrink-0">
              <Select
                aria-label={say('Line {n} is', { n: l.line + 1 })}
                value={said[i]}
                onChange={(e) => setRole(i, e.target.value as Role)}
                onKeyDown={(e) => onKeyDown(e, i)}
              >
                {ROLES.map((r) => (
                  <option key={r.role} value={r.role}>
                    {r.name}
                  </option>
                ))}
              </Select>
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex items-center gap-3">
        <Button
          look="primary"
          disabled={!full.length}
          onClick={() => {
            onSay(full.map((l, i) => ({ line: l.line, role: said[i] ?? 'aside' })));
            onClose();
          }}
        >
          {say('Read the draft so')}
        </Button>
        <Button onClick={onClose}>{say('Cancel')}</Button>
        <span className="text-[13px] text-ink-2">
          {ROLES.slice(0, 5).map((r) => (
            <span key={r.role} className="mr-2 whitespace-nowrap">
              <Kbd>{r.key.toUpperCase()}</Kbd> {inSentence(r.name)}
            </span>
          ))}
        </span>
      </div>
    </Modal>
  );
}
