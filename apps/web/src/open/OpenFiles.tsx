/** Files dropped anywhere on the page, or picked: into the set that is open, or into new ones. */
import { newId } from '@zakuska/core';
import { createContext, lazy, type ReactNode, Suspense, useCallback, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { useCommands } from '../ui/commands.js';
import type { OpenSet } from '../set/context.js';
import type { Opening } from '../files/opening.js';
import { say } from '../words/say.js';

const OpenDialog = lazy(() => import('./OpenDialog.js'));

interface Files {
  /** Opens files; the dialog says what was understood before anything is taken. */
  open(files: readonly File[]): void;
  pick(): void;
  /** The set that is open and may be edited takes what is opened. */
  target(set: OpenSet | null): void;
}
const Context = createContext<Files>({ open: () => undefined, pick: () => undefined, target: () => undefined });
export const useOpenFiles = (): Files => useContext(Context);

export const ACCEPT = '.docx,.odt,.pdf,.html,.htm,.md,.txt,.csv,.tsv,.xlsx,.gift,.xml,.zip,.imscc,.json,text/*';

export function OpenFilesProvider({ children }: { children: ReactNode }) {
  const [openings, setOpenings] = useState<Opening[] | null>(null);
  const [over, setOver] = useState(false);
  const set = useRef<OpenSet | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const open = useCallback((files: readonly File[]) => {
    if (files.length) setOpenings(files.map((file) => ({ id: newId(), file, state: 'waiting' })));
  }, []);
  const value = useMemo<Files>(() => ({ open, pick: () => input.current?.click(), target: (s) => void (set.current = s) }), [open]);
  useCommands([{ name: say('Open files'), keys: ['Ctrl O'], whileTyping: true, run: () => input.current?.click() }]);
  useEffect(() => {
    const files = (e: DragEvent): boolean => Boolean(e.dataTransfer?.types.includes('Files'));
    let depth = 0;
    const enter = (e: DragEvent): void => {
      if (files(e) && ++depth === 1) setOver(true);
    };
    const leave = (e: DragEvent): void => {
      if (files(e) && --depth <= 0) {
        depth = 0;
        setOver(false);
      }
    };
    const move = (e: DragEvent): void => void (files(e) && e.preventDefault());
    const drop = (e: DragEvent): void => {
      depth = 0;
      setOver(false);
      if (!files(e)) return;
      e.preventDefault();
      e.stopPropagation();
      open([...(e.dataTransfer?.files ?? [])]);
    };
    addEventListener('dragenter', enter);
    addEventListener('dragleave', leave);
    addEventListener('dragover', move);
    addEventListener('drop', drop, true);
    return () => {
      removeEventListener('dragenter', enter);
      removeEventListener('dragleave', leave);
      removeEventListener('dragover', move);
      removeEventListener('drop', drop, true);
    };
  }, [open]);
  return (
    <Context value={value}>
      {children}
      <input
        ref={input}
        type="file"
        multiple
        accept={ACCEPT}
        className="hidden"
        aria-label={say('Files to open')}
        tabIndex={-1}
        onChange={(e) => {
          open([...(e.target.files ?? [])]);
          e.target.value = '';
        }}
      />
      {over && (
        <div className="pointer-events-none fixed inset-3 z-[60] grid place-items-center rounded-lg border-2 border-dashed border-beet bg-paper/85">
          <p className="text-xl font-bold text-beet">{say('Let go to open the files')}</p>
        </div>
      )}
      {openings && (
        <Suspense fallback={null}>
          <OpenDialog openings={openings} set={set.current} onClose={() => setOpenings(null)} />
        </Suspense>
      )}
    </Context>
  );
}
