/** One change for all chosen items, with what it will do told before it is done. */
import { counted, apply, type BulkChange, bulkChange, type Item, type Operation, parseNumber, type SetDocument } from '@zakuska/core';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input, Select, TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';

interface Values {
  number: string;
  yes: 'yes' | 'no' | 'set';
  add: string;
  remove: string;
  which: 'correct' | 'incorrect' | 'general';
  text: string;
  onlyWhereNone: boolean;
  of: 'stem' | 'option' | 'both';
  how: 'first' | 'second';
}
const START: Values = { number: '1', yes: 'yes', add: '', remove: '', which: 'general', text: '', onlyWhereNone: true, of: 'option', how: 'first' };
const list = (s: string): string[] =>
  s
    .split(/[,;\n]/)
    .map((t) => t.trim())
    .filter(Boolean);
const THREE = { yes: true, no: false, set: null } as const;

/** Each change: its name, the fields that it asks for, and the change made of them; null while something is missing. */
const CHANGES: Record<
  BulkChange['type'],
  { name: string; fields: readonly (keyof Values)[]; yes?: [string, string]; how?: [string, string]; make: (v: Values) => BulkChange | null }
> = {
  points: {
    name: 'Points',
    fields: ['number'],
    make: (v) => {
      const points = parseNumber(v.number);
      return points === null || points < 0 ? null : { type: 'points', points };
    },
  },
  required: {
    name: 'Must be answered',
    fields: ['yes'],
    yes: ['must be answered', 'may be left open'],
    make: (v) => ({ type: 'required', value: THREE[v.yes] }),
  },
  shuffle: { name: 'Shuffle options', fields: ['yes'], yes: ['shuffled', 'in their order'], make: (v) => ({ type: 'shuffle', value: THREE[v.yes] }) },
  timeLimit: {
    name: 'Time limit',
    fields: ['number'],
    make: (v) => {
      if (!v.number.trim()) return { type: 'timeLimit', seconds: null };
      const seconds = parseNumber(v.number);
      return seconds === null || seconds <= 0 ? null : { type: 'timeLimit', seconds };
    },
  },
  tags: { name: 'Tags', fields: ['add', 'remove'], make: (v) => ({ type: 'tags', add: list(v.add), remove: list(v.remove) }) },
  outcomes: { name: 'Outcomes', fields: ['add', 'remove'], make: (v) => ({ type: 'outcomes', add: list(v.add), remove: list(v.remove) }) },
  feedback: {
    name: 'Feedback',
    fields: ['which', 'text', 'onlyWhereNone'],
    make: (v) => ({ type: 'feedback', which: v.which, text: v.text.trim(), onlyWhereNone: v.onlyWhereNone && v.text.trim() !== '' }),
  },
  capitals: {
    name: 'First letters',
    fields: ['of', 'how'],
    how: ['capital letters', 'small letters'],
    make: (v) => ({ type: 'capitals', of: v.of, how: v.how === 'first' ? 'capital' : 'small' }),
  },
  stops: {
    name: 'Full stops',
    fields: ['of', 'how'],
    how: ['take off', 'add'],
    make: (v) => ({ type: 'stops', of: v.of, how: v.how === 'first' ? 'remove' : 'add' }),
  },
  language: {
    name: 'Language',
    fields: ['text'],
    make: (v) => {
      const language = v.text.trim();
      return language === ''
        ? { type: 'language', language: null }
        : /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/i.test(language)
          ? { type: 'language', language }
          : null;
    },
  },
};

export function BulkDialog({
  items,
  document: doc,
  onClose,
  perform,
}: {
  items: readonly Item[];
  document: SetDocument;
  onClose: () => void;
  perform: (o: Operation) => boolean;
}) {
  const [type, setType] = useState<BulkChange['type']>('points');
  const [values, setValues] = useState(START);
  const row = CHANGES[type];
  const put = (part: Partial<Values>): void => setValues((v) => ({ ...v, ...part }));
  const change = useMemo(() => CHANGES[type].make(values), [type, values]);
  const operations = useMemo(() => (change ? bulkChange(items, change) : []), [change, items]);
  const reopened = useMemo(() => {
    if (!operations.length) return 0;
    const after = apply(doc, { type: 'all', operations }).document;
    return items.filter((i) => doc.reviews[i.id]?.state === 'checked' && after.reviews[i.id]?.state !== 'checked').length;
  }, [operations, doc, items]);
  const uses = (f: keyof Values): boolean => row.fields.includes(f);
  return (
    <Modal
      open
      onClose={onClose}
      title={`Change ${counted(items.length, 'item')}`}
      foot={
        <>
          <p role="status" className="flex-1 text-[13.5px] text-ink-2">
            {!change
              ? 'Something is missing, or is no number.'
              : operations.length
                ? `Changes ${operations.length} of ${items.length}.${reopened ? ` ${reopened} checked ${reopened === 1 ? 'item has' : 'items have'} to be checked again.` : ''}`
                : 'All of them are so already, or it does not apply to them.'}
          </p>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="primary"
            disabled={!operations.length}
            onClick={() => {
              if (perform({ type: 'all', label: `${row.name} of ${counted(operations.length, 'item')}`, operations })) onClose();
            }}
          >
            Change
          </Button>
        </>
      }
    >
      <div className="grid gap-3">
        <Field label="What">
          {(id) => (
            <Select id={id} autoFocus value={type} onChange={(e) => setType(e.target.value as BulkChange['type'])}>
              {Object.entries(CHANGES).map(([k, c]) => (
                <option key={k} value={k}>
                  {c.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        {uses('number') && (
          <Field label={type === 'points' ? 'Points of each' : 'Seconds for each'} hint={type === 'timeLimit' ? 'Empty takes the limit away.' : undefined}>
            {(id, note) => (
              <Input
                id={id}
                aria-describedby={note}
                inputMode="decimal"
                className="w-28!"
                value={values.number}
                onChange={(e) => put({ number: e.target.value })}
              />
            )}
          </Field>
        )}
        {row.yes && (
          <Field label="They are">
            {(id) => (
              <Select id={id} value={values.yes} onChange={(e) => put({ yes: e.target.value as Values['yes'] })}>
                <option value="yes">{row.yes?.[0]}</option>
                <option value="no">{row.yes?.[1]}</option>
                <option value="set">as the whole set</option>
              </Select>
            )}
          </Field>
        )}
        {uses('add') && (
          <>
            <Field label={`${row.name} to add`} hint="Several with commas between.">
              {(id, note) => <Input id={id} aria-describedby={note} value={values.add} onChange={(e) => put({ add: e.target.value })} />}
            </Field>
            <Field label={`${row.name} to take off`}>{(id) => <Input id={id} value={values.remove} onChange={(e) => put({ remove: e.target.value })} />}</Field>
          </>
        )}
        {uses('which') && (
          <Field label="Shown">
            {(id) => (
              <Select id={id} value={values.which} onChange={(e) => put({ which: e.target.value as Values['which'] })}>
                <option value="general">always</option>
                <option value="correct">when right</option>
                <option value="incorrect">when wrong</option>
              </Select>
            )}
          </Field>
        )}
        {uses('text') && type === 'feedback' && (
          <Field label="Text" hint="Empty takes the feedback away.">
            {(id, note) => <TextArea id={id} aria-describedby={note} rows={2} value={values.text} onChange={(e) => put({ text: e.target.value })} />}
          </Field>
        )}
        {type === 'language' && (
          <Field label="Language" hint="A code such as en, es or fr-CA. Empty: the language of the set.">
            {(id, note) => <Input id={id} aria-describedby={note} className="w-40!" value={values.text} onChange={(e) => put({ text: e.target.value })} />}
          </Field>
        )}
        {uses('onlyWhereNone') && (
          <label className="flex items-center gap-2">
            <input type="checkbox" className="size-4 accent-beet" checked={values.onlyWhereNone} onChange={(e) => put({ onlyWhereNone: e.target.checked })} />
            Only where there is none yet
          </label>
        )}
        {uses('of') && (
          <Field label="In">
            {(id) => (
              <Select id={id} value={values.of} onChange={(e) => put({ of: e.target.value as Values['of'] })}>
                <option value="option">options</option>
                <option value="stem">questions</option>
                <option value="both">both</option>
              </Select>
            )}
          </Field>
        )}
        {row.how && (
          <Field label="How">
            {(id) => (
              <Select id={id} value={values.how} onChange={(e) => put({ how: e.target.value as Values['how'] })}>
                <option value="first">{row.how?.[0]}</option>
                <option value="second">{row.how?.[1]}</option>
              </Select>
            )}
          </Field>
        )}
      </div>
    </Modal>
  );
}

/** Where chosen items go. */
export function MoveDialog({
  items,
  chosen,
  onClose,
  onMove,
}: {
  items: readonly Item[];
  chosen: ReadonlySet<string>;
  onClose: () => void;
  onMove: (to: number) => void;
}) {
  const [to, setTo] = useState('0');
  const others = items.map((i, n) => ({ i, n })).filter(({ i }) => !chosen.has(i.id));
  return (
    <Modal
      open
      onClose={onClose}
      title={`Move ${counted(chosen.size, 'item')}`}
      foot={
        <>
          <span className="flex-1" />
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="primary"
            onClick={() => {
              onMove(Number(to));
              onClose();
            }}
          >
            Move
          </Button>
        </>
      }
    >
      <Field label="To">
        {(id) => (
          <Select id={id} autoFocus value={to} onChange={(e) => setTo(e.target.value)}>
            <option value="0">the beginning</option>
            {others.map(({ i, n }) => (
              <option key={i.id} value={n + 1}>
                behind item {i.label ?? n + 1}
              </option>
            ))}
          </Select>
        )}
      </Field>
    </Modal>
  );
}
