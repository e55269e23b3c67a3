/** An item added by hand: any kind, from a button with a menu. */
import { type Item, type Kind, kinds } from '@zakuska/core';
import { Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { type KeyboardEvent, useRef } from 'react';
import type { Command } from '../ui/commands.js';
import { Kbd } from '../ui/Button.js';
import { holdKeys } from '../ui/heldKeys.js';
import { inSentence, known, say } from '../words/say.js';

const KINDS = Object.keys(kinds) as Kind[];
/** Milliseconds in which letters belong together, as the menu itself takes them. */
const TYPED_FOR = 1000;

/** The same as commands of a screen. @param onAdd takes an item with nothing in it yet */
export const addCommands = (onAdd: (item: Item) => void): Command[] =>
  KINDS.map((k) => ({ name: say('Add an item: {name}', { name: inSentence(known(kinds[k].name)) }), run: () => make(k, onAdd) }));

/** An item opens in its editor: what is typed at once is for its question. */
function make(kind: Kind, onAdd: (item: Item) => void): void {
  holdKeys();
  onAdd(kinds[kind].blank());
}

interface Props {
  onAdd: (item: Item) => void;
  /** The key that opens the menu, where there is one; `open` and `onOpen` are then held by the screen. */
  shortcut?: string;
  open?: boolean;
  onOpen?: (open: boolean) => void;
}
export function AddItem({ onAdd, shortcut, open, onOpen }: Props) {
  const made = useRef(false);
  const typed = useRef({ letters: '', at: 0 });
  /** The menu goes to what was typed a moment later; who goes on at once means it all the same. */
  const chooseTyped = (e: KeyboardEvent<HTMLElement>): void => {
    const now = e.timeStamp;
    const { letters, at } = typed.current;
    const before = now - at < TYPED_FOR ? letters : '';
    typed.current = e.key.length === 1 && e.key !== ' ' ? { letters: before + e.key.toLowerCase(), at: now } : { letters: '', at: 0 };
    if (e.key !== 'Enter' || !before) return;
    const entry = Array.from(e.currentTarget.querySelectorAll<HTMLElement>('[role="menuitem"]')).find((m) => m.textContent.toLowerCase().startsWith(before));
    if (!entry || entry === document.activeElement) return;
    e.preventDefault();
    e.stopPropagation();
    entry.click();
  };
  return (
    <DropdownMenu.Root {...(open !== undefined && { open })} {...(onOpen && { onOpenChange: onOpen })}>
      <DropdownMenu.Trigger className="inline-flex min-h-7 cursor-pointer items-center gap-1 rounded px-1.5 text-sm font-semibold text-beet hover:bg-beet-soft">
        <Plus size={15} aria-hidden /> <span className="underline underline-offset-4">{say('Add an item')}</span> {shortcut && <Kbd>{shortcut}</Kbd>}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          onKeyDownCapture={chooseTyped}
          className="z-50 min-w-52 rounded-lg border border-rule bg-sheet p-1.5"
          onCloseAutoFocus={(e) => {
            // the new item's question has the focus by now, or gets it
            if (made.current) e.preventDefault();
            made.current = false;
          }}
        >
          {KINDS.map((k) => (
            <DropdownMenu.Item
              key={k}
              className="cursor-pointer rounded px-2 py-1.5 data-highlighted:bg-beet-soft data-highlighted:text-beet"
              onSelect={() => {
                made.current = true;
                make(k, onAdd);
              }}
            >
              {known(kinds[k].name)}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
