/** The fields of each kind: one editor a kind, looked up in a table. */
import { defaultMatch, type Gap, gapMarks, type Item, type ItemOf, type Kind, newId, parseNumber, type TextAnswer } from '@zakuska/core';
import { Plus, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Select } from '../ui/Field.js';
import { Matching, NumberAnswers, TextAnswers } from './Answers.js';
import { replaced, useItemEdit } from './itemEdit.js';
import { Options, ScoringSelect } from './Options.js';
import { RichEditor } from './RichEditor.js';
import { IconButton, moved, Row, Rows, toEmptyRow, useRowKeys } from './Rows.js';
import { TypedArea, TypedNumber } from './typed.js';
import { say } from '../words/say.js';

function Choice({ item }: { item: ItemOf<'multiple-choice'> | ItemOf<'multiple-response'> }) {
  const { edit } = useItemEdit();
  const single = item.kind === 'multiple-choice';
  const partial = item.options.some((o) => o.credit !== 0 && o.credit !== 1);
  const [weights, setWeights] = useState(partial);
  const weighted = weights || (item.kind === 'multiple-response' && item.scoring === 'weights');
  return (
    <div className="grid gap-1.5">
      <Options
        options={item.options}
        single={single}
        name={`key-${item.id}`}
        legend={single ? say('Options, with the key ticked') : say('Options, with the keys ticked')}
        weighted={weighted}
        mayPin
        onChange={(make) => edit(item.kind, (i) => ({ options: make(i.options) }))}
      />
      <div className="flex flex-wrap items-center gap-3">
        {item.kind === 'multiple-response' ? (
          <ScoringSelect value={item.scoring} onChange={(scoring) => edit('multiple-response', () => ({ scoring }))} />
        ) : (
          <label className="flex items-center gap-1.5 text-[13.5px]">
            <input type="checkbox" className="size-4 accent-beet" checked={weighted} disabled={partial} onChange={(e) => setWeights(e.target.checked)} />{' '}
            {say('Some options earn a part, or cost something')}
          </label>
        )}
      </div>
    </div>
  );
}

function Truth({ item }: { item: ItemOf<'true-false'> }) {
  const { edit, focus } = useItemEdit();
  return (
    <div className="grid gap-2">
      <fieldset className="flex gap-4">
        <legend className="mb-1 text-[13.5px] font-semibold">{say('The statement is')}</legend>
        {[true, false].map((t) => (
          <label key={String(t)} className="flex items-center gap-2">
            <input
              type="radio"
              className="size-5 accent-dill"
              name={`truth-${item.id}`}
              checked={item.answer === t}
              onChange={() => edit('true-false', () => ({ answer: t }))}
            />{' '}
            {t ? say('true') : say('false')}
          </label>
        ))}
      </fieldset>
      <div className="grid gap-2 sm:grid-cols-2">
        {(['true', 'false'] as const).map((t) => (
          <RichEditor
            key={t}
            line
            label={say('Feedback when “{t}” is chosen', { t })}
            value={item.optionFeedback?.[t] ?? ''}
            onFocus={focus}
            onCommit={(f) =>
              edit('true-false', (i) => {
                const { [t]: _, ...rest } = i.optionFeedback ?? {};
                const next = f ? { ...rest, [t]: f } : rest;
                return { optionFeedback: Object.keys(next).length ? next : undefined };
              })
            }
          />
        ))}
      </div>
    </div>
  );
}

function Typed({ item }: { item: ItemOf<'short-answer'> }) {
  const { edit } = useItemEdit();
  return (
    <div className="grid gap-3">
      <TextAnswers label={say('Accepted answers')} answers={item.answers} onChange={(make) => edit('short-answer', (i) => ({ answers: make(i.answers) }))} />
      <Matching rule={item.match} onChange={(make) => edit('short-answer', (i) => ({ match: make(i.match) }))} />
    </div>
  );
}

function Numeric({ item }: { item: ItemOf<'numeric'> }) {
  const { edit } = useItemEdit();
  return (
    <div className="flex flex-wrap items-start gap-5">
      <NumberAnswers
        label={say('Right number, and how far off is still right')}
        answers={item.answers}
        onChange={(make) => edit('numeric', (i) => ({ answers: make(i.answers) }))}
      />
      <div className="w-32">
        <TypedArea label={say('Unit')} value={item.unit ?? ''} onCommit={(v) => edit('numeric', () => ({ unit: v.trim() || undefined }))} />
      </div>
    </div>
  );
}

const GAP_KINDS = { text: say('typed'), number: say('a number'), choice: say('chosen from a list') } as const;
/** A gap as another sort of gap, with the answers that it had. */
function gapAs(g: Gap, kind: Gap['kind']): Gap {
  if (g.kind === kind) return g;
  const texts: TextAnswer[] =
    g.kind === 'text'
      ? g.answers
      : g.kind === 'number'
        ? g.answers.map((a) => ({ text: a.text ?? String(a.min), credit: a.credit }))
        : g.options.filter((o) => o.credit > 0).map((o) => ({ text: o.content.replace(/<[^>]*>/g, ''), credit: o.credit }));
  const base = { id: g.id, points: g.points };
  if (kind === 'text') return { ...base, kind, answers: texts };
  if (kind === 'choice') return { ...base, kind, options: texts.map((t) => ({ id: newId(), content: t.text, credit: t.credit })) };
  return {
    ...base,
    kind,
    answers: texts.flatMap((t) => {
      const n = parseNumber(t.text);
      return n === null ? [] : [{ min: n, max: n, credit: t.credit, text: t.text }];
    }),
  };
}

function Gaps({ item }: { item: ItemOf<'cloze'> }) {
  const { edit } = useItemEdit();
  const marks = [...new Set(gapMarks(item.stem))];
  const put = (id: string, make: (g: Gap) => Gap): void =>
    edit('cloze', (i) => {
      const was: Gap = i.gaps.find((g) => g.id === id) ?? { id, kind: 'text', points: 1, answers: [] };
      return { gaps: i.gaps.some((g) => g.id === id) ? i.gaps.map((g) => (g.id === id ? make(g) : g)) : [...i.gaps, make(was)] };
    });
  if (!marks.length) return <p className="text-amber">{say('Mark a word of the question and make it a gap.')}</p>;
  return (
    <div className="grid gap-3">
      {marks.map((id) => {
        const g: Gap = item.gaps.find((x) => x.id === id) ?? { id, kind: 'text', points: 1, answers: [] };
        return (
          <section key={id} aria-label={say('Gap {id}', { id })} className="grid gap-1.5 border-l-2 border-rule pl-3">
            <div className="flex flex-wrap items-center gap-3 text-[13.5px]">
              <b>{say('Gap {id}', { id })}</b>
              <label className="flex items-center gap-1.5">
                {say('It is')}
                <Select className="w-auto! py-0.5!" value={g.kind} onChange={(e) => put(id, (now) => gapAs(now, e.target.value as Gap['kind']))}>
                  {Object.entries(GAP_KINDS).map(([k, words]) => (
                    <option key={k} value={k}>
                      {words}
                    </option>
                  ))}
                </Select>
              </label>
              <span className="flex items-center gap-1.5">
                {say('counts')}
                <TypedNumber
                  bare
                  label={say('Points of gap {id} among the gaps', { id })}
                  value={g.points}
                  onCommit={(n) => put(id, (now) => ({ ...now, points: n ?? 1 }))}
                />
              </span>
              <Button
                look="quiet"
                onClick={() =>
                  edit('cloze', (i) => {
                    const gap = i.gaps.find((x) => x.id === id);
                    const words = gap ? (gapAs(gap, 'text') as Gap & { kind: 'text' }).answers[0]?.text : '';
                    return { stem: i.stem.replaceAll(`[[${id}]]`, words ?? ''), gaps: i.gaps.filter((x) => x.id !== id) };
                  })
                }
              >
                {say('Fill it in again')}
              </Button>
            </div>
            {g.kind === 'text' && (
              <>
                <TextAnswers
                  label={say('Accepted in gap {id}', { id })}
                  answers={g.answers}
                  onChange={(make) => put(id, (now) => (now.kind === 'text' ? { ...now, answers: make(now.answers) } : now))}
                />
                <details>
                  <summary className="cursor-pointer text-[13.5px] text-ink-2">{say('How it is compared')}</summary>
                  <Matching
                    rule={g.match}
                    onChange={(make) => put(id, (now) => (now.kind === 'text' ? { ...now, match: make(now.match ?? defaultMatch) } : now))}
                  />
                </details>
              </>
            )}
            {g.kind === 'number' && (
              <NumberAnswers
                label={say('Right in gap {id}', { id })}
                answers={g.answers}
                onChange={(make) => put(id, (now) => (now.kind === 'number' ? { ...now, answers: make(now.answers) } : now))}
              />
            )}
            {g.kind === 'choice' && (
              <Options
                options={g.options}
                single
                name={`key-${item.id}-${id}`}
                legend={say('Choices of gap {id}', { id })}
                weighted={g.options.some((o) => o.credit !== 0 && o.credit !== 1)}
                mayPin={false}
                onChange={(make) => put(id, (now) => (now.kind === 'choice' ? { ...now, options: make(now.options) } : now))}
              />
            )}
          </section>
        );
      })}
      <TypedArea
        label={say('Words to choose from')}
        hint={say('Shown above the text, in no order; with commas between. Empty: none are shown.')}
        value={item.wordBank?.join(', ') ?? ''}
        onCommit={(v) => {
          const words = v
            .split(',')
            .map((w) => w.trim())
            .filter(Boolean);
          edit('cloze', () => ({ wordBank: words.length ? words : undefined }));
        }}
      />
    </div>
  );
}

function Pairs({ item }: { item: ItemOf<'matching'> }) {
  const { edit, focus } = useItemEdit();
  const [fresh, setFresh] = useState(-1);
  const rows = useRowKeys(item.pairs.length);
  const pair = (i: number, part: { left?: string; right?: string }): void => edit('matching', (now) => ({ pairs: replaced(now.pairs, i, part) }));
  const add = (at: number): void => {
    setFresh(rows.insert(at));
    edit('matching', (now) => ({ pairs: [...now.pairs.slice(0, at), { left: '', right: '' }, ...now.pairs.slice(at)] }));
  };
  const move = (from: number, to: number): void => {
    rows.move(from, to);
    edit('matching', (now) => ({ pairs: moved(now.pairs, from, to) }));
  };
  return (
    <fieldset className="grid min-w-0 gap-1.5">
      <legend className="mb-1 text-[13.5px] font-semibold">{say('Pairs')}</legend>
      <Rows onMove={move}>
        {item.pairs.map((p, i) => (
          <Row
            key={rows.keys[i]}
            id={`${item.id}-pair-${rows.keys[i]}`}
            index={i}
            name={say('pair {n}', { n: i + 1 })}
            onRemove={() => {
              rows.remove(i);
              edit('matching', (now) => ({ pairs: now.pairs.filter((_, n) => n !== i) }));
            }}
          >
            {(['left', 'right'] as const).map((side) => (
              <RichEditor
                key={side}
                line
                hideLabel
                className="flex-1"
                label={say('{what} side of pair {n}', { what: side === 'left' ? say('Left') : say('Right'), n: i + 1 })}
                value={p[side]}
                autoFocus={side === 'left' && fresh === rows.keys[i]}
                onFocus={focus}
                onCommit={(v) => pair(i, { [side]: v })}
                onEnter={() => toEmptyRow() || add(i + 1)}
                onMove={(by) => move(i, i + by)}
              />
            ))}
          </Row>
        ))}
      </Rows>
      {item.extraRights.map((r, i) => (
        <div key={i} className="flex items-start gap-1.5 pl-8">
          <span className="flex-1 pt-1 text-right text-[13.5px] text-ink-2">{say('fits nothing:')}</span>
          <RichEditor
            line
            hideLabel
            className="flex-1"
            label={say('Right side without a partner {n}', { n: i + 1 })}
            value={r}
            autoFocus={!r}
            onFocus={focus}
            onCommit={(v) => edit('matching', (now) => ({ extraRights: now.extraRights.map((x, n) => (n === i ? v : x)) }))}
          />
          <IconButton
            name={say('Take out the right side without a partner {n}', { n: i + 1 })}
            onClick={() => edit('matching', (now) => ({ extraRights: now.extraRights.filter((_, n) => n !== i) }))}
          >
            <X size={15} aria-hidden />
          </IconButton>
        </div>
      ))}
      <div className="flex flex-wrap gap-2">
        <Button look="quiet" onClick={() => add(item.pairs.length)}>
          <Plus size={15} aria-hidden /> {say('Add a pair')}
        </Button>
        <Button look="quiet" onClick={() => edit('matching', (now) => ({ extraRights: [...now.extraRights, ''] }))}>
          <Plus size={15} aria-hidden /> {say('Add a right side that fits nothing')}
        </Button>
      </div>
    </fieldset>
  );
}

/** Texts in an order: the steps of a sequence, the hints of an item. */
export function Texts({
  id,
  legend,
  name,
  texts,
  addWords,
  onChange,
}: {
  id: string;
  legend: string;
  name: string;
  texts: readonly string[];
  addWords: string;
  onChange: (make: (now: readonly string[]) => string[]) => void;
}) {
  const { focus } = useItemEdit();
  const [fresh, setFresh] = useState(-1);
  const rows = useRowKeys(texts.length);
  const add = (at: number): void => {
    setFresh(rows.insert(at));
    onChange((now) => [...now.slice(0, at), '', ...now.slice(at)]);
  };
  const remove = (at: number): void => {
    rows.remove(at);
    onChange((now) => now.filter((_, n) => n !== at));
  };
  const move = (from: number, to: number): void => {
    rows.move(from, to);
    onChange((now) => moved(now, from, to));
  };
  return (
    <fieldset className="grid min-w-0 gap-1.5">
      <legend className="mb-1 text-[13.5px] font-semibold">{legend}</legend>
      <Rows onMove={move}>
        {texts.map((s, i) => (
          <Row key={rows.keys[i]} id={`${id}-${name}-${rows.keys[i]}`} index={i} name={`${name} ${i + 1}`} onRemove={() => remove(i)}>
            <b className="mt-1 w-4 flex-none text-ink-2">{i + 1}</b>
            <RichEditor
              line
              hideLabel
              className="flex-1"
              label={`${name.charAt(0).toUpperCase()}${name.slice(1)} ${i + 1}`}
              value={s}
              autoFocus={fresh === rows.keys[i]}
              onFocus={focus}
              onCommit={(v) => onChange((now) => now.map((x, n) => (n === i ? v : x)))}
              onEnter={() => toEmptyRow() || add(i + 1)}
              onEmptyBackspace={() => remove(i)}
              onMove={(by) => move(i, i + by)}
            />
          </Row>
        ))}
      </Rows>
      <div>
        <Button look="quiet" onClick={() => add(texts.length)}>
          <Plus size={15} aria-hidden /> {addWords}
        </Button>
      </div>
    </fieldset>
  );
}

function Sequence({ item }: { item: ItemOf<'ordering'> }) {
  const { edit } = useItemEdit();
  return (
    <Texts
      id={item.id}
      legend={say('Steps in the right order')}
      name="step"
      addWords={say('Add a step')}
      texts={item.sequence}
      onChange={(make) => edit('ordering', (i) => ({ sequence: make(i.sequence) }))}
    />
  );
}

function Essay({ item }: { item: ItemOf<'essay'> }) {
  const { edit, focus } = useItemEdit();
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <RichEditor
        label={say('Model answer')}
        value={item.modelAnswer ?? ''}
        onFocus={focus}
        onCommit={(v) => edit('essay', () => ({ modelAnswer: v || undefined }))}
      />
      <RichEditor
        label={say('Rubric, for the marker')}
        value={item.rubric ?? ''}
        onFocus={focus}
        onCommit={(v) => edit('essay', () => ({ rubric: v || undefined }))}
      />
      <TypedNumber
        label={say('Lines to write on')}
        optional
        value={item.lines ?? null}
        min={1}
        max={200}
        onCommit={(n) => edit('essay', () => ({ lines: n === null ? undefined : Math.round(n) }))}
      />
    </div>
  );
}

const EDITORS: { readonly [K in Kind]: (p: { item: ItemOf<K> }) => ReactNode } = {
  'multiple-choice': Choice,
  'multiple-response': Choice,
  'true-false': Truth,
  'short-answer': Typed,
  numeric: Numeric,
  cloze: Gaps,
  matching: Pairs,
  ordering: Sequence,
  essay: Essay,
  information: () => null,
};

/** The fields of an item's own kind. */
export function KindFields({ item }: { item: Item }) {
  const Own = EDITORS[item.kind] as (p: { item: Item }) => ReactNode;
  return <Own item={item} />;
}
