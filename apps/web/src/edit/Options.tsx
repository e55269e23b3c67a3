/** Options with their keys, weights, feedback and places: of choice items and of gaps that are chosen. */
import { letterOf, newId, type Option, type Scoring, scorings } from '@zakuska/core';
import { MessageSquare, Pin, Plus } from 'lucide-react';
import { useState } from 'react';
import { SCORING } from '../item/scoringWords.js';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { replaced, useItemEdit } from './itemEdit.js';
import { RichEditor } from './RichEditor.js';
import { IconButton, moved, Row, Rows, toEmptyRow } from './Rows.js';
import { TypedNumber } from './typed.js';
import { say } from '../words/say.js';

export function Options({
  options,
  single,
  legend,
  name,
  weighted,
  mayPin,
  onChange,
}: {
  options: readonly Option[];
  single: boolean;
  legend: string;
  /** Tells this group of keys from others. */
  name: string;
  /** Whether each option shows the share that it earns. */
  weighted: boolean;
  mayPin: boolean;
  onChange: (make: (now: readonly Option[]) => Option[]) => void;
}) {
  const { focus } = useItemEdit();
  const [told, setTold] = useState<ReadonlySet<string>>(new Set());
  const [fresh, setFresh] = useState<string | null>(null);
  const edit = (id: string, part: { [K in keyof Option]?: Option[K] | undefined }): void =>
    onChange((now) =>
      replaced(
        now,
        now.findIndex((o) => o.id === id),
        part,
      ),
    );
  const key = (id: string, on: boolean): void =>
    onChange((now) => now.map((o) => (o.id === id ? { ...o, credit: on ? 1 : 0 } : single && on ? { ...o, credit: o.credit >= 1 ? 0 : o.credit } : o)));
  const add = (behind?: string): void => {
    const id = newId();
    onChange((now) => {
      const at = behind === undefined ? now.length : now.findIndex((o) => o.id === behind) + 1;
      return [...now.slice(0, at), { id, content: '', credit: 0 }, ...now.slice(at)];
    });
    setFresh(id);
  };
  const remove = (id: string): void => onChange((now) => now.filter((o) => o.id !== id));
  return (
    <fieldset className="grid min-w-0 gap-1.5">
      <legend className="mb-1 text-[13.5px] font-semibold">{legend}</legend>
      <Rows onMove={(from, to) => onChange((now) => moved(now, from, to))}>
        {options.map((o, i) => {
          const letter = letterOf(i);
          const feedback = o.feedback !== undefined || told.has(o.id);
          return (
            <Row key={o.id} id={o.id} index={i} name={say('option {letter}', { letter })} onRemove={() => remove(o.id)}>
              <input
                type={single ? 'radio' : 'checkbox'}
                name={name}
                checked={single ? o.credit >= 1 : o.credit > 0}
                onChange={(e) => key(o.id, e.target.checked)}
                aria-label={single ? say('{letter} is the key', { letter }) : say('{letter} is a key', { letter })}
                className="mt-1.5 size-5 flex-none accent-dill"
              />
              <b className="mt-1 w-4 flex-none text-ink-2">{letter}</b>
              <div className="grid min-w-0 flex-1 gap-1">
                <RichEditor
                  label={say('Option {letter}', { letter })}
                  hideLabel
                  line
                  value={o.content}
                  autoFocus={fresh === o.id}
                  onFocus={focus}
                  onCommit={(content) => edit(o.id, { content })}
                  onEnter={() => toEmptyRow() || add(o.id)}
                  onEmptyBackspace={() => remove(o.id)}
                  onMove={(by) =>
                    onChange((now) =>
                      moved(
                        now,
                        now.findIndex((x) => x.id === o.id),
                        now.findIndex((x) => x.id === o.id) + by,
                      ),
                    )
                  }
                />
                {feedback && (
                  <RichEditor
                    label={say('Feedback for option {letter}', { letter })}
                    hideLabel
                    line
                    placeholder={say('Shown when this option is chosen')}
                    className="text-sm italic"
                    value={o.feedback ?? ''}
                    autoFocus={told.has(o.id) && o.feedback === undefined}
                    onFocus={focus}
                    onCommit={(f) => edit(o.id, { feedback: f || undefined })}
                  />
                )}
              </div>
              {weighted && (
                <TypedNumber
                  bare
                  label={say('Share of the points for option {letter}, in per cent', { letter })}
                  value={Math.round(o.credit * 1e4) / 100}
                  min={-100}
                  max={100}
                  suffix="%"
                  onCommit={(n) => edit(o.id, { credit: (n ?? 0) / 100 })}
                />
              )}
              <IconButton
                name={say('Feedback for option {letter}', { letter })}
                on={feedback}
                onClick={() => setTold((t) => new Set(t.has(o.id) ? [...t].filter((x) => x !== o.id) : [...t, o.id]))}
              >
                <MessageSquare size={15} aria-hidden />
              </IconButton>
              {mayPin && (
                <IconButton
                  name={say('Option {letter} keeps its place when options are shuffled', { letter })}
                  on={o.pinned ?? false}
                  onClick={() => edit(o.id, { pinned: o.pinned ? undefined : true })}
                >
                  <Pin size={15} aria-hidden />
                </IconButton>
              )}
            </Row>
          );
        })}
      </Rows>
      <div>
        <Button look="quiet" onClick={() => add()}>
          <Plus size={15} aria-hidden /> {say('Add an option')}
        </Button>
      </div>
    </fieldset>
  );
}

export function ScoringSelect({ value, onChange }: { value: Scoring; onChange: (s: Scoring) => void }) {
  return (
    <label className="flex items-center gap-2 text-[13.5px]">
      {say('Marked')}
      <Select className="w-auto!" value={value} onChange={(e) => onChange(e.target.value as Scoring)}>
        {scorings.map((s) => (
          <option key={s} value={s}>
            {SCORING[s]}
          </option>
        ))}
      </Select>
    </label>
  );
}
