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
/** Columns are drawn in blocks of so many, those of large tables only in sight: what comes into sight leaves the others as they are. */
const BLOCK = 5;
const WHOLE_COLUMNS = 60;
/** px of the other columns; the first is as wide as what stands in it, up to the widest. */
const [WIDEST, POINTS, GRADE] = [288, 56, 96];

/** The blocks of columns to draw, with px that stand for those on both sides. */
function useBlocks(columns: readonly Item[], scroll: RefObject<HTMLElement | null>): { shown: readonly (readonly Item[])[]; before: number; after: number } {
  const blocks = useMemo(() => Array.from({ length: Math.ceil(columns.length / BLOCK) }, (_, n) => columns.slice(n * BLOCK, (n + 1) * BLOCK)), [columns]);
  const { places, before, after } = useRows({
    count: blocks.length,
    scroll,
    list: scroll,
    estimate: BLOCK * COLUMN,
    keyOf: (n) => blocks[n]?.[0]?.id ?? '',
    horizontal: true,
    whole: WHOLE_COLUMNS / BLOCK,
    beyond: 1,
  });
  // the same list while the same stand in it: rows are drawn anew only where other columns come into sight
  const [first = 0, end = 0] = [places[0], (places.at(-1) ?? -1) + 1];
  const shown = useMemo(() => blocks.slice(first, end), [blocks, first, end]);
  return { shown, before, after };
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
        <People
          attempts={attempts}
          columns={columns}
          labelOf={label}
          item={item?.id}
          onItem={setPicked}
          onPerson={setPerson}
          maximum={maximum}
          grades={grades}
        />
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

interface PeopleProps {
  attempts: readonly Attempt[];
  columns: readonly Item[];
  labelOf: (item: Item) => string;
  /** The item that is looked at. */
  item: string | undefined;
  onItem: (id: string) => void;
  onPerson: (id: string) => void;
  maximum: number;
  grades: readonly GradeStep[] | undefined;
}
/**
 * The table itself. What it draws anew while it is scrolled is its own. Rows are boxes of their own with columns of said widths, not rows
 * of a table element: a new one moves and paints nothing but itself, so that a thousand by two hundred scroll from frame to frame.
 */
const People = memo(function People({ attempts, columns, labelOf: label, item, onItem, onPerson, maximum, grades }: PeopleProps) {
  const scroll = useRef<HTMLElement>(null);
  const body = useRef<HTMLDivElement>(null);
  const { places, before, after } = useRows({ count: attempts.length, scroll, list: body, estimate: ROW, keyOf: (i) => attempts[i]?.id ?? '' });
  const { shown, before: left, after: right } = useBlocks(columns, scroll);
  const name = useMemo(() => Math.min(WIDEST, 32 + 7.4 * Math.max(9, ...attempts.map((a) => a.name.length + notesOf(a).join('  ').length))), [attempts]);
  const fixed = { width: name };
  const large = columns.length > WHOLE_COLUMNS;
  return (
    <section
      ref={scroll}
      className={`relative border border-rule bg-sheet pb-2.5 ${attempts.length > WHOLE ? 'max-h-[70vh] overflow-auto' : 'overflow-x-auto'}`}
      tabIndex={0}
      aria-label="Learners and items"
    >
      <div
        role="table"
        aria-label="Learners and items"
        className="text-[13px]"
        style={{ minWidth: name + columns.length * COLUMN + POINTS + (grades ? GRADE : 0) + 12 }}
        aria-rowcount={attempts.length + 1}
        aria-colcount={columns.length + (grades ? 3 : 2)}
      >
        <div role="rowgroup" className="sticky top-0 z-10 bg-sheet pt-2.5 pb-0.5">
          <div role="row" className={`${LINE} pr-2.5`}>
            <span role="columnheader" style={fixed} className={`${NAMED} leading-7 font-semibold text-ink-2`}>
              Learner
            </span>
            <Beside px={left} />
            {shown.map((block) => (
              <span role="presentation" key={block[0]?.id} className={CELLS} style={{ flexGrow: large ? 0 : block.length }}>
                {block.map((i) => (
                  <span role="columnheader" key={i.id} className={CELL[large ? 'fixed' : 'stretched']}>
                    <button
                      type="button"
                      aria-pressed={i.id === item}
                      aria-label={`Item ${label(i)}: ${nameOf(i, 60)}`}
                      onClick={() => onItem(i.id)}
                      className={`h-7 w-full min-w-6 cursor-pointer rounded font-semibold hover:bg-beet-soft ${i.id === item ? 'text-beet outline-2 -outline-offset-1 outline-beet' : 'text-ink-2'}`}
                    >
                      {label(i)}
                    </button>
                  </span>
                ))}
              </span>
            ))}
            <Beside px={right} />
            <span role="columnheader" className="w-14 shrink-0 px-1 text-right font-semibold whitespace-nowrap text-ink-2">
              of {number(maximum)}
            </span>
            {grades && (
              <span role="columnheader" className="w-24 shrink-0 px-1 font-semibold text-ink-2">
                Grade
              </span>
            )}
          </div>
        </div>
        <div role="rowgroup" ref={body} style={{ paddingTop: before, paddingBottom: after }}>
          {places.map((n) => (
            <Row
              key={attempts[n]?.id}
              at={n}
              of={attempts[n] as Attempt}
              blocks={shown}
              before={left}
              after={right}
              wide={name}
              large={large}
              labelOf={label}
              grade={grades && (maximum ? gradeOf((attempts[n] as Attempt).points / maximum, grades) : '')}
              onOpen={onPerson}
            />
          ))}
        </div>
      </div>
    </section>
  );
});
/** A row, the name in front of it, a block of its cells, and a cell. */
const LINE = 'flex items-center gap-0.5';
const NAMED = 'sticky left-0 shrink-0 self-stretch bg-sheet pr-1 pl-3.5';
const CELLS = 'flex min-w-0 gap-0.5';
const CELL = { stretched: 'min-w-[26px] flex-1', fixed: 'w-[26px] shrink-0' } as const;

/** Stands for columns that are out of sight. */
const Beside = ({ px }: { px: number }) => (px > 0 ? <span role="presentation" className="shrink-0" style={{ width: px - 2 }} /> : null);

/** What is to be known of an attempt beside its name. */
const notesOf = (a: Attempt): string[] => [
  ...(a.attempt > 1 ? [`attempt ${a.attempt}`] : []),
  ...(a.late ? ['arrived late, answered in time'] : []),
  ...(a.kept === undefined ? [] : [takenOff(a.kept)]),
  ...(a.byClock ? ['ended by the clock'] : []),
  ...(a.practice ? [practiceWords(a.practice)] : []),
  ...(a.sameDeviceAs ? [`device of ${a.sameDeviceAs}`] : []),
];

interface RowProps {
  at: number;
  of: Attempt;
  blocks: readonly (readonly Item[])[];
  before: number;
  after: number;
  /** px of the name. */
  wide: number;
  /** Columns are as wide as they are said to be. */
  large: boolean;
  labelOf: (item: Item) => string;
  grade: string | undefined;
  onOpen: (id: string) => void;
}
const Row = memo(function Row({ at, of: a, blocks, before, after, wide, large, labelOf, grade, onOpen }: RowProps) {
  const notes = notesOf(a);
  return (
    <div role="row" data-index={at} aria-rowindex={at + 2} className={`${LINE} h-7 pr-2.5`}>
      <span role="rowheader" style={{ width: wide }} className={`${NAMED} truncate leading-7`} title={notes.join(', ') || undefined}>
        <button type="button" className="cursor-pointer rounded hover:text-beet hover:underline" onClick={() => onOpen(a.id)}>
          {a.name}
        </button>
        {notes.map((n) => (
          <span key={n} className="ml-1.5 text-[12.5px] text-amber">
            {n}
          </span>
        ))}
      </span>
      <Beside px={before} />
      {blocks.map((block) => (
        <Cells key={block[0]?.id} of={a} items={block} large={large} labelOf={labelOf} />
      ))}
      <Beside px={after} />
      <span role="cell" className="w-14 shrink-0 px-1 text-right font-[650]">
        {number(a.points)}
      </span>
      {grade !== undefined && (
        <span role="cell" className="w-24 shrink-0 truncate px-1">
          {grade}
        </span>
      )}
    </div>
  );
});

/** What somebody got on some items. */
const Cells = memo(function Cells({ of: a, items, large, labelOf }: { of: Attempt; items: readonly Item[]; large: boolean; labelOf: (item: Item) => string }) {
  return (
    <span role="presentation" className={CELLS} style={large ? undefined : { flexGrow: items.length }}>
      {items.map((i) => {
        const state = a.marks[i.id]?.state ?? 'unanswered';
        return (
          <span
            key={i.id}
            role="cell"
            className={`${CELL[large ? 'fixed' : 'stretched']} h-[26px] text-center leading-[26px] ${LOOKS[state]}`}
            aria-label={WORDS[state]}
            title={`${a.name}, item ${labelOf(i)}: ${WORDS[state]}`}
          >
            {SIGNS[state]}
          </span>
        );
      })}
    </span>
  );
});
