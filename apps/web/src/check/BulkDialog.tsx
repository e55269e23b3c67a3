/** One change for all chosen items, with what it will do told before it is done. */
import { apply, type BulkChange, bulkChange, type Item, type Operation, parseNumber, type SetDocument } from '@zakuska/core';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { chordOf } from '../ui/commands.js';
import { Field, Input, Select, TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

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
  settings: { name: say('Settings'), fields: [], make: settingsOf },
  tags: { name: say('Tags'), fields: ['add', 'remove'], make: (v) => [{ type: 'tags', add: list(v.add), remove: list(v.remove) }] },
  outcomes: { name: say('Outcomes'), fields: ['add', 'remove'], make: (v) => [{ type: 'outcomes', add: list(v.add), remove: list(v.remove) }] },
  feedback: {
    name: say('Feedback'),
    fields: ['which', 'text', 'onlyWhereNone'],
    make: (v) => [{ type: 'feedback', which: v.which, text: v.text.trim(), onlyWhereNone: v.onlyWhereNone && v.text.trim() !== '' }],
  },
  capitals: {
    name: say('First letters'),
    fields: ['of', 'how'],
    how: [say('capital letters'), say('small letters')],
    make: (v) => [{ type: 'capitals', of: v.of, how: v.how === 'first' ? 'capital' : 'small' }],
  },
  stops: {
    name: say('Full stops'),
    fields: ['of', 'how'],
    how: [say('take off'), say('add')],
    make: (v) => [{ type: 'stops', of: v.of, how: v.how === 'first' ? 'remove' : 'add' }],
  },
  language: {
    name: say('Language'),
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
    if (
      operations.length &&
      perform({ type: 'all', label: say('{name} of {touched, plural, one {# item} other {# items}}', { name: row.name, touched }), operations })
    )
      onClose();
  };
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Change {items, plural, one {# item} other {# items}}', { items: items.length })}
      foot={
        <>
          <p role="status" className="flex-1 text-[13.5px] text-ink-2">
            {!changes
              ? say('Something is missing, or is no number.')
              : touched
                ? say('Changes {touched} of {items}.{what}', {
                    touched,
                    items: items.length,
                    what: reopened ? say(' {reopened} checked {reopened, plural, one {item has} other {items have}} to be checked again.', { reopened }) : '',
                  })
                : changes.length
                  ? say('All of them are so already, or it does not apply to them.')
                  : say('Nothing is changed yet.')}
          </p>
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" keys="Ctrl Enter" disabled={!operations.length} onClick={change}>
            {say('Change')}
          </Button>
        </>
      }
    >
      <div className="grid gap-3" onKeyDown={(e) => chordOf(e) === 'Ctrl Enter' && change()}>
        <Field label={say('What')}>
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
            <Field label={say('Points of each')} hint={say('Empty: as they are.')}>
              {(id, note) => (
                <Input id={id} autoFocus aria-describedby={note} inputMode="decimal" value={values.points} onChange={(e) => put({ points: e.target.value })} />
              )}
            </Field>
            <RuleField
              label={say('Must be answered')}
              yes={say('must be answered')}
              no={say('may be left open')}
              value={values.required}
              onChange={(required) => put({ required })}
            />
            <RuleField label={say('Options')} yes="shuffled" no={say('in their order')} value={values.shuffle} onChange={(shuffle) => put({ shuffle })} />
            <Field label={say('Time limit')}>
              {(id) => (
                <span className="flex items-center gap-2">
                  <Select id={id} value={values.limited} onChange={(e) => put({ limited: e.target.value as Values['limited'] })}>
                    <option value="">{say('as they are')}</option>
                    <option value="no">{say('none')}</option>
                    <option value="yes">{say('seconds for each')}</option>
                  </Select>
                  {values.limited === 'yes' && (
                    <Input
                      aria-label={say('Seconds for each')}
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
            <Field label={say('{name} to add', { name: row.name })} hint={say('Several with commas between.')}>
              {(id, note) => <Input id={id} aria-describedby={note} value={values.add} onChange={(e) => put({ add: e.target.value })} />}
            </Field>
            <Field label={say('{name} to take off', { name: row.name })}>
              {(id) => <Input id={id} value={values.remove} onChange={(e) => put({ remove: e.target.value })} />}
            </Field>
          </>
        )}
        {uses('which') && (
          <Field label={say('Shown')}>
            {(id) => (
              <Select id={id} value={values.which} onChange={(e) => put({ which: e.target.value as Values['which'] })}>
                <option value="general">{say('always')}</option>
                <option value="correct">{say('when right')}</option>
                <option value="incorrect">{say('when wrong')}</option>
              </Select>
            )}
          </Field>
        )}
        {uses('text') && type === 'feedback' && (
          <Field label={say('Text')} hint={say('Empty takes the feedback away.')}>
            {(id, note) => <TextArea id={id} aria-describedby={note} rows={2} value={values.text} onChange={(e) => put({ text: e.target.value })} />}
          </Field>
        )}
        {type === 'language' && (
          <Field label={say('Language')} hint={say('A code such as en, es or fr-CA. Empty: the language of the set.')}>
            {(id, note) => <Input id={id} aria-describedby={note} className="w-40!" value={values.text} onChange={(e) => put({ text: e.target.value })} />}
          </Field>
        )}
        {uses('onlyWhereNone') && (
          <label className="flex items-center gap-2">
            <input type="checkbox" className="size-4 accent-beet" checked={values.onlyWhereNone} onChange={(e) => put({ onlyWhereNone: e.target.checked })} />
            {say('Only where there is none yet')}
          </label>
        )}
        {uses('of') && (
          <Field label={say('In')}>
            {(id) => (
              <Select id={id} value={values.of} onChange={(e) => put({ of: e.target.value as Values['of'] })}>
                <option value="option">{say('options')}</option>
                <option value="stem">{say('questions')}</option>
                <option value="both">{say('both')}</option>
              </Select>
            )}
          </Field>
        )}
        {row.how && (
          <Field label={say('How')}>
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
          <option value="">{say('as they are')}</option>
          <option value="yes">{yes}</option>
          <option value="no">{no}</option>
          <option value="set">{say('as the whole set')}</option>
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
      title={say('Move {chosen, plural, one {# item} other {# items}}', { chosen: chosen.size })}
      foot={
        <>
          <span className="flex-1" />
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button
            look="primary"
            onClick={() => {
              onMove(Number(to));
              onClose();
            }}
          >
            {say('Move')}
          </Button>
        </>
      }
    >
      <Field label={say('To')}>
        {(id) => (
          <Select id={id} autoFocus value={to} onChange={(e) => setTo(e.target.value)}>
            <option value="0">{say('the beginning')}</option>
            {others.map(({ i, n }) => (
              <option key={i.id} value={n + 1}>
                {say('behind item {label}', { label: i.label ?? n + 1 })}
              </option>
            ))}
          </Select>
        )}
      </Field>
    </Modal>
  );
}
