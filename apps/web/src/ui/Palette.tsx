/** Ctrl+K: every action by name. Screens add theirs while they are shown. */
import { Command } from 'cmdk';
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Kbd } from './Button.js';
import { chordOf, type Command as Does, type Palette, PaletteContext, shownKeys } from './commands.js';
import { Modal } from './Modal.js';
import { say } from '../words/say.js';

export function PaletteProvider({ children }: { children: ReactNode }) {
  const groups = useRef(new Set<() => readonly Does[]>());
  const [shown, setShown] = useState<Does[] | null>(null);
  const commands = useCallback(() => [...groups.current].flatMap((now) => now()), []);
  const open = useCallback(() => setShown(commands().filter((c) => !c.keysOnly)), [commands]);
  const registry = useMemo<Palette>(
    () => ({
      add(now) {
        groups.current.add(now);
        return () => groups.current.delete(now);
      },
      open,
      commands,
    }),
    [open, commands],
  );
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (chordOf(e) === 'Ctrl K') {
        e.preventDefault();
        open();
      }
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [open]);
  return (
    <PaletteContext.Provider value={registry}>
      {children}
      <Modal open={shown !== null} onClose={() => setShown(null)} title={say('Any action')}>
        <Command label={say('Any action')}>
          <Command.Input
            autoFocus
            placeholder={say('Type a few letters of what you want to do')}
            className="mb-2 w-full rounded border border-rule bg-paper px-3 py-2"
          />
          <Command.List className="max-h-80 overflow-auto">
            <Command.Empty className="p-2 text-ink-2">{say('No action has these letters.')}</Command.Empty>
            {shown?.map((a) => (
              <Command.Item
                key={a.name}
                value={a.name}
                onSelect={() => {
                  setShown(null);
                  a.run('');
                }}
                className="flex cursor-pointer justify-between rounded px-2 py-1.5 data-[selected=true]:bg-beet-soft data-[selected=true]:text-beet"
              >
                <span>{a.name}</span>
                {shownKeys(a) && <Kbd>{shownKeys(a)}</Kbd>}
              </Command.Item>
            ))}
          </Command.List>
        </Command>
      </Modal>
    </PaletteContext.Provider>
  );
}
