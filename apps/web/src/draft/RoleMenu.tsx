/** What a line is, to be said by a person: a menu at the mark in the margin. */
import type { LineRole, Role } from '@zakuska/core';
import { DropdownMenu } from 'radix-ui';
import { Kbd } from '../ui/Button.js';
import { ROLES } from './roles.js';
import { say } from '../words/say.js';
import { retold } from '../words/retold.js';

/** The line whose role is asked for, and where its menu opens, in px of the window. */
export interface Picking {
  line: number;
  top: number;
  left: number;
}

const ITEM = 'flex w-full cursor-pointer justify-between rounded px-2 py-1 text-left outline-none data-highlighted:bg-beet-soft data-highlighted:text-beet';

export function RoleMenu({
  at,
  role,
  said,
  onClose,
  onPick,
}: {
  at: Picking;
  role: LineRole | undefined;
  /** A person has said it: it can be left to the reader again. */
  said: boolean;
  onClose: () => void;
  onPick: (r: Role | null) => void;
}) {
  return (
    <DropdownMenu.Root open modal={false} onOpenChange={(open) => !open && onClose()}>
      {/* The menu takes its name from the trigger. */}
      <DropdownMenu.Trigger
        className="pointer-events-none fixed size-0"
        style={{ top: at.top, left: at.left }}
        tabIndex={-1}
        aria-hidden
        aria-label={say('Role of line {n}', { n: at.line + 1 })}
      />
      <DropdownMenu.Content
        align="start"
        className="z-50 w-60 rounded-lg border border-ink-2 bg-sheet p-1.5"
        onCloseAutoFocus={(e) => e.preventDefault()}
        onKeyDown={(e) => {
          const hit = ROLES.find((r) => r.key === e.key.toLowerCase());
          if (!hit || e.ctrlKey || e.metaKey || e.altKey) return;
          e.preventDefault();
          onPick(hit.role);
          onClose();
        }}
      >
        <DropdownMenu.RadioGroup value={role?.role ?? ''} onValueChange={(v) => onPick(v as Role)}>
          {ROLES.map((r) => (
            <DropdownMenu.RadioItem key={r.role} value={r.role} className={`${ITEM} data-[state=checked]:font-[650] data-[state=checked]:text-beet`}>
              {r.name} <Kbd>{r.key.toUpperCase()}</Kbd>
            </DropdownMenu.RadioItem>
          ))}
        </DropdownMenu.RadioGroup>
        {said && (
          <DropdownMenu.Item className={`${ITEM} text-beet`} onSelect={() => onPick(null)}>
            {say('Let the reader decide')}
          </DropdownMenu.Item>
        )}
        <p className="mt-1 border-t border-rule px-2 pt-1.5 pb-0.5 text-[13px] text-ink-2">{role ? retold(role.reason) : say('An empty line.')}</p>
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}
