/** How a quiz is taken: who comes in, when, how it stands on the page, practice, and what learners see when. */
import { isForClass, type QuizRules, rulesProblem, seenFrom, type SeenFrom, type SeenPart, seenParts } from '@zakuska/core';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { classesOf } from '../api/classes.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { ClassesDialog } from './ClassesDialog.js';
import { Due } from './Due.js';
import { asInstant, asLocal } from '../ui/localTime.js';
import { COUNTS, ENTER, SEEN_FROM } from './rulesWords.js';
import { say } from '../words/say.js';

const PARTS: Readonly<Record<SeenPart, string>> = {
  score: say('Their points'),
  marks: say('Right and wrong'),
  keys: say('The right answers'),
  feedback: say('The feedback'),
};
const ATTEMPTS = [0, 1, 2, 3, 5] as const;
const TRIES = [0, 1, 2, 3, 5] as const;

interface Props {
  rules: QuizRules;
  /** The class that takes it, where one does. */
  classList?: string | undefined;
  workspace: string;
  /** Published already: who comes in, the orders and practice stay as they are. */
  published?: boolean;
  busy?: boolean;
  onDone: (rules: QuizRules, classList: string | undefined) => void;
  onClose: () => void;
}
export function RulesDialog({ rules: given, classList: givenClass, workspace, published = false, busy = false, onDone, onClose }: Props) {
  const [rules, setRules] = useState(given);
  const [classList, setClassList] = useState(givenClass);
  const [inClasses, setInClasses] = useState(false);
  const classes = useQuery({ ...classesOf(workspace), enabled: !published });
  const put = (change: Partial<QuizRules>): void =>
    setRules((r) => Object.fromEntries(Object.entries({ ...r, ...change }).filter(([, v]) => v !== undefined)) as QuizRules);
  const byClass = isForClass(rules);
  const chosen = classes.data?.some((c) => c.id === classList) ? classList : undefined;
  const problem = rulesProblem(rules) ?? (!published && byClass && !chosen ? say('Choose the class that takes it.') : null);
  return (
    <Modal
      open
      wide
      onClose={onClose}
      title={published ? say('Change the rules') : say('How the quiz is taken')}
      foot={
        <>
          <span className="flex-1 text-[13.5px] text-brick" role="status">
            {problem}
          </span>
          <Button onClick={onClose}>{say('Cancel')}</Button>
          <Button look="primary" disabled={problem !== null || busy} onClick={() => onDone(rules, byClass ? chosen : undefined)}>
            {published ? say('Change') : say('Use these rules')}
          </Button>
        </>
      }
    >
      <div className="gap-6 *:mb-6 *:break-inside-avoid sm:columns-2">
        {!published && (
          <Group title={say('Who')}>
            <Field label={say('Who comes in')} hint={rules.enter === 'list' ? say('Whoever has the code sees the names of the class.') : undefined}>
              {(id, note) => (
                <Select id={id} aria-describedby={note} value={rules.enter} onChange={(e) => put({ enter: e.target.value as QuizRules['enter'] })}>
                  {Object.entries(ENTER).map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            {byClass && (
              <Field label={say('Class')}>
                {(id) => (
                  <div className="flex gap-2">
                    <Select id={id} value={chosen ?? ''} onChange={(e) => setClassList(e.target.value || undefined)}>
                      <option value="">{classes.data?.length ? '' : say('no class yet')}</option>
                      {classes.data?.map((c) => (
                        <option key={c.id} value={c.id}>
                          {c.name} ({c.people})
                        </option>
                      ))}
                    </Select>
                    <Button onClick={() => setInClasses(true)}>{say('Classes …')}</Button>
                  </div>
                )}
              </Field>
            )}
          </Group>
        )}
        <Group title={say('When')}>
          <Field
            label={say('Opens')}
            hint={say('Times of {timeZone}, by the clock of the server.', { timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone })}
          >
            {(id, note) => (
              <Input
                id={id}
                aria-describedby={note}
                type="datetime-local"
                value={asLocal(rules.opensAt)}
                onChange={(e) => put({ opensAt: asInstant(e.target.value) })}
              />
            )}
          </Field>
          <Field label={say('Closes')}>
            {(id) => <Input id={id} type="datetime-local" value={asLocal(rules.closesAt)} onChange={(e) => put({ closesAt: asInstant(e.target.value) })} />}
          </Field>
          <Due late={rules.late} onLate={(late) => put({ late })} />
          <Limit
            label={say('Minutes for an attempt')}
            hint={say('Empty for no limit. Who has extra time on the class list gets it, also past the closing.')}
            min={1}
            max={10_080}
            value={rules.minutes}
            onValue={(minutes) => put({ minutes })}
          />
          <Limit
            label={say('Seconds for each item')}
            hint={say('Empty for no limit. An item with a time of its own has that. One by one, without going back.')}
            min={5}
            max={3600}
            value={rules.itemSeconds}
            onValue={(itemSeconds) => put({ itemSeconds, ...(itemSeconds !== undefined && { pages: 'one-by-one', back: false }) })}
          />
        </Group>
        <Group title={say('Attempts')}>
          <Field label={say('Attempts a person')}>
            {(id) => (
              <Select id={id} value={rules.attempts} onChange={(e) => put({ attempts: Number(e.target.value) })}>
                {[...new Set([...ATTEMPTS, rules.attempts])].map((n) => (
                  <option key={n} value={n}>
                    {n || say('as many as they like')}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          {rules.attempts !== 1 && (
            <Field label={say('Of several counts')}>
              {(id) => (
                <Select id={id} value={rules.counts} onChange={(e) => put({ counts: e.target.value as QuizRules['counts'] })}>
                  {Object.entries(COUNTS).map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          )}
        </Group>
        <Group title={say('On the page')}>
          <Field label={say('Items')}>
            {(id) => (
              <Select id={id} value={rules.pages} onChange={(e) => put({ pages: e.target.value as QuizRules['pages'] })}>
                <option value="one-by-one">{say('one by one')}</option>
                <option value="all">{say('all on one page')}</option>
              </Select>
            )}
          </Field>
          <Box checked={rules.holdsRequired ?? false} onChange={(on) => put({ holdsRequired: on || undefined })}>
            {say('Required items must be answered before handing in')}
          </Box>
          <Box checked={rules.back} onChange={(back) => put({ back })}>
            {say('Learners may go back')}
          </Box>
          {!published && (
            <>
              <Box checked={rules.shuffle.items} onChange={(items) => put({ shuffle: { ...rules.shuffle, items } })}>
                {say('A new order of items for each learner, within each part')}
              </Box>
              <Box checked={rules.shuffle.options} onChange={(options) => put({ shuffle: { ...rules.shuffle, options } })}>
                {say('A new order of options; pinned ones and numbers in order stay')}
              </Box>
            </>
          )}
        </Group>
        {!published && (
          <Group title={say('Practice')}>
            <Box checked={rules.practice !== undefined} onChange={(on) => put({ practice: on ? { tries: 3, hints: true } : undefined })}>
              {say('Mark each answer at once')}
            </Box>
            {rules.practice && (
              <>
                <Field label={say('Tries for an item')} hint={say('Then the right answer is shown, with its feedback.')}>
                  {(id, note) => (
                    <Select
                      id={id}
                      aria-describedby={note}
                      value={rules.practice?.tries}
                      onChange={(e) => rules.practice && put({ practice: { ...rules.practice, tries: Number(e.target.value) } })}
                    >
                      {TRIES.map((n) => (
                        <option key={n} value={n}>
                          {n || say('as many as they like')}
                        </option>
                      ))}
                    </Select>
                  )}
                </Field>
                <Box checked={rules.practice.hints} onChange={(hints) => rules.practice && put({ practice: { ...rules.practice, hints } })}>
                  {say('A wrong answer brings the next hint of the item')}
                </Box>
              </>
            )}
          </Group>
        )}
        <Group title={say('What learners see afterwards')}>
          {seenParts.map((part) => (
            <Field key={part} label={PARTS[part]}>
              {(id) => (
                <Select id={id} value={rules.shows[part]} onChange={(e) => put({ shows: { ...rules.shows, [part]: e.target.value as SeenFrom } })}>
                  {seenFrom.map((from) => (
                    <option key={from} value={from}>
                      {SEEN_FROM[from]}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          ))}
        </Group>
      </div>
      {inClasses && (
        <ClassesDialog
          workspace={workspace}
          onClose={(id) => {
            setInClasses(false);
            if (id) setClassList(id);
          }}
        />
      )}
    </Modal>
  );
}

const Group = ({ title, children }: { title: string; children: ReactNode }) => (
  <fieldset className="grid content-start gap-3">
    <legend className="mb-1 text-[15px] font-bold">{title}</legend>
    {children}
  </fieldset>
);
const Box = ({ checked, onChange, children }: { checked: boolean; onChange: (on: boolean) => void; children: ReactNode }) => (
  <label className="flex items-start gap-2 text-sm">
    <input type="checkbox" className="mt-0.5" checked={checked} onChange={(e) => onChange(e.target.checked)} />
    <span>{children}</span>
  </label>
);

interface LimitProps {
  label: string;
  hint: string;
  min: number;
  max: number;
  value: number | undefined;
  onValue: (value: number | undefined) => void;
}
/** A time limit; empty where there is none. */
const Limit = ({ label, hint, min, max, value, onValue }: LimitProps) => (
  <Field label={label} hint={hint}>
    {(id, note) => (
      <Input
        id={id}
        aria-describedby={note}
        type="number"
        min={min}
        max={max}
        value={value ?? ''}
        onChange={(e) => onValue(e.target.valueAsNumber > 0 ? Math.min(max, e.target.valueAsNumber) : undefined)}
      />
    )}
  </Field>
);
