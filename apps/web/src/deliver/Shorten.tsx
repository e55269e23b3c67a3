/** Texts that are too long for a destination, shortened by a person with the count beside them. */
import { isMarkup, type Item, richFromPlain, type TooLong } from '@zakuska/core';
import { useId, useState } from 'react';
import { Link } from 'react-router';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { TextArea } from '../ui/Field.js';
import { say } from '../words/say.js';

interface Props {
  item: Item;
  long: readonly TooLong[];
  onShorter: (item: Item) => void;
}

const contentOf = (item: Item, option: string | undefined): string =>
  option === undefined ? item.stem : 'options' in item ? (item.options.find((o) => o.id === option)?.content ?? '') : '';
/** The item with other words in the places that were too long. */
function withTexts(item: Item, texts: readonly { option?: string | undefined; text: string }[]): Item {
  let next = item;
  for (const { option, text } of texts) {
    const content = richFromPlain(text.trim());
    if (option === undefined) next = { ...next, stem: content };
    else if ('options' in next) next = { ...next, options: next.options.map((o) => (o.id === option ? { ...o, content } : o)) } as Item;
  }
  return next;
}

export function Shorten({ item, long, onShorter }: Props) {
  const { view } = useOpenSet();
  const [texts, setTexts] = useState(long.map((l) => l.text));
  const fits = long.every((l, i) => (texts[i] ?? '').trim().length > 0 && (texts[i] ?? '').trim().length <= l.most);
  // what has pictures or formulas is not rewritten as plain words
  if (long.some((l) => isMarkup(contentOf(item, l.option))))
    return (
      <Link className="link" to={`/sets/${view.id}/check?item=${item.id}`}>
        {say('Shorten it in Check')}
      </Link>
    );
  return (
    <form
      className="mt-1 grid gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        onShorter(
          withTexts(
            item,
            long.map((l, i) => ({ option: l.option, text: texts[i] ?? '' })),
          ),
        );
      }}
    >
      {long.map((l, i) => (
        <Words
          key={l.option ?? 'stem'}
          name={l.option === undefined ? say('Question') : say('Option')}
          value={texts[i] ?? ''}
          most={l.most}
          onValue={(v) => setTexts(texts.map((t, n) => (n === i ? v : t)))}
        />
      ))}
      <span>
        <Button type="submit" disabled={!fits}>
          {say('Use the shorter words')}
        </Button>
      </span>
    </form>
  );
}

function Words({ name, value, most, onValue }: { name: string; value: string; most: number; onValue: (v: string) => void }) {
  const id = useId();
  const length = value.trim().length;
  return (
    <div>
      <p className="flex items-baseline justify-between gap-2">
        <label htmlFor={id} className="font-semibold">
          {say('{name}, shorter', { name })}
        </label>
        <output htmlFor={id} className={`text-[12.5px] ${length > most ? 'font-semibold text-brick' : 'text-dill'}`}>
          {say('{length} of {most} characters', { length, most })}
        </output>
      </p>
      <TextArea id={id} rows={3} value={value} onChange={(e) => onValue(e.target.value)} />
    </div>
  );
}
