/** Ctrl+K: every action by name. Screens add theirs while they are shown. */
import { Command } from 'cmdk';
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { Kbd } from './Button.js';
import { Modal } from './Modal.js';

export interface Action {
  name: string;
  keys?: string;
  run: () => void;
}
interface Registry {
  add(actions: Action[]): () => void;
  open(): void;
}
const Context = createContext<Registry>({ add: () => () => undefined, open: () => undefined });

export function PaletteProvider({ children }: { children: ReactNode }) {
  const groups = useRef(new Set<Action[]>());
  const [shown, setShown] = useState<Action[] | null>(null);
  const open = useCallback(() => setShown([...groups.current].flat()), []);
  const registry = useMemo<Registry>(
    () => ({
      add(actions) {
        groups.current.add(actions);
        return () => groups.current.delete(actions);
      },
      open,
    }),
    [open],
  );
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        open();
      }
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [open]);
  return (
    <Context.Provider value={registry}>
      {children}
      <Modal open={shown !== null} onClose={() => setShown(null)} title="Any action">
        <Command label="Any action">
          <Command.Input
            autoFocus
            placeholder="Type a few letters of what you want to do"
            className="mb-2 w-full rounded border border-rule bg-paper px-3 py-2"
          />
          <Command.List className="max-h-80 overflow-auto">
            <Command.Empty className="p-2 text-ink-2">No action has these letters.</Command.Empty>
            {shown?.map((a) => (
              <Command.Item
                key={a.name}
                value={a.name}
                onSelect={() => {
                  setShown(null);
                  a.run();
                }}
                className="flex cursor-pointer justify-between rounded px-2 py-1.5 data-[selected=true]:bg-beet-soft data-[selected=true]:text-beet"
              >
                <span>{a.name}</span>
                {a.keys && <Kbd>{a.keys}</Kbd>}
              </Command.Item>
            ))}
          </Command.List>
        </Command>
      </Modal>
    </Context.Provider>
  );
}

export const usePalette = (): Registry => useContext(Context);
/** Adds actions while a screen is shown. The list must keep its identity (useMemo). */
export function useActions(actions: Action[]): void {
  const { add } = usePalette();
  useEffect(() => add(actions), [add, actions]);
}
