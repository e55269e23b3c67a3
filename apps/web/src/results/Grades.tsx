/** The grades that the points of a set are worth, with how many would get each. */
import { counted, type GradeStep, gradeOf, readGrades, writeGrades } from '@zakuska/core';
import { useState } from 'react';
import { useOpenSet } from '../set/context.js';
import { Button } from '../ui/Button.js';
import { Field, TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { percent } from './figuresWords.js';

/** To begin with. Common practice, no source. */
const USUAL: Readonly<Record<string, string>> = { Letters: 'A 90\nB 80\nC 70\nD 60\nF 0', 'Passed or not': 'passed 50\nnot passed 0' };

interface Props {
  /** The share of the points that each person has. */
  shares: readonly number[];
  onClose: () => void;
}
export function GradesDialog({ shares, onClose }: Props) {
  const { document: doc, session } = useOpenSet();
  const [text, setText] = useState(() => writeGrades(doc.aim?.grades ?? []));
  const read = readGrades(text);
  const steps = 'steps' in read ? read.steps : [];
  const save = (): void => {
    const { grades: _was, ...others } = doc.aim ?? {};
    const aim = { ...others, ...(steps.length && { grades: steps }) };
    session.perform({ type: 'aim', aim: Object.keys(aim).length ? aim : null });
    onClose();
  };
  return (
    <Modal open onClose={onClose} title="Grades" description="From which per cent of the points on each grade is given. They hold for all results of this set.">
      <div className="mb-2 flex flex-wrap gap-2">
        {Object.entries(USUAL).map(([name, usual]) => (
          <Button key={name} onClick={() => setText(usual)}>
            {name}
          </Button>
        ))}
        {text.trim() && (
          <Button look="quiet" onClick={() => setText('')}>
            No grades
          </Button>
        )}
      </div>
      <Field label="A grade and its per cent, one a line" error={'problem' in read ? read.problem : undefined}>
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
          Use these grades
        </Button>
        <Button onClick={onClose}>Cancel</Button>
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
    <ul aria-label="People by grade" className="mt-3 grid gap-1 text-sm">
      {steps.map((s) => (
        <li key={s.name} className="flex justify-between gap-4 border-b border-rule-2 pb-1">
          <span>
            <b>{s.name}</b> <span className="text-ink-2">from {percent(s.from)}</span>
          </span>
          <span>{counted(counts.get(s.name) ?? 0, 'person', 'people')}</span>
        </li>
      ))}
      {none > 0 && <li className="text-amber">{counted(none, 'person has', 'people have')} no grade: the lowest step is not reached.</li>}
    </ul>
  );
}
