/** What learners see after they have handed in, as a teacher chooses it. */
import { Field, Select } from '../ui/Field.js';
import { say } from '../words/say.js';

const SHOWS = { answers: say('the score, with right and wrong and feedback'), score: say('the score only'), nothing: say('nothing yet') } as const;
export type Shows = keyof typeof SHOWS;

/** @param value undefined where it is none of these */
export function ShowsField({ value, onValue }: { value: Shows | undefined; onValue: (value: Shows) => void }) {
  return (
    <Field label={say('Learners see after handing in')}>
      {(id) => (
        <Select id={id} value={value ?? ''} onChange={(e) => onValue(e.target.value as Shows)}>
          {value === undefined && <option value="">{say('each part at its own time')}</option>}
          {Object.entries(SHOWS).map(([k, v]) => (
            <option key={k} value={k}>
              {v}
            </option>
          ))}
        </Select>
      )}
    </Field>
  );
}
