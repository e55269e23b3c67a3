/** Opens help and the tour: from the menu, from the palette, with F1, or from a page that has nothing yet. */
import { type ReactNode, useMemo, useState } from 'react';
import { useLocation } from 'react-router';
import { type Command, useCommands } from '../ui/commands.js';
import { HelpDialog, Tour } from './HelpDialog.js';
import { say } from '../words/say.js';

/** @returns what is open, to be drawn; how to open help; how to open the tour */
export function useHelp(): { shown: ReactNode; help: () => void; tour: () => void } {
  const { pathname } = useLocation();
  const [open, setOpen] = useState<'help' | 'tour' | null>(null);
  const commands = useMemo<Command[]>(
    () => [
      { name: say('Help with this page'), keys: ['F1'], whileTyping: true, run: () => setOpen('help') },
      { name: say('The way in five steps'), run: () => setOpen('tour') },
    ],
    [],
  );
  useCommands(commands);
  const close = (): void => setOpen(null);
  const shown =
    open === 'help' ? <HelpDialog path={pathname} onTour={() => setOpen('tour')} onClose={close} /> : open === 'tour' ? <Tour onClose={close} /> : null;
  return { shown, help: () => setOpen('help'), tour: () => setOpen('tour') };
}
