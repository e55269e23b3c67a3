/** Editing an item in place. What is typed becomes an operation when typing rests; nothing has to be saved. */
import {
  type Gap,
  gapMarks,
  type Item,
  type ItemOf,
  letterOf,
  newId,
  type NumberAnswer,
  type Operation,
  type Option,
  type QuizSet,
  parseNumber,
  type Scoring,
  scorings,
  type TextAnswer,
} from '@zakuska/core';
import { ArrowDown, ArrowUp, Plus, X } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input, Select, TextArea, useTyped } from '../ui/Field.js';
import { changed, picturesIn, withPictures, withSigns } from './pictures.js';

/** The pictures of a question: their words, their width, and the way out. */
function Pictures({ stem, onChange }: { stem: string; onChange: (stem: string) => void }) {
  const pictures = picturesIn(stem);
  if (!pictures.length) return null;
  const resize = (i: number, slider: HTMLInputElement): void => {
    const width = Number(slider.value);
    if (width !== (pictures[i]?.width ?? 480)) onChange(changed(stem, i, { width }));
  };
  return (
    <ul aria-label="Pictures" className="grid gap-3">
      {pictures.map((p, i) => (
        <li key={`${i}${p.src.slice(-24)}`} className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-start gap-3">
          <img src={p.src} alt={p.alt || `Picture ${i + 1}`} className="max-h-24 max-w-40 border border-rule" />
          <div className="grid gap-2">
            <TypedArea
              label={`What picture ${i + 1} shows`}
              value={p.alt}
              onCommit={(alt) => onChange(changed(stem, i, { alt: alt.replace(/\s+/g, ' ').trim() }))}
            />
            <label className="flex items-center gap-2 text-[13.5px]">
              Width
              <input
                type="range"
                min={60}
                max={900}
                step={20}
                key={p.width}
                defaultValue={p.width ?? 480}
                // one edit for a drag, not one for every step of it
                onPointerUp={(e) => resize(i, e.currentTarget)}
                onKeyUp={(e) => resize(i, e.currentTarget)}
                className="min-w-0 flex-1 accent-beet"
              />
              <span className="w-20 text-ink-2 tabular-nums">{p.width ? `${p.width} px` : 'its own'}</span>
              {p.width !== null && (
                <Button look="quiet" onClick={() => onChange(changed(stem, i, { width: null }))}>
                  Own size
                </Button>
              )}
            </label>
          </div>
          <IconButton name={`Take picture ${i + 1} out`} onClick={() => onChange(changed(stem, i, null))}>
            <X size={16} aria-hidden />
          </IconButton>
        </li>
      ))}
    </ul>
  );
}

type Change = (set: Record<string, unknown>, unset?: string[]) => void;

function TypedArea({
  label,
  value,
  onCommit,
  hint,
  mono = false,
  rows = 1,
}: {
  label: string;
  value: string;
  onCommit: (v: string) => void;
  hint?: ReactNode;
  mono?: boolean;
  rows?: number;
}) {
  const typed = useTyped(value, onCommit);
  return (
    <Field label={label} hint={hint}>
      {(id, note) => <TextArea id={id} aria-describedby={note} dir="auto" rows={rows} className={mono ? 'font-mono text-sm' : ''} {...typed} />}
    </Field>
  );
}
function TypedInput({
  name,
  value,
  onCommit,
  className,
  placeholder,
}: {
  name: string;
  value: string;
  onCommit: (v: string) => void;
  className?: string;
  placeholder?: string;
}) {
  const typed = useTyped(value, onCommit);
  return <Input aria-label={name} dir="auto" {...typed} {...(className && { className })} {...(placeholder && { placeholder })} />;
}
/** A number that is typed as text; what is no number is not taken and said so. */
function TypedNumber({ label, value, min = 0, onCommit }: { label: string; value: number; min?: number; onCommit: (v: number) => void }) {
  const [wrong, setWrong] = useState(false);
  const typed = useTyped(String(value), (v) => {
    const n = parseNumber(v);
    setWrong(n === null || n < min);
    if (n !== null && n >= min) onCommit(n);
  });
  return (
    <Field label={label} error={wrong ? 'This is not a number that fits.' : undefined}>
      {(id, note) => <Input id={id} inputMode="decimal" aria-describedby={note} aria-invalid={wrong} className="w-24!" {...typed} />}
    </Field>
  );
}

const IconButton = ({ name, onClick, disabled, children }: { name: string; onClick: () => void; disabled?: boolean; children: ReactNode }) => (
  <button
    type="button"
    aria-label={name}
    title={name}
    disabled={disabled}
    onClick={onClick}
    className="grid size-7 flex-none cursor-pointer place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet disabled:opacity-30"
  >
    {children}
  </button>
);

function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const out = list.slice();
  const [one] = out.splice(from, 1);
  out.splice(to, 0, one as T);
  return out;
}

function Options({ item, change }: { item: ItemOf<'multiple-choice'> | ItemOf<'multiple-response'>; change: Change }) {
  const single = item.kind === 'multiple-choice';
  const put = (options: Option[]): void => change({ options });
  const edit = (i: number, part: Partial<Option>): void => put(item.options.map((o, n) => (n === i ? { ...o, ...part } : o)));
  const key = (i: number, on: boolean): void =>
    put(item.options.map((o, n) => (n === i ? { ...o, credit: on ? 1 : 0 } : single && on ? { ...o, credit: Math.min(o.credit, 0) } : o)));
  return (
    <fieldset className="grid gap-1.5">
      <legend className="mb-1 text-[13.5px] font-semibold">Options, with the {single ? 'key' : 'keys'} ticked</legend>
      {item.options.map((o, i) => (
        <div key={o.id} className="flex items-center gap-1.5">
          <input
            type={single ? 'radio' : 'checkbox'}
            name={`key-${item.id}`}
            checked={o.credit > 0}
            onChange={(e) => key(i, e.target.checked)}
            aria-label={`${letterOf(i)} is ${single ? 'the' : 'a'} key`}
            className="size-5 flex-none accent-dill"
          />
          <b className="w-4 text-ink-2">{letterOf(i)}</b>
          <TypedInput name={`Option ${letterOf(i)}`} value={o.content} onCommit={(content) => edit(i, { content })} className="flex-[3]" />
          <TypedInput
            name={`Feedback for option ${letterOf(i)}`}
            placeholder="feedback"
            value={o.feedback ?? ''}
            onCommit={(f) => {
              const { feedback: _, ...rest } = o;
              put(item.options.map((x, n) => (n === i ? (f ? { ...rest, feedback: f } : rest) : x)));
            }}
            className="flex-[2] text-sm"
          />
          <IconButton name={`Move option ${letterOf(i)} up`} disabled={i === 0} onClick={() => put(moved(item.options, i, i - 1))}>
            <ArrowUp size={15} aria-hidden />
          </IconButton>
          <IconButton name={`Move option ${letterOf(i)} down`} disabled={i === item.options.length - 1} onClick={() => put(moved(item.options, i, i + 1))}>
            <ArrowDown size={15} aria-hidden />
          </IconButton>
          <IconButton name={`Take out option ${letterOf(i)}`} onClick={() => put(item.options.filter((_, n) => n !== i))}>
            <X size={15} aria-hidden />
          </IconButton>
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-3">
        <Button look="quiet" onClick={() => put([...item.options, { id: newId(), content: '', credit: 0 }])}>
          <Plus size={15} aria-hidden /> Add an option
        </Button>
        {!single && (
          <label className="flex items-center gap-2 text-[13.5px]">
            Marked
            <Select className="w-auto!" value={item.scoring} onChange={(e) => change({ scoring: e.target.value as Scoring })}>
              {scorings.map((s) => (
                <option key={s} value={s}>
                  {
                    { 'all-or-nothing': 'all or nothing', 'per-option': 'each option counts', 'right-minus-wrong': 'right minus wrong', weights: 'by weight' }[
                      s
                    ]
                  }
                </option>
              ))}
            </Select>
          </label>
        )}
      </div>
    </fieldset>
  );
}

const linesOf = (v: string): string[] =>
  v
    .split('\n')
    .map((s) => s.trim())
    .filter(Boolean);
const textsOf = (v: string, was: readonly TextAnswer[]): TextAnswer[] => linesOf(v).map((text) => was.find((a) => a.text === text) ?? { text, credit: 1 });
const numberText = (a: NumberAnswer): string => (a.min === a.max ? String(a.min) : `${a.min} to ${a.max}`);
const numbersOf = (v: string): NumberAnswer[] =>
  linesOf(v).flatMap((line) => {
    const [a, b] = line.split(/\s+to\s+|\s*–\s*|\.\./).map((s) => parseNumber(s));
    if (a === null || a === undefined) return [];
    const end = b ?? a;
    return [{ min: Math.min(a, end), max: Math.max(a, end), credit: 1 }];
  });

function Gaps({ item, change }: { item: ItemOf<'cloze'>; change: Change }) {
  const put = (id: string, gap: Gap): void =>
    change({ gaps: item.gaps.some((g) => g.id === id) ? item.gaps.map((g) => (g.id === id ? gap : g)) : [...item.gaps, gap] });
  const marks = [...new Set(gapMarks(item.stem))];
  if (!marks.length) return <p className="text-amber">Write [[1]] in the text where the first gap is.</p>;
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      {marks.map((id) => {
        const g = item.gaps.find((x) => x.id === id) ?? { id, kind: 'text' as const, points: 1, answers: [] };
        if (g.kind === 'choice')
          return (
            <TypedArea
              key={id}
              label={`Choices of gap ${id}, the key with a star in front`}
              value={g.options.map((o) => (o.credit > 0 ? '* ' : '') + o.content).join('\n')}
              onCommit={(v) =>
                put(id, {
                  ...g,
                  options: linesOf(v).map((t, i) => ({ id: g.options[i]?.id ?? newId(), content: t.replace(/^\*\s*/, ''), credit: t.startsWith('*') ? 1 : 0 })),
                })
              }
            />
          );
        const text = g.kind === 'number' ? g.answers.map((a) => a.text ?? numberText(a)).join('\n') : g.answers.map((a) => a.text).join('\n');
        return (
          <TypedArea
            key={id}
            label={`Accepted in gap ${id}, one a line`}
            value={text}
            onCommit={(v) => {
              const numbers = numbersOf(v);
              const all = linesOf(v);
              const base = { id, points: g.points };
              put(
                id,
                numbers.length === all.length && all.length > 0
                  ? { ...base, kind: 'number', answers: numbers.map((n, i) => ({ ...n, text: all[i] ?? '' })) }
                  : { ...base, kind: 'text', answers: textsOf(v, g.kind === 'text' ? g.answers : []) },
              );
            }}
          />
        );
      })}
    </div>
  );
}

function Own({ item, change }: { item: Item; change: Change }) {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return <Options item={item} change={change} />;
    case 'true-false':
      return (
        <fieldset className="flex gap-4">
          <legend className="mb-1 text-[13.5px] font-semibold">The statement is</legend>
          {[true, false].map((t) => (
            <label key={String(t)} className="flex items-center gap-2">
              <input type="radio" className="size-5 accent-dill" name={`truth-${item.id}`} checked={item.answer === t} onChange={() => change({ answer: t })} />{' '}
              {t ? 'true' : 'false'}
            </label>
          ))}
        </fieldset>
      );
    case 'short-answer':
      return (
        <TypedArea
          label="Accepted answers, one a line"
          value={item.answers.map((a) => a.text).join('\n')}
          onCommit={(v) => change({ answers: textsOf(v, item.answers) })}
        />
      );
    case 'numeric':
      return (
        <div className="grid gap-2 sm:grid-cols-2">
          <TypedArea
            label="Right number, or a range"
            hint="12.5, or 12.4 to 12.6; one a line"
            value={item.answers.map(numberText).join('\n')}
            onCommit={(v) => change({ answers: numbersOf(v) })}
          />
          <TypedArea label="Unit" value={item.unit ?? ''} onCommit={(v) => (v.trim() ? change({ unit: v.trim() }) : change({}, ['unit']))} />
        </div>
      );
    case 'cloze':
      return <Gaps item={item} change={change} />;
    case 'matching':
      return (
        <TypedArea
          label="Pairs, one a line"
          hint="left -> right; a right side alone, after an arrow, is one that fits nothing"
          rows={3}
          value={[...item.pairs.map((p) => `${p.left} -> ${p.right}`), ...item.extraRights.map((r) => `-> ${r}`)].join('\n')}
          onCommit={(v) => {
            const rows = linesOf(v)
              .map((l) => l.split(/\s*->\s*/))
              .map(([left = '', right = '']) => ({ left, right }));
            change({ pairs: rows.filter((r) => r.left), extraRights: rows.filter((r) => !r.left && r.right).map((r) => r.right) });
          }}
        />
      );
    case 'ordering':
      return <TypedArea label="The right order, one a line" rows={3} value={item.sequence.join('\n')} onCommit={(v) => change({ sequence: linesOf(v) })} />;
    case 'essay':
      return (
        <TypedArea
          label="Model answer"
          value={item.modelAnswer ?? ''}
          onCommit={(v) => (v.trim() ? change({ modelAnswer: v }) : change({}, ['modelAnswer']))}
        />
      );
    default:
      return null;
  }
}

export function ItemEditor({ item, perform, onDone }: { item: Item; set: QuizSet; perform: (o: Operation) => boolean; onDone: () => void }) {
  const change: Change = (set, unset) => perform({ type: 'change', id: item.id, set, ...(unset && { unset }) });
  const feedback = (name: 'correct' | 'incorrect' | 'general', v: string): void => {
    const { [name]: _, ...rest } = item.feedback ?? {};
    const next = v.trim() ? { ...rest, [name]: v } : rest;
    if (Object.keys(next).length) change({ feedback: next });
    else change({}, ['feedback']);
  };
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => box.current?.querySelector('textarea')?.focus(), []);
  return (
    <div ref={box} className="mt-3 grid gap-3 rounded-md border border-rule bg-paper p-3">
      <TypedArea
        label={item.kind === 'information' ? 'Text' : 'Question'}
        value={withSigns(item.stem)}
        onCommit={(text) => change({ stem: withPictures(text, picturesIn(item.stem)) })}
        hint={item.kind === 'cloze' ? '[[1]], [[2]] … mark the gaps' : undefined}
      />
      <Pictures stem={item.stem} onChange={(stem) => change({ stem })} />
      <Own item={item} change={change} />
      {item.kind !== 'information' && (
        <div className="grid gap-3 sm:grid-cols-[auto_1fr_1fr_1fr]">
          <TypedNumber label="Points" value={item.points} onCommit={(points) => change({ points: Math.round(points * 1e4) / 1e4 })} />
          <TypedArea label="Feedback when right" value={item.feedback?.correct ?? ''} onCommit={(v) => feedback('correct', v)} />
          <TypedArea label="Feedback when wrong" value={item.feedback?.incorrect ?? ''} onCommit={(v) => feedback('incorrect', v)} />
          <TypedArea label="Feedback always" value={item.feedback?.general ?? ''} onCommit={(v) => feedback('general', v)} />
        </div>
      )}
      <div className="flex items-center gap-3">
        <Button look="primary" keys="Esc" onClick={onDone}>
          Done
        </Button>
        <span className="text-[13px] text-ink-2">Edits are saved by themselves.</span>
      </div>
    </div>
  );
}
