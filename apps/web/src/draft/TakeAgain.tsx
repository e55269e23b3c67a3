/** Taking a draft whose items, or some of them, were taken before. */
import { type Item, type Operation, richToPlain, type Section } from '@zakuska/core';
import { useNavigate } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

const sameQuestion = (a: Item, b: Item): boolean => a.kind === b.kind && richToPlain(a.stem).trim() === richToPlain(b.stem).trim();

export function TakeAgain({ fresh, sections, onClose }: { fresh: Item[]; sections: Section[] | undefined; onClose: () => void }) {
  const { document: doc, session, view } = useOpenSet();
  const navigate = useNavigate();
  const taken = doc.set.items;
  const added = fresh.filter((f) => !taken.some((t) => sameQuestion(t, f)));
  const go = (operation: Operation): void => {
    if (session.perform(operation)) void navigate(`/sets/${view.id}/check`);
  };
  const sectionOps = sections ? [{ type: 'describe' as const, set: { sections } }] : [];
  return (
    <Modal
      open
      onClose={onClose}
      title={say('The set has {taken} items already', { taken: taken.length })}
      description={say('{n} of the {fresh} questions of the draft are among them.', { n: fresh.length - added.length, fresh: fresh.length })}
    >
      <div className="flex flex-wrap gap-2">
        <Button
          look="primary"
          disabled={!added.length}
          onClick={() => go({ type: 'all', label: say('Add new items'), operations: [{ type: 'insert', at: taken.length, items: added }] })}
        >
          {say('Add the {added} new ones', { added: added.length })}
        </Button>
        <Button
          look="danger"
          onClick={() =>
            go({
              type: 'all',
              label: say('Replace all items'),
              operations: [{ type: 'remove', ids: taken.map((t) => t.id) }, { type: 'insert', at: 0, items: fresh }, ...sectionOps],
            })
          }
        >
          {say('Replace all {taken}', { taken: taken.length })}
        </Button>
        <Button onClick={onClose}>{say('Cancel')}</Button>
      </div>
      <p className="mt-3 text-[13.5px] text-ink-2">{say('Replacing takes checks and edits with it. Undo brings them back.')}</p>
    </Modal>
  );
}
