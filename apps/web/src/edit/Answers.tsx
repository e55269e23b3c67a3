/** Accepted answers: typed ones with the rule by which they are compared, numbers with their tolerance. */
import { defaultMatch, halfWidthOf, type MatchRule, middleOf, minus, type NumberAnswer, plus, type TextAnswer } from '@zakuska/core';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { replaced } from './itemEdit.js';
import { IconButton } from './Rows.js';
import { TypedInput, TypedNumber } from './typed.js';
import { say } from '../words/say.js';

/** The share of the points that an answer earns, and what is told who gives it. */
function ShareAndFeedback({
  of,
  answer,
  onEdit,
}: {
  of: string;
  answer: { credit: number; feedback?: string | undefined };
  onEdit: (part: { credit: number } | { feedback: string | undefined }) => void;
}) {
  return (
    <>
      <TypedNumber
        bare
        label={say('Share of the points for {of}, in per cent', { of })}
        value={Math.round(answer.credit * 1e4) / 100}
        min={-100}
        max={100}
        suffix="%"
        onCommit={(n) => onEdit({ credit: (n ?? 0) / 100 })}
      />
      <TypedInput
        name={say('Feedback for {of}', { of })}
        placeholder={say('feedback')}
        value={answer.feedback ?? ''}
        onCommit={(f) => onEdit({ feedback: f.trim() || undefined })}
        className="min-w-40 flex-[2] text-sm"
      />
    </>
  );
}

export function TextAnswers({
  label,
  answers,
  onChange,
}: {
  label: string;
  answers: readonly TextAnswer[];
  onChange: (make: (now: readonly TextAnswer[]) => TextAnswer[]) => void;
}) {
  const [more, setMore] = useState(answers.some((a) => a.credit !== 1 || a.feedback));
  const rows = answers.length ? answers : [{ text: '', credit: 1 }];
  // the first row stands there before there is an answer
  const edit = (i: number, part: { [K in keyof TextAnswer]?: TextAnswer[K] | undefined }): void =>
    onChange((now) => replaced(now.length ? now : [{ text: '', credit: 1 }], i, part).filter((a, n) => n !== i || a.text.trim() !== ''));
  return (
    <fieldset className="grid min-w-0 gap-1.5">
      <legend className="mb-1 text-[13.5px] font-semibold">{label}</legend>
      {rows.map((a, i) => (
        <div key={i} className="flex flex-wrap items-start gap-1.5">
          <TypedInput name={`${label} ${i + 1}`} value={a.text} onCommit={(text) => edit(i, { text })} className="min-w-40 flex-[3]" />
          {more && <ShareAndFeedback of={say('answer {n}', { n: i + 1 })} answer={a} onEdit={(part) => edit(i, part)} />}
          {answers.length > 0 && (
            <IconButton name={say('Take out answer {n}', { n: i + 1 })} onClick={() => onChange((now) => now.filter((_, n) => n !== i))}>
              <X size={15} aria-hidden />
            </IconButton>
          )}
        </div>
      ))}
      <div className="flex flex-wrap gap-2">
        <AddAnswer onAdd={(text) => onChange((now) => [...now, { text, credit: 1 }])} />
        {!more && (
          <Button look="quiet" onClick={() => setMore(true)}>
            {say('Shares and feedback')}
          </Button>
        )}
      </div>
    </fieldset>
  );
}

/** A further answer is typed first, and kept with Enter; the field stays for the next one until it is left or Enter finds it empty. */
function AddAnswer({ onAdd }: { onAdd: (text: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  if (text === null)
    return (
      <Button look="quiet" onClick={() => setText('')}>
        <Plus size={15} aria-hidden /> {say('Accept another')}
      </Button>
    );
  const keep = (then: '' | null): void => {
    if (text.trim()) onAdd(text.trim());
    setText(text.trim() ? then : null);
  };
  return (
    <input
      aria-label={say('Another accepted answer')}
      autoFocus
      dir="auto"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => keep(null)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep('');
        if (e.key === 'Escape') {
          e.stopPropagation();
          setText(null);
        }
      }}
      className="rounded border border-rule bg-sheet px-2 py-1.5"
    />
  );
}

const RULES: readonly [keyof MatchRule, string, (r: MatchRule) => boolean, (on: boolean) => Partial<MatchRule>][] = [
  ['caseSensitive', say('Capital letters count'), (r) => r.caseSensitive, (on) => ({ caseSensitive: on })],
  ['accents', say('Accents count'), (r) => r.accents === 'keep', (on) => ({ accents: on ? 'keep' : 'ignore' })],
  ['punctuation', say('Punctuation counts'), (r) => r.punctuation === 'keep', (on) => ({ punctuation: on ? 'keep' : 'ignore' })],
  ['numbersAsValues', say('1/2, 0.5 and 50 % are one answer'), (r) => r.numbersAsValues, (on) => ({ numbersAsValues: on })],
  ['anyOrder', say('A list counts in any order'), (r) => r.anyOrder, (on) => ({ anyOrder: on })],
];

/** How typed answers are compared. */
export function Matching({ rule, onChange }: { rule: MatchRule | undefined; onChange: (make: (now: MatchRule) => MatchRule) => void }) {
  const r = rule ?? defaultMatch;
  return (
    <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[13.5px]">
      <legend className="mb-1 font-semibold">{say('How it is compared')}</legend>
      {RULES.map(([name, label, is, part]) => (
        <label key={name} className="flex items-center gap-1.5">
          <input type="checkbox" className="size-4 accent-beet" checked={is(r)} onChange={(e) => onChange((now) => ({ ...now, ...part(e.target.checked) }))} />
          {label}
        </label>
      ))}
      <label className="flex items-center gap-1.5">
        {say('Letters that may differ')}
        <Select className="w-auto! py-0.5!" value={r.spelling} onChange={(e) => onChange((now) => ({ ...now, spelling: Number(e.target.value) }))}>
          {[0, 1, 2, 3].map((n) => (
            <option key={n}>{n}</option>
          ))}
        </Select>
      </label>
    </fieldset>
  );
}

/** A range as people write it: the middle and what may be off, where both are short; else from and to. */
const asTolerance = (a: NumberAnswer): { value: number; off: number } => ({ value: middleOf(a), off: halfWidthOf(a) });

export function NumberAnswers({
  label,
  answers,
  onChange,
}: {
  label: string;
  answers: readonly NumberAnswer[];
  onChange: (make: (now: readonly NumberAnswer[]) => NumberAnswer[]) => void;
}) {
  const [more, setMore] = useState(answers.some((a) => a.credit !== 1 || a.feedback));
  const [range, setRange] = useState(false);
  const rows: (NumberAnswer | null)[] = answers.length ? [...answers] : [null];
  const edit = (i: number, part: { [K in keyof NumberAnswer]?: NumberAnswer[K] | undefined }): void =>
    onChange((now) => (now.length ? replaced(now, i, part) : [{ min: 0, max: 0, credit: 1, ...part } as NumberAnswer]));
  /** A new value drops the text as it was written: it no longer fits. */
  const between = (i: number, a: number, b: number): void => edit(i, { min: Math.min(a, b), max: Math.max(a, b), text: undefined });
  return (
    <fieldset className="grid min-w-0 gap-1.5">
      <legend className="mb-1 text-[13.5px] font-semibold">{label}</legend>
      {rows.map((a, i) => {
        const t = a ? asTolerance(a) : { value: null, off: 0 };
        return (
          <div key={i} className="flex flex-wrap items-center gap-1.5">
            {range && a ? (
              <>
                <TypedNumber
                  bare
                  label={say('From, answer {n}', { n: i + 1 })}
                  value={a.min}
                  min={Number.NEGATIVE_INFINITY}
                  onCommit={(n) => between(i, n ?? a.min, a.max)}
                />
                {say('to')}
                <TypedNumber
                  bare
                  label={say('To, answer {n}', { n: i + 1 })}
                  value={a.max}
                  min={Number.NEGATIVE_INFINITY}
                  onCommit={(n) => between(i, a.min, n ?? a.max)}
                />
              </>
            ) : (
              <>
                <TypedNumber
                  bare
                  label={say('Number {n}', { n: i + 1 })}
                  value={t.value}
                  min={Number.NEGATIVE_INFINITY}
                  onCommit={(n) => n !== null && between(i, minus(n, t.off), plus(n, t.off))}
                />
                ±
                <TypedNumber
                  bare
                  label={say('Tolerance of number {n}', { n: i + 1 })}
                  value={t.off}
                  onCommit={(n) => t.value !== null && between(i, minus(t.value, n ?? 0), plus(t.value, n ?? 0))}
                />
              </>
            )}
            {more && a && <ShareAndFeedback of={say('number {n}', { n: i + 1 })} answer={a} onEdit={(part) => edit(i, part)} />}
            {answers.length > 1 && (
              <IconButton name={say('Take out number {n}', { n: i + 1 })} onClick={() => onChange((now) => now.filter((_, n) => n !== i))}>
                <X size={15} aria-hidden />
              </IconButton>
            )}
          </div>
        );
      })}
      <div className="flex flex-wrap gap-2">
        {answers.length > 0 && (
          <>
            <Button look="quiet" onClick={() => onChange((now) => [...now, { min: now.at(-1)?.min ?? 0, max: now.at(-1)?.max ?? 0, credit: 1 }])}>
              <Plus size={15} aria-hidden /> {say('Accept another')}
            </Button>
            <Button look="quiet" onClick={() => setRange((r) => !r)}>
              {range ? say('As number and tolerance') : say('As from and to')}
            </Button>
          </>
        )}
        {!more && answers.length > 0 && (
          <Button look="quiet" onClick={() => setMore(true)}>
            {say('Shares and feedback')}
          </Button>
        )}
      </div>
    </fieldset>
  );
}
