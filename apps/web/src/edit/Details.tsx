/** What is seldom changed of an item. */
import type { Editor } from '@tiptap/core';
import { bloomLevels, type Item, type ItemOf, type Kind, newId, type Operation, type QuizSet, type Section } from '@zakuska/core';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import type { ItemEdit } from './itemEdit.js';
import { RichEditor } from './RichEditor.js';
import { TypedArea, TypedNumber } from './typed.js';
import { known, say } from '../words/say.js';

interface Props {
  item: Item;
  set: QuizSet;
  edit: ItemEdit['edit'];
  perform: (o: Operation) => boolean;
  focus: (e: Editor) => void;
}

const words = (v: string): string[] | undefined => {
  const list = [
    ...new Set(
      v
        .split(/[,;\n]/)
        .map((t) => t.trim())
        .filter(Boolean),
    ),
  ];
  return list.length ? list : undefined;
};
const THREE = [
  ['', say('as the set')],
  ['yes', say('yes')],
  ['no', say('no')],
] as const;

/** What is seldom changed: names, tags, settings of delivery, level, and the part with its passage. */
export function Details({ item, set, edit, perform, focus }: Props) {
  const part = set.sections?.find((s) => s.id === item.section);
  const three = (name: 'required' | 'shuffle', label: string) => (
    <Field label={label}>
      {(id) => (
        <Select
          id={id}
          value={item[name] === undefined ? '' : item[name] ? 'yes' : 'no'}
          onChange={(e) => edit(null, () => ({ [name]: e.target.value === '' ? undefined : e.target.value === 'yes' }))}
        >
          {THREE.map(([v, t]) => (
            <option key={v} value={v}>
              {t}
            </option>
          ))}
        </Select>
      )}
    </Field>
  );
  const level = (change: NonNullable<Item['level']>): void =>
    edit(null, (i: ItemOf<Kind>) => {
      const next = Object.fromEntries(Object.entries({ ...i.level, ...change }).filter(([, v]) => v !== undefined));
      return { level: Object.keys(next).length ? next : undefined };
    });
  return (
    <details className="border-t border-rule pt-2">
      <summary className="cursor-pointer text-[13.5px] font-semibold">
        {say('Part, tags and settings')}
        <span className="font-normal text-ink-2">
          {' '}
          {[part && (part.title ?? say('a part without a title')), ...(item.tags ?? []), ...(item.outcomes ?? []), item.timeLimit && `${item.timeLimit} s`]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </summary>
      <div className="mt-2 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <TypedArea
          label={say('Tags')}
          hint={say('with commas between')}
          value={item.tags?.join(', ') ?? ''}
          onCommit={(v) => edit(null, () => ({ tags: words(v) }))}
        />
        <TypedArea
          label={say('Outcomes')}
          hint={say('with commas between')}
          value={item.outcomes?.join(', ') ?? ''}
          onCommit={(v) => edit(null, () => ({ outcomes: words(v) }))}
        />
        <TypedArea label={say('Number or name')} value={item.label ?? ''} onCommit={(v) => edit(null, () => ({ label: v.trim() || undefined }))} />
        <TypedArea label={say('Title')} value={item.title ?? ''} onCommit={(v) => edit(null, () => ({ title: v.trim() || undefined }))} />
        <TypedNumber
          label={say('Time limit, seconds')}
          optional
          value={item.timeLimit ?? null}
          min={1}
          onCommit={(n) => edit(null, () => ({ timeLimit: n ?? undefined }))}
        />
        {three('required', say('Must be answered'))}
        {'options' in item || item.kind === 'matching' || item.kind === 'ordering' ? three('shuffle', say('Shuffled')) : null}
        <Field label={say('What it asks for')}>
          {(id) => (
            <Select id={id} value={item.level?.bloom ?? ''} onChange={(e) => level({ bloom: (e.target.value || undefined) as never })}>
              <option value="">{say('not said')}</option>
              {bloomLevels.map((b) => (
                <option key={b} value={b}>
                  {known(b)}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <TypedArea
          label={say('Language')}
          hint={say("a code, where it is not the set's")}
          value={item.language ?? ''}
          onCommit={(v) => edit(null, () => ({ language: /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/i.test(v.trim()) ? v.trim() : undefined }))}
        />
        <label className="flex items-center gap-2 self-end pb-2">
          <input
            type="checkbox"
            className="size-4 accent-beet"
            checked={item.bonus ?? false}
            onChange={(e) => edit(null, () => ({ bonus: e.target.checked || undefined }))}
          />{' '}
          {say('A bonus')}
        </label>
      </div>
      <PartFields item={item} set={set} edit={edit} perform={perform} focus={focus} />
    </details>
  );
}
/** The part that the item belongs to, with what is said of the part itself. */
function PartFields({ item, set, edit, perform, focus }: Props) {
  const part = set.sections?.find((s) => s.id === item.section);
  const section = (change: Partial<Section>): void => {
    const sections = (set.sections ?? []).map((s) =>
      s.id === item.section ? (Object.fromEntries(Object.entries({ ...s, ...change }).filter(([, v]) => v !== undefined && v !== '')) as Section) : s,
    );
    perform({ type: 'describe', set: { sections } });
  };
  return (
    <div className="mt-3 grid gap-2">
      <div className="flex flex-wrap items-end gap-2">
        <Field label={say('Part')}>
          {(id) => (
            <Select id={id} className="w-auto!" value={item.section ?? ''} onChange={(e) => edit(null, () => ({ section: e.target.value || undefined }))}>
              <option value="">{say('none')}</option>
              {set.sections?.map((s, n) => (
                <option key={s.id} value={s.id}>
                  {s.title || say('Part {n}', { n: n + 1 })}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Button
          onClick={() => {
            const id = newId();
            perform({
              type: 'all',
              label: say('Made a part'),
              operations: [
                { type: 'describe', set: { sections: [...(set.sections ?? []), { id, title: say('Part {n}', { n: (set.sections?.length ?? 0) + 1 }) }] } },
                { type: 'change', id: item.id, set: { section: id } },
              ],
            });
          }}
        >
          {say('Make a new part')}
        </Button>
      </div>
      {part && (
        <div key={part.id} className="grid gap-2">
          <SectionTitle value={part.title ?? ''} onCommit={(title) => section({ title })} />
          <RichEditor
            label={say('Instructions of the part')}
            line
            value={part.instructions ?? ''}
            onFocus={focus}
            onCommit={(instructions) => section({ instructions })}
          />
          <RichEditor label={say('Passage that its items are about')} value={part.passage ?? ''} onFocus={focus} onCommit={(passage) => section({ passage })} />
        </div>
      )}
    </div>
  );
}

function SectionTitle({ value, onCommit }: { value: string; onCommit: (v: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Field label={say('Title of the part')}>
      {(id) => (
        <Input
          id={id}
          value={typed ?? value}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => {
            if (typed !== null && typed.trim() !== value) onCommit(typed.trim());
            setTyped(null);
          }}
        />
      )}
    </Field>
  );
}
