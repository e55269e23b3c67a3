/**
 * Answers marked by a person, one at a time: points for each criterion of the rubric, or for the whole, and a comment. Going on keeps
 * what was given; what could not be kept stays here and is told.
 */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { answerLines, criteriaOf, type Decision, type Hand, type Item, lookUp } from '@zakuska/core';
import { useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../../api/client.js';
import { type Command, useCommands } from '../../ui/commands.js';
import { Button } from '../../ui/Button.js';
import { Field, Input, TextArea } from '../../ui/Field.js';
import { Rich } from '../../ui/Rich.js';
import { useAskBeforeClosing } from '../../ui/useAskBeforeClosing.js';
import { number, written } from '../../ui/figures.js';
import { type Attempt, decide, type Found, type Source } from '../sources.js';
import { Credits, stepsOf } from './Credits.js';
import { pointsText } from './words.js';
import { say } from '../../words/say.js';

/** An answer that waits, or that was marked. */
export interface Answer {
  attempt: Attempt;
  item: Item;
}
interface Given {
  points?: number | undefined;
  criteria: (number | null)[];
  comment: string;
}
const nameOfAnswer = ({ attempt, item }: Answer): string => `${attempt.id} ${item.id}`;
const numberOf = (typed: string): number | undefined => {
  const n = Number(typed.trim().replace(',', '.'));
  return typed.trim() && Number.isFinite(n) && n >= 0 ? n : undefined;
};

interface Props {
  source: Source;
  found: Found;
  /** All answers in the order in which they are gone through. */
  queue: readonly Answer[];
  /** The marks by hand that there are. */
  hands: ReadonlyMap<string, ReadonlyMap<string, Hand>>;
  /** What people are called while they are marked. */
  called: (a: Attempt) => string;
  mayMark: boolean;
  /** The marks are those of this person only: what others have marked is open still. */
  alone: boolean;
  /** The answer of somebody to begin with. */
  first?: string | undefined;
  onPlace: (answer: Answer) => void;
}
export function ByHand({ source, found, queue, hands, called, mayMark, alone, first, onPlace }: Props) {
  const queries = useQueryClient();
  const isDone = (a: Answer): boolean => hands.get(a.attempt.id)?.has(a.item.id) ?? false;
  const open = queue.filter((a) => !isDone(a) && (alone || a.attempt.marks[a.item.id]?.state === 'by-hand')).length;
  const [at, setAt] = useState(() => {
    const named = queue.find((a) => a.attempt.id === first);
    return nameOfAnswer((named ?? queue.find((a) => !isDone(a)) ?? queue[0]) as Answer);
  });
  const place = Math.max(
    0,
    queue.findIndex((a) => nameOfAnswer(a) === at),
  );
  const answer = queue[place] as Answer;
  const name = nameOfAnswer(answer);
  const { attempt, item } = answer;
  const criteria = useMemo(() => criteriaOf(item.kind === 'essay' ? item.rubric : undefined), [item]);
  const kept = hands.get(attempt.id)?.get(item.id);
  /** What was given here and is not kept yet, by answer. */
  const [unkept, setUnkept] = useState<Readonly<Record<string, Given>>>({});
  const given: Given = lookUp(unkept, name) ?? {
    points: kept?.points,
    criteria: kept?.criteria ?? criteria.map(() => null),
    comment: kept?.comment ?? '',
  };
  const keeping = useMutation({
    mutationFn: ({ d }: { d: Decision; of: string; sent: Given }) => decide(source, [d]),
    onSuccess: async (_, { of, sent }) => {
      // until it is seen among what is kept, the answer would look open
      await queries.invalidateQueries({ queryKey: ['results', source.id] });
      setUnkept(({ [of]: now, ...rest }) => (now === undefined || now === sent ? rest : { ...rest, [of]: now }));
    },
    onError: (e) => toast.error(say('The points were not kept: {words}', { words: wordsOf(e) })),
  });
  useAskBeforeClosing(Object.keys(unkept).length > 0);
  const put = (change: Partial<Given>): void => {
    if (mayMark) setUnkept((now) => ({ ...now, [name]: { ...given, ...change } }));
  };
  const tooMany = given.points !== undefined && given.points > item.points;
  const keep = (): void => {
    const sent = lookUp(unkept, name);
    if (!sent || sent.points === undefined || sent.points > item.points) return;
    const judged = criteria.length > 0 && sent.criteria.some((c) => c !== null);
    keeping.mutate({
      d: {
        type: 'hand',
        item: item.id,
        attempt: attempt.id,
        points: sent.points,
        ...(judged && { criteria: sent.criteria }),
        ...(sent.comment.trim() && { comment: sent.comment.trim() }),
      },
      of: name,
      sent,
    });
  };
  const comment = useRef<HTMLTextAreaElement>(null);
  const go = (to: Answer | undefined): void => {
    keep();
    if (!to) return;
    setAt(nameOfAnswer(to));
    onPlace(to);
    // digits give points again, whatever was typed in before
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  };
  const nextOpen = [...queue.slice(place + 1), ...queue.slice(0, place)].find((a) => !isDone(a) && !lookUp(unkept, nameOfAnswer(a)));
  const giveCriterion = (n: number, points: number | null): void => {
    const list = criteria.map((_, k) => (k === n ? points : (given.criteria[k] ?? null)));
    const sum = list.reduce<number>((s, p) => s + (p ?? 0), 0);
    put({ criteria: list, points: Math.min(item.points, sum) });
  };
  /** The criterion that the next digit is for. */
  const due = criteria.findIndex((_, n) => (given.criteria[n] ?? null) === null);
  const commands: Command[] = [
    {
      name: say('Give points'),
      keys: [...'0123456789'],
      shown: say('0 to 9'),
      keysOnly: true,
      run: (key) => {
        const n = due < 0 ? criteria.length - 1 : due;
        const criterion = criteria[n];
        const most = criterion?.points ?? item.points;
        const step = stepsOf(most).find((s) => s.key === key);
        if (!step) return;
        if (criterion) giveCriterion(n, step.share * most);
        else put({ points: step.share * most });
      },
    },
    { name: say('Keep, and go to the next that is open'), keys: ['Enter'], run: () => go(nextOpen) },
    { name: say('Keep, and go on'), keys: ['Ctrl Enter'], keysOnly: true, whileTyping: true, run: () => go(nextOpen) },
    { name: say('Next answer'), keys: ['J', 'ArrowRight'], run: () => go(queue[place + 1]) },
    { name: say('Answer before'), keys: ['K', 'ArrowLeft'], run: () => go(queue[place - 1]) },
    { name: say('Write a comment'), keys: ['C'], run: () => comment.current?.focus() },
  ];
  useCommands(commands);
  const phrases = useMemo(() => phrasesOf(found, item.id, given.comment), [found, item.id, given.comment]);
  const lines = answerLines(item, attempt.responses[item.id]);
  return (
    <section aria-label={say('One answer')} className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <div className="min-w-0">
        <div className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <h3 className="text-[17px] font-bold">{called(attempt)}</h3>
          <span className="text-[13px] text-ink-2" role="status">
            {say('{n} of {queue}{what}', { n: place + 1, queue: queue.length, what: open ? say(', {open} to mark', { open }) : say(', all are marked') })}
          </span>
        </div>
        <div className="min-h-40 rounded-lg border border-rule bg-sheet p-4 text-[16px]/[1.55] wrap-anywhere whitespace-pre-wrap" dir="auto">
          {lines.length ? lines.join('\n') : <span className="text-ink-2">{say('No answer.')}</span>}
        </div>
        {lines.length > 0 && (
          <p className="mt-1 text-[13px] text-ink-2">{say('{split} words', { split: lines.join(' ').split(/\s+/).filter(Boolean).length })}</p>
        )}
      </div>
      <div className="grid content-start gap-3">
        {criteria.length > 0 && (
          <ol className="grid gap-2" aria-label={say('Rubric')}>
            {criteria.map((c, n) => (
              <li
                key={n}
                className={`flex flex-wrap items-center justify-between gap-x-3 gap-y-1 rounded border px-2 py-1.5 ${n === due ? 'border-beet' : 'border-rule-2'}`}
              >
                <span className="min-w-32 flex-1 text-sm">{c.text}</span>
                <Credits
                  label={say('Points for: {c}', { c: c.text })}
                  points={c.points}
                  share={typeof given.criteria[n] === 'number' ? (given.criteria[n] ?? 0) / c.points : undefined}
                  disabled={!mayMark}
                  onGive={(share) => giveCriterion(n, share * c.points)}
                />
              </li>
            ))}
          </ol>
        )}
        {!criteria.length && (
          <Credits
            label={say('Points')}
            points={item.points}
            share={given.points === undefined ? undefined : given.points / item.points}
            disabled={!mayMark}
            onGive={(share) => put({ points: share * item.points })}
          />
        )}
        <PointsField key={name} points={given.points} most={item.points} wrong={tooMany} disabled={!mayMark} onPoints={(points) => put({ points })} />
        <Field label={say('Comment for the learner')}>
          {(id) => <TextArea id={id} ref={comment} rows={3} disabled={!mayMark} value={given.comment} onChange={(e) => put({ comment: e.target.value })} />}
        </Field>
        {phrases.length > 0 && mayMark && (
          <div className="flex flex-wrap gap-1.5" role="group" aria-label={say('Comments that were given before')}>
            {phrases.map((p) => (
              <button
                key={p}
                type="button"
                title={p}
                className="max-w-full cursor-pointer truncate rounded-full border border-rule bg-sheet px-2.5 py-0.5 text-left text-[13px] hover:border-ink-2"
                onClick={() => put({ comment: given.comment.trim() ? `${given.comment.trim()} ${p}` : p })}
              >
                {p}
              </button>
            ))}
          </div>
        )}
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => go(queue[place - 1])} disabled={place === 0}>
            {say('Back')}
          </Button>
          <Button look="primary" onClick={() => go(nextOpen ?? queue[place + 1])} keys="Enter">
            {nextOpen ? say('Keep, next open') : say('Keep')}
          </Button>
        </div>
        <p className="text-[13px] text-ink-2" aria-live="polite">
          {lookUp(unkept, name)
            ? given.points === undefined
              ? say('No points yet.')
              : keeping.isPending
                ? say('Being kept …')
                : say('Not kept yet: go on, or press Enter.')
            : kept
              ? say('Kept: {pointsText}.', { pointsText: pointsText(kept.points) })
              : ''}
        </p>
        {item.kind === 'essay' && item.modelAnswer && (
          <details className="text-sm">
            <summary className="cursor-pointer font-semibold">{say('Model answer')}</summary>
            <Rich className="mt-1" text={item.modelAnswer} />
          </details>
        )}
        {item.kind === 'essay' && item.rubric && !criteria.length && (
          <details className="text-sm" open>
            <summary className="cursor-pointer font-semibold">{say('Rubric')}</summary>
            <Rich className="mt-1" text={item.rubric} />
          </details>
        )}
      </div>
    </section>
  );
}

interface PointsProps {
  points: number | undefined;
  most: number;
  wrong: boolean;
  disabled: boolean;
  onPoints: (points: number | undefined) => void;
}
/** Points typed as they are written here; what is no number is not taken, and stays to be mended. */
function PointsField({ points, most, wrong, disabled, onPoints }: PointsProps) {
  const [typed, setTyped] = useState<string>();
  const shown = typed !== undefined && numberOf(typed) === points ? typed : points === undefined ? (typed ?? '') : number(points, 4);
  const error = wrong
    ? say('At most {written}.', { written: written(most) })
    : typed?.trim() && numberOf(typed) === undefined
      ? say('Type a number.')
      : undefined;
  return (
    <Field label={say('Points, of {written}', { written: written(most) })} error={error}>
      {(id, note) => (
        <Input
          id={id}
          aria-describedby={note}
          inputMode="decimal"
          className="w-24!"
          disabled={disabled}
          value={shown}
          onChange={(e) => {
            setTyped(e.target.value);
            onPoints(numberOf(e.target.value));
          }}
        />
      )}
    </Field>
  );
}

const MOST_PHRASES = 8;
/** Comments that were given to answers of an item, the commonest first; not those that stand in the comment already. */
function phrasesOf(found: Found, item: string, comment: string): string[] {
  const counts = new Map<string, number>();
  for (const { decision: d, takenBack } of found.decisions)
    if (!takenBack && d.type === 'hand' && d.item === item && d.comment) counts.set(d.comment, (counts.get(d.comment) ?? 0) + 1);
  return [...counts]
    .sort((a, b) => b[1] - a[1])
    .map(([c]) => c)
    .filter((c) => !comment.includes(c))
    .slice(0, MOST_PHRASES);
}
