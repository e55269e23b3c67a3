/** Help on the screen that is open, and the tour through the five stages: both say what `STAGES` says. */
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { usePalette } from '../ui/commands.js';
import { Shortcuts } from '../ui/KeyList.js';
import { Modal } from '../ui/Modal.js';
import { helpAt, type StageHelp, STAGES } from './stages.js';
import { say } from '../words/say.js';

const TOUR = STAGES.filter((s) => s.tour);

/** @param path address of the screen */
export function HelpDialog({ path, onTour, onClose }: { path: string; onTour: () => void; onClose: () => void }) {
  const help = helpAt(path);
  const commands = usePalette().commands();
  return (
    <Modal
      open
      wide
      reads
      onClose={onClose}
      title={say('Help: {name}', { name: help.name })}
      foot={
        <>
          <Button onClick={onTour}>{say('The way in five steps')}</Button>
          <span className="flex-1" />
          <Button look="primary" onClick={onClose}>
            {say('Close')}
          </Button>
        </>
      }
    >
      <About help={help} />
      <h3 className="mt-4 mb-1.5 font-bold">{say('Shortcuts')}</h3>
      <div className="text-sm">
        <Shortcuts commands={commands} />
      </div>
    </Modal>
  );
}

/** The five stages one after the other. It can be left at any time, and is found again in the help. */
export function Tour({ onClose }: { onClose: () => void }) {
  const [at, setAt] = useState(0);
  const help = TOUR[at] as StageHelp;
  const last = at === TOUR.length - 1;
  return (
    <Modal
      open
      wide
      reads
      onClose={onClose}
      title={say('{n} of {TOUR}: {name}', { n: at + 1, TOUR: TOUR.length, name: help.name })}
      foot={
        <>
          <Button look="quiet" onClick={onClose}>
            {say('Skip the rest')}
          </Button>
          <span className="flex-1" />
          <Button disabled={at === 0} onClick={() => setAt(at - 1)}>
            {say('Back')}
          </Button>
          <Button look="primary" onClick={() => (last ? onClose() : setAt(at + 1))}>
            {last ? say('Done') : say('Next')}
          </Button>
        </>
      }
    >
      <div aria-live="polite">
        <About help={help} />
      </div>
    </Modal>
  );
}

function About({ help: { what, steps, example } }: { help: StageHelp }) {
  return (
    <>
      <p className="max-w-prose">{what}</p>
      <h3 className="mt-4 mb-1 font-bold">{say('What you do there')}</h3>
      <ol className="grid max-w-prose list-decimal gap-1 pl-5">
        {steps.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ol>
      <h3 className="mt-4 mb-1 font-bold">{say('For example')}</h3>
      <div className="grid gap-2 text-sm sm:grid-cols-2">
        <p className="rounded border border-rule bg-paper px-3 py-2 whitespace-pre-wrap">{example.before}</p>
        <p className="rounded border border-dill bg-dill-soft px-3 py-2">{example.after}</p>
      </div>
    </>
  );
}
