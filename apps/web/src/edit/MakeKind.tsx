/** An item as another kind: at once where nothing is lost, else after what goes was said. */
import { convert, type Converted, type Item, type Kind, kinds } from '@zakuska/core';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { inSentence, known, listed, say } from '../words/say.js';

const nameOf = (kind: Kind): string => inSentence(known(kinds[kind].name));

export function MakeKind({
  item,
  language,
  now,
  onMake,
}: {
  item: Item;
  language: string | undefined;
  /** The item as it is at this moment. */
  now: () => Item;
  onMake: (item: Item) => void;
}) {
  const [asked, ask] = useState<Converted | null>(null);
  const make = (c: Converted): void => {
    ask(null);
    onMake(c.item);
  };
  return (
    <>
      <label className="flex items-center gap-1.5 text-[13.5px]">
        {say('Make it')}
        <Select
          className="w-auto! py-1!"
          value={item.kind}
          onChange={(e) => {
            const c = convert(now(), e.target.value as Kind, language);
            if (c.lost.length) ask(c);
            else make(c);
          }}
        >
          {(Object.keys(kinds) as Kind[]).map((k) => (
            <option key={k} value={k}>
              {nameOf(k)}
            </option>
          ))}
        </Select>
      </label>
      {asked && (
        <Modal
          open
          onClose={() => ask(null)}
          title={say('Make it {name}?', { name: nameOf(asked.item.kind) })}
          foot={
            <>
              <span className="flex-1" />
              <Button onClick={() => ask(null)}>{say('Cancel')}</Button>
              <Button look="primary" autoFocus onClick={() => make(asked)}>
                {say('Change the kind')}
              </Button>
            </>
          }
        >
          <p>{say('This goes: {lost}.', { lost: asked.lost.join('; ') })}</p>
          {asked.needed.length > 0 && <p className="mt-1">{say('You will have to add {needed}.', { needed: listed(asked.needed) })}</p>}
          <p className="mt-1 text-ink-2">{say('Undo brings it back.')}</p>
        </Modal>
      )}
    </>
  );
}
