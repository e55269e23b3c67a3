/** How the points of a set are rounded and the grades that they are worth, with how many would get each. */
import { type GradeStep, gradeOf, readGrades, type Rounding, roundings, roundTotal, writeGrades } from '@zakuska/core';
import { useState } from 'react';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Field, Select, TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { percent } from '../ui/figures.js';
import { say } from '../words/say.js';

/** To begin with. Common practice, no source. */
const USUAL: Readonly<Record<string, string>> = { Letters: 'A 90\nB 80\nC 70\nD 60\nF 0', 'Passed or not': 'passed 50\nnot passed 0' };

const ROUNDED: Readonly<Record<Rounding, string>> = { half: say('to half points'), whole: say('to whole points'), up: say('up to whole points') };

interface Props {
  /** What each person has, before it is rounded. */
  points: readonly number[];
  maximum: number;
  onClose: () => void;
}
export function GradesDialog({ points, maximum, onClose }: Props) {
  const { document: doc, session } = useOpenSet();
  const [text, setText] = useState(() => writeGrades(doc.aim?.grades ?? []));
  const [rounding, setRounding] = useState<Rounding | undefined>(doc.aim?.rounding);
  const shares = maximum ? points.map((p) => roundTotal(p, rounding) / maximum) : [];
  const read = readGrades(text);
  const steps = 'steps' in read ? read.steps : [];
  const save = (): void => {
    const { grades: _grades, rounding: _rounding, ...others } = doc.aim ?? {};
    const aim = { ...others, ...(steps.length && { grades: steps }), ...(rounding && { rounding }) };
    session.perform({ type: 'aim', aim: Object.keys(aim).length ? aim : null });
    onClose();
  };
  return (
    <Modal
      open
      onClose={onClose}
      title={say('Grades')}
      description={say(
        'From which per cent of the points on each grade is given. They hold for all results of this set; figures of items and what goes to courses by itself are not rounded.',
      )}
    >
      <div className="mb-2 flex flex-wrap gap-2">
        {Object.entries(USUAL).map(([name, usual]) => (
          <Button key={name} onClick={() => setText(usual)}>
            {name}
          </Button>
        ))}
        {text.trim() && (
          <Button look="quiet" onClick={() => setText('')}>
            {say('No grades')}
          </Button>
        )}
      </div>
      <Field label={say('The points of a person are rounded')}>
        {(id) => (
          <Select id={id} className="mb-3 w-60!" value={rounding ?? ''} onChange={(e) => setRounding((e.target.value || undefined) as Rounding | undefined)}>
            <option value="">{say('not at all')}</option>
            {roundings.map((r) => (
              <option key={r} value={r}>
                {ROUNDED[r]}
              </option>
            ))}
          </Select>
        )}
      </Field>
      <Field label={say('A grade and its per cent, one a line')} error={'problem' in read ? read.problem : undefined}>
        {(id, note) => (
          <TextArea
            id={id}
            aria-describedby={note}
            rows={6}
            className="font-mono text-sm"
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder="A 90"
          />
        )}
      </Field>
      {steps.length > 0 && <GradeCounts steps={steps} shares={shares} />}
      <div className="mt-3 flex gap-2">
        <Button look="primary" disabled={'problem' in read} onClick={save}>
          {say('Use these grades')}
        </Button>
        <Button onClick={onClose}>{say('Cancel')}</Button>
      </div>
    </Modal>
  );
}

/** How many have each grade. */
export function GradeCounts({ steps, shares }: { steps: readonly GradeStep[]; shares: readonly number[] }) {
  const counts = new Map<string, number>();
  for (const s of shares) {
    const grade = gradeOf(s, steps);
    counts.set(grade, (counts.get(grade) ?? 0) + 1);
  }
  const none = counts.get('') ?? 0;
  return (
    <ul aria-label={say('People by grade')} className="mt-3 grid gap-1 text-sm">
      {steps.map((s) => (
        <li key={s.name} className="flex justify-between gap-4 border-b border-rule-2 pb-1">
          <span>
            <b>{s.name}</b> <span className="text-ink-2">{say('from {percent}', { percent: percent(s.from) })}</span>
          </span>
          <span>{say('{counts, plural, one {# person} other {# people}}', { counts: counts.get(s.name) ?? 0 })}</span>
        </li>
      ))}
      {none > 0 && (
        <li className="text-amber">{say('{none, plural, one {# person has} other {# people have}} no grade: the lowest step is not reached.', { none })}</li>
      )}
    </ul>
  );
}
