/** All shortcuts of a screen, from its commands. */
import { Kbd } from './Button.js';
import { type Command, shownKeys } from './commands.js';
import { Modal } from './Modal.js';
import { say } from '../words/say.js';

/** Holds everywhere; the palette has it. */
const ANYWHERE: Command = { name: say('Any action by name'), shown: 'Ctrl K', run: () => undefined };

/** Commands that have keys, with them. */
export const Shortcuts = ({ commands }: { commands: readonly Command[] }) => (
  <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 sm:grid-cols-[auto_1fr_auto_1fr]">
    {[...commands.filter((c) => c.keys), ANYWHERE].map((c) => (
      <div key={c.name} className="contents">
        <dt>
          <Kbd>{shownKeys(c)}</Kbd>
        </dt>
        <dd>{c.name}</dd>
      </div>
    ))}
  </dl>
);

export const KeyList = ({ open, commands, onClose }: { open: boolean; commands: readonly Command[]; onClose: () => void }) => (
  <Modal open={open} onClose={onClose} title={say('Shortcuts')} wide>
    <Shortcuts commands={commands} />
  </Modal>
);
