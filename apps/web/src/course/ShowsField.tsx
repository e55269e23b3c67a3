/** What learners see after they have handed in, as a teacher chooses it. */
import { Field, Select } from '../ui/Field.js';

const SHOWS = { answers: 'the score, with right and wrong and feedback', score: 'the score only', nothing: 'nothing yet' } as const;
export type Shows = keyof typeof SHOWS;

/** @param value undefined where it is none of these */
export function ShowsField({ value, onValue }: { value: Shows | undefined; onValue: (value: Shows) => void }) {
  return (
    <Field label="Learners see after handing in">
      {(id) => (
        <Select id={id} value={value ?? ''} onChange={(e) => onValue(e.target.value as Shows)}>
          {value === undefined && <option value="">each part at its own time</option>}
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
