/** One change for all chosen items, with what it will do told before it is done. */
import { counted, apply, type BulkChange, bulkChange, type Item, type Operation, parseNumber, type SetDocument } from '@zakuska/core';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { chordOf } from '../ui/commands.js';
import { Field, Input, Select, TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';

/** A rule of an item: not touched, yes, no, or as the whole set has it. */
type Rule = '' | 'yes' | 'no' | 'set';
interface Values {
  points: string;
  required: Rule;
  shuffle: Rule;
  limited: '' | 'no' | 'yes';
  seconds: string;
  add: string;
  remove: string;
  which: 'correct' | 'incorrect' | 'general';
  text: string;
  onlyWhereNone: boolean;
  of: 'stem' | 'option' | 'both';
  how: 'first' | 'second';
}
const START: Values = {
  points: '',
  required: '',
  shuffle: '',
  limited: '',
  seconds: '60',
  add: '',
  remove: '',
  which: 'general',
  text: '',
  onlyWhereNone: true,
  of: 'option',
  how: 'first',
};
const list = (s: string): string[] =>
  s
    .split(/[,;\n]/)
    .map((t) => t.trim())
    .filter(Boolean);
const THREE = { yes: true, no: false, set: null } as const;
/** A number of at least `least` as people write it; null where it is none. */
const numberFrom = (said: string, least: number): number | null => {
  const n = parseNumber(said);
  return n !== null && n >= least ? n : null;
};
/** The settings that were touched; null where one is no number. */
function settingsOf(v: Values): BulkChange[] | null {
  const points = v.points.trim() ? numberFrom(v.points, 0) : undefined;
  const seconds = v.limited === 'yes' ? numberFrom(v.seconds, 1) : v.limited === 'no' ? 'none' : undefined;
  if (points === null || seconds === null) return null;
  return [
    ...(points === undefined ? [] : [{ type: 'points' as const, points }]),
    ...(v.required ? [{ type: 'required' as const, value: THREE[v.required] }] : []),
    ...(v.shuffle ? [{ type: 'shuffle' as const, value: THREE[v.shuffle] }] : []),
    ...(seconds === undefined ? [] : [{ type: 'timeLimit' as const, seconds: seconds === 'none' ? null : seconds }]),
  ];
}

type Name = 'settings' | Exclude<BulkChange['type'], 'points' | 'required' | 'shuffle' | 'timeLimit'>;
/** What can be changed: its name, the fields that it asks for, and the changes made of them; null while something is missing. */
const CHANGES: Record<Name, { name: string; fields: readonly (keyof Values)[]; how?: [string, string]; make: (v: Values) => readonly BulkChange[] | null }> = {
  settings: { name: 'Settings', fields: [], make: settingsOf },
  tags: { name: 'Tags', fields: ['add', 'remove'], make: (v) => [{ type: 'tags', add: list(v.add), remove: list(v.remove) }] },
  outcomes: { name: 'Outcomes', fields: ['add', 'remove'], make: (v) => [{ type: 'outcomes', add: list(v.add), remove: list(v.remove) }] },
  feedback: {
    name: 'Feedback',
    fields: ['which', 'text', 'onlyWhereNone'],
    make: (v) => [{ type: 'feedback', which: v.which, text: v.text.trim(), onlyWhereNone: v.onlyWhereNone && v.text.trim() !== '' }],
  },
  capitals: {
    name: 'First letters',
    fields: ['of', 'how'],
    how: ['capital letters', 'small letters'],
    make: (v) => [{ type: 'capitals', of: v.of, how: v.how === 'first' ? 'capital' : 'small' }],
  },
  stops: {
    name: 'Full stops',
    fields: ['of', 'how'],
    how: ['take off', 'add'],
    make: (v) => [{ type: 'stops', of: v.of, how: v.how === 'first' ? 'remove' : 'add' }],
  },
  language: {
    name: 'Language',
    fields: ['text'],
    make: (v) => {
      const language = v.text.trim();
      return language === ''
        ? [{ type: 'language', language: null }]
        : /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/i.test(language)
          ? [{ type: 'language', language }]
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
  const [type, setType] = useState<Name>('settings');
  const [values, setValues] = useState(START);
  const row = CHANGES[type];
  const put = (part: Partial<Values>): void => setValues((v) => ({ ...v, ...part }));
  const changes = useMemo(() => CHANGES[type].make(values), [type, values]);
  const operations = useMemo(() => (changes ?? []).flatMap((c) => bulkChange(items, c)), [changes, items]);
  const touched = new Set(operations.map((o) => ('id' in o ? o.id : ''))).size;
  const reopened = useMemo(() => {
    if (!operations.length) return 0;
    const after = apply(doc, { type: 'all', operations }).document;
    return items.filter((i) => doc.reviews[i.id]?.state === 'checked' && after.reviews[i.id]?.state !== 'checked').length;
  }, [operations, doc, items]);
  const uses = (f: keyof Values): boolean => row.fields.includes(f);
  const change = (): void => {
    if (operations.length && perform({ type: 'all', label: `${row.name} of ${counted(touched, 'item')}`, operations })) onClose();
  };
  return (
    <Modal
      open
      onClose={onClose}
      title={`Change ${counted(items.length, 'item')}`}
      foot={
        <>
          <p role="status" className="flex-1 text-[13.5px] text-ink-2">
            {!changes
              ? 'Something is missing, or is no number.'
              : touched
                ? `Changes ${touched} of ${items.length}.${reopened ? ` ${reopened} checked ${reopened === 1 ? 'item has' : 'items have'} to be checked again.` : ''}`
                : changes.length
                  ? 'All of them are so already, or it does not apply to them.'
                  : 'Nothing is changed yet.'}
          </p>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="primary" keys="Ctrl Enter" disabled={!operations.length} onClick={change}>
            Change
          </Button>
        </>
      }
    >
      <div className="grid gap-3" onKeyDown={(e) => chordOf(e) === 'Ctrl Enter' && change()}>
        <Field label="What">
          {(id) => (
            <Select id={id} value={type} onChange={(e) => setType(e.target.value as Name)}>
              {Object.entries(CHANGES).map(([k, c]) => (
                <option key={k} value={k}>
                  {c.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        {type === 'settings' && (
          <div className="grid gap-3 sm:grid-cols-2">
            <Field label="Points of each" hint="Empty: as they are.">
              {(id, note) => (
                <Input id={id} autoFocus aria-describedby={note} inputMode="decimal" value={values.points} onChange={(e) => put({ points: e.target.value })} />
              )}
            </Field>
            <RuleField
              label="Must be answered"
              yes="must be answered"
              no="may be left open"
              value={values.required}
              onChange={(required) => put({ required })}
            />
            <RuleField label="Options" yes="shuffled" no="in their order" value={values.shuffle} onChange={(shuffle) => put({ shuffle })} />
            <Field label="Time limit">
              {(id) => (
                <span className="flex items-center gap-2">
                  <Select id={id} value={values.limited} onChange={(e) => put({ limited: e.target.value as Values['limited'] })}>
                    <option value="">as they are</option>
                    <option value="no">none</option>
                    <option value="yes">seconds for each</option>
                  </Select>
                  {values.limited === 'yes' && (
                    <Input
                      aria-label="Seconds for each"
                      inputMode="numeric"
                      className="w-20!"
                      value={values.seconds}
                      onChange={(e) => put({ seconds: e.target.value })}
                    />
                  )}
                </span>
              )}
            </Field>
          </div>
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

function RuleField({ label, yes, no, value, onChange }: { label: string; yes: string; no: string; value: Rule; onChange: (r: Rule) => void }) {
  return (
    <Field label={label}>
      {(id) => (
        <Select id={id} value={value} onChange={(e) => onChange(e.target.value as Rule)}>
          <option value="">as they are</option>
          <option value="yes">{yes}</option>
          <option value="no">{no}</option>
          <option value="set">as the whole set</option>
        </Select>
      )}
    </Field>
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
