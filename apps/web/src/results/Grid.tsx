/** Learners against items: who got what, from most missed, and the item that is looked at. */
import { type Analysis, cautionIndices, counted, type GradeStep, gradeOf, type Item, nameOf, type QuizSet, type Rounding } from '@zakuska/core';
import { memo, type RefObject, useMemo, useRef, useState } from 'react';
import { Select } from '../ui/Field.js';
import { useRows, WHOLE } from '../ui/useRows.js';
import { number } from '../ui/figures.js';
import { ItemSheet } from './ItemSheet.js';
import { PersonSheet } from './PersonSheet.js';
import type { Attempt } from './sources.js';
import { LOOKS, SIGNS, WORDS } from './states.js';
import { takenOff } from './figuresWords.js';

/** What practice took, all items together. */
function practiceWords(practice: NonNullable<Attempt['practice']>): string {
  const all = Object.values(practice);
  const sum = (of: (p: (typeof all)[number]) => number): number => all.reduce((n, p) => n + of(p), 0);
  const hints = sum((p) => p.hints);
  return `${counted(
    sum((p) => p.tries),
    'try',
    'tries',
  )}${hints ? `, ${counted(hints, 'hint')}` : ''}, ${sum((p) => (p.first === 'right' ? 1 : 0))} right at once`;
}

interface Props {
  analysis: Analysis;
  attempts: Attempt[];
  /** The set with the keys that count. */
  set: QuizSet;
  grades: readonly GradeStep[] | undefined;
  rounding: Rounding | undefined;
  source: string;
  labelOf: (item: Item) => string;
}
/** How learners and items are put in order. */
const PEOPLE = { points: 'most points first', name: 'by name', time: 'as they handed in' } as const;
const ITEMS = { missed: 'most missed first', set: 'as in the set' } as const;
type ByPeople = keyof typeof PEOPLE;
type ByItems = keyof typeof ITEMS;

const ORDERS: Readonly<Record<ByPeople, (a: Attempt, b: Attempt) => number>> = {
  points: () => 0,
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  time: (a, b) => a.submittedAt.localeCompare(b.submittedAt),
};
/** px of a row, and of a column with what parts it from the next. */
const ROW = 28;
const COLUMN = 28;
/** Tables with more columns draw those in sight, so many at a time that a row is not drawn anew at every step. */
const WHOLE_COLUMNS = 60;
const STRIDE = 10;

/** The columns to draw, with px that stand for those on both sides. */
function useColumns(columns: readonly Item[], scroll: RefObject<HTMLElement | null>): { shown: readonly Item[]; before: number; after: number } {
  const { places } = useRows({
    count: columns.length,
    scroll,
    list: scroll,
    estimate: COLUMN,
    keyOf: (i) => columns[i]?.id ?? '',
    horizontal: true,
    whole: WHOLE_COLUMNS,
  });
  const all = columns.length <= WHOLE_COLUMNS;
  const first = all ? 0 : Math.floor((places[0] ?? 0) / STRIDE) * STRIDE;
  const end = all ? columns.length : Math.min(columns.length, Math.ceil(((places.at(-1) ?? 0) + 1) / STRIDE) * STRIDE);
  const shown = useMemo(() => columns.slice(first, end), [columns, first, end]);
  return { shown, before: first * COLUMN, after: (columns.length - end) * COLUMN };
}

export function Grid({ analysis, attempts: given, set, grades, rounding, source, labelOf: label }: Props) {
  const [people, setPeople] = useState<ByPeople>('points');
  const [items, setItems] = useState<ByItems>('missed');
  // they come with the most points first
  const attempts = useMemo(() => (people === 'points' ? given : given.toSorted(ORDERS[people])), [given, people]);
  const columns = useMemo(() => {
    if (items === 'set') return set.items.filter((i) => analysis.items.some((a) => a.item.id === i.id) || analysis.waiting.some((w) => w.id === i.id));
    // what waits for a person stands behind, and counts once nobody waits
    return [...analysis.items.toSorted((a, b) => a.figures.difficulty - b.figures.difficulty).map((i) => i.item), ...analysis.waiting];
  }, [analysis, items, set]);
  const [picked, setPicked] = useState<string>();
  const [person, setPerson] = useState<string>();
  const item = columns.find((i) => i.id === picked) ?? columns[0];
  const { maximum } = analysis;
  const caution = useMemo(() => cautionIndices(attempts.map((a) => analysis.items.map((i) => a.marks[i.item.id]?.state === 'right'))), [attempts, analysis]);
  const scroll = useRef<HTMLElement>(null);
  const body = useRef<HTMLTableSectionElement>(null);
  const { places, before, after, measure } = useRows({ count: attempts.length, scroll, list: body, estimate: ROW, keyOf: (i) => attempts[i]?.id ?? '' });
  const across = useColumns(columns, scroll);
  const wide = across.shown.length + (across.before ? 1 : 0) + (across.after ? 1 : 0) + (grades ? 3 : 2);
  return (
    <div className="grid grid-cols-1 items-start gap-6 xl:grid-cols-[minmax(0,1fr)_370px]">
      <div className="grid min-w-0 gap-2">
        <div className="flex flex-wrap gap-x-4 gap-y-1 text-sm">
          <label className="flex items-center gap-2">
            Learners
            <Select className="w-auto!" value={people} onChange={(e) => setPeople(e.target.value as ByPeople)}>
              {(Object.keys(PEOPLE) as ByPeople[]).map((k) => (
                <option key={k} value={k}>
                  {PEOPLE[k]}
                </option>
              ))}
            </Select>
          </label>
          <label className="flex items-center gap-2">
            Items
            <Select className="w-auto!" value={items} onChange={(e) => setItems(e.target.value as ByItems)}>
              {(Object.keys(ITEMS) as ByItems[]).map((k) => (
                <option key={k} value={k}>
                  {ITEMS[k]}
                </option>
              ))}
            </Select>
          </label>
        </div>
        <section
          ref={scroll}
          className={`relative border border-rule bg-sheet px-2.5 pb-2.5 ${attempts.length > WHOLE ? 'max-h-[70vh] overflow-auto' : 'overflow-x-auto'}`}
          tabIndex={0}
          aria-label="Learners and items"
        >
          <table
            className="w-full border-separate border-spacing-0.5 text-[13px]"
            aria-rowcount={attempts.length + 1}
            aria-colcount={columns.length + (grades ? 3 : 2)}
          >
            <thead className="sticky top-0 z-10 bg-sheet">
              <tr>
                <th className="sticky left-0 bg-sheet px-1 pt-2.5 text-left font-semibold text-ink-2">Learner</th>
                <Beside px={across.before} />
                {across.shown.map((i) => (
                  <th key={i.id} className="p-0 pt-2.5">
                    <button
                      type="button"
                      aria-pressed={i.id === item?.id}
                      aria-label={`Item ${label(i)}: ${nameOf(i, 60)}`}
                      onClick={() => setPicked(i.id)}
                      className={`h-7 w-full min-w-6 cursor-pointer rounded font-semibold hover:bg-beet-soft ${i.id === item?.id ? 'text-beet outline-2 -outline-offset-1 outline-beet' : 'text-ink-2'}`}
                    >
                      {label(i)}
                    </button>
                  </th>
                ))}
                <Beside px={across.after} />
                <th className="px-1 pt-2.5 text-right font-semibold whitespace-nowrap text-ink-2">of {number(maximum)}</th>
                {grades && <th className="px-1 pt-2.5 text-left font-semibold text-ink-2">Grade</th>}
              </tr>
            </thead>
            <tbody ref={body}>
              {before > 0 && <Gap wide={wide} height={before} />}
              {places.map((n) => (
                <Row
                  key={attempts[n]?.id}
                  at={n}
                  of={attempts[n] as Attempt}
                  columns={across.shown}
                  before={across.before}
                  after={across.after}
                  labelOf={label}
                  grade={grades && (maximum ? gradeOf((attempts[n] as Attempt).points / maximum, grades) : '')}
                  onOpen={setPerson}
                  measure={measure}
                />
              ))}
              {after > 0 && <Gap wide={wide} height={after} />}
            </tbody>
          </table>
        </section>
      </div>
      {item && <ItemSheet item={item} label={label(item)} attempts={attempts} analysis={analysis} source={source} />}
      {person !== undefined && (
        <PersonSheet
          results={{ set, sittings: attempts, grades, rounding }}
          at={attempts.findIndex((a) => a.id === person)}
          source={source}
          caution={caution}
          error={analysis.figures.standardError}
          labelOf={label}
          onGo={(at) => setPerson(attempts[at]?.id)}
          onClose={() => setPerson(undefined)}
        />
      )}
    </div>
  );
}

/** Stands for rows that are out of sight. */
const Gap = ({ wide, height }: { wide: number; height: number }) => (
  <tr aria-hidden>
    <td colSpan={wide} style={{ height }} />
  </tr>
);

/** Stands for columns that are out of sight. */
const Beside = ({ px }: { px: number }) => (px > 0 ? <td aria-hidden style={{ minWidth: px - 2 }} /> : null);

interface RowProps {
  at: number;
  of: Attempt;
  columns: readonly Item[];
  before: number;
  after: number;
  labelOf: (item: Item) => string;
  grade: string | undefined;
  onOpen: (id: string) => void;
  measure: (row: Element | null) => void;
}
const Row = memo(function Row({ at, of: a, columns, before, after, labelOf: label, grade, onOpen, measure }: RowProps) {
  return (
    <tr ref={measure} data-index={at} aria-rowindex={at + 2}>
      <th scope="row" className="sticky left-0 max-w-72 truncate bg-sheet px-1 text-left font-normal">
        <button type="button" className="cursor-pointer rounded hover:text-beet hover:underline" onClick={() => onOpen(a.id)}>
          {a.name}
        </button>
        {a.attempt > 1 && <span className="ml-1.5 text-[12.5px] font-normal text-amber">attempt {a.attempt}</span>}
        {a.late && <span className="ml-1.5 text-[12.5px] text-amber">arrived late, answered in time</span>}
        {a.kept !== undefined && <span className="ml-1.5 text-[12.5px] text-amber">{takenOff(a.kept)}</span>}
        {a.byClock && <span className="ml-1.5 text-[12.5px] text-amber">ended by the clock</span>}
        {a.practice && <span className="ml-1.5 text-[12.5px] text-ink-2">{practiceWords(a.practice)}</span>}
        {a.sameDeviceAs && (
          <span className="ml-1.5 text-[12.5px] font-normal text-ink-2" title={`${a.sameDeviceAs} had handed in on this device before`}>
            device of {a.sameDeviceAs}
          </span>
        )}
      </th>
      <Beside px={before} />
      {columns.map((i) => {
        const state = a.marks[i.id]?.state ?? 'unanswered';
        return (
          <td key={i.id} className={`h-[26px] text-center ${LOOKS[state]}`} title={`${a.name}, item ${label(i)}: ${WORDS[state]}`}>
            <span aria-hidden>{SIGNS[state]}</span>
            <span className="sr-only">{WORDS[state]}</span>
          </td>
        );
      })}
      <Beside px={after} />
      <td className="px-1 text-right font-[650]">{number(a.points)}</td>
      {grade !== undefined && <td className="px-1 whitespace-nowrap">{grade}</td>}
    </tr>
  );
});
