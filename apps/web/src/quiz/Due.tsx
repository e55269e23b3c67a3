/** When a quiz is due, and what it costs to hand in later. */
import type { QuizRules } from '@zakuska/core';
import { Field, Input, Select } from '../ui/Field.js';
import { asInstant, asLocal } from '../ui/localTime.js';
import { say } from '../words/say.js';

const TAKEN_OFF: Readonly<Record<Late['per'], string>> = { once: say('per cent, once'), day: say('per cent for each day') };
type Late = NonNullable<QuizRules['late']>;
export const Due = ({ late, onLate }: { late: Late | undefined; onLate: (late: Late | undefined) => void }) => (
  <>
    <Field label={say('Due')} hint={late ? undefined : say('Empty where being late costs nothing. It may close later than it is due.')}>
      {(id, note) => (
        <Input
          id={id}
          aria-describedby={note}
          type="datetime-local"
          value={asLocal(late?.due)}
          onChange={(e) => {
            const due = asInstant(e.target.value);
            onLate(due === undefined ? undefined : { percent: 10, per: 'day', ...late, due });
          }}
        />
      )}
    </Field>
    {late && (
      <Field label={say('Handing in later costs')} hint={say('Of the points that somebody reached, once all are added up.')}>
        {(id, note) => (
          <div className="flex gap-2">
            <Input
              id={id}
              aria-describedby={note}
              type="number"
              min={0}
              max={100}
              className="w-20!"
              value={late.percent}
              onChange={(e) => onLate({ ...late, percent: Math.max(0, Math.min(100, e.target.valueAsNumber || 0)) })}
            />
            <Select aria-label={say('How often it is taken off')} value={late.per} onChange={(e) => onLate({ ...late, per: e.target.value as Late['per'] })}>
              {Object.entries(TAKEN_OFF).map(([per, words]) => (
                <option key={per} value={per}>
                  {words}
                </option>
              ))}
            </Select>
          </div>
        )}
      </Field>
    )}
  </>
);
