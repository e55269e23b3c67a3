/** Learners against items: who got what, from most missed, and the item that is looked at. */
import { type Analysis, cautionIndices, type GradeStep, gradeOf, type Item, nameOf, type QuizSet, type Rounding } from '@zakuska/core';
import { type CSSProperties, memo, type PointerEvent, type ReactNode, type RefObject, useDeferredValue, useMemo, useRef, useState } from 'react';
import { Select } from '../ui/Field.js';
import { useRows, WHOLE } from '../ui/useRows.js';
import { number } from '../ui/figures.js';
import { ItemSheet } from './ItemSheet.js';
import { PersonSheet } from './PersonSheet.js';
import type { Attempt } from './sources.js';
import { LOOKS, SIGNS, WORDS } from './states.js';
import { takenOff } from './figuresWords.js';
import { say } from '../words/say.js';

/** What practice took, all items together. */
function practiceWords(practice: NonNullable<Attempt['practice']>): string {
  const all = Object.values(practice);
  const sum = (of: (p: (typeof all)[number]) => number): number => all.reduce((n, p) => n + of(p), 0);
  const hints = sum((p) => p.hints);
  return say('{sum, plural, one {# try} other {# tries}}{what}, {sum2} right at once', {
    sum: sum((p) => p.tries),
    what: hints ? `, ${say('{hints, plural, one {# hint} other {# hints}}', { hints })}` : '',
    sum2: sum((p) => (p.first === 'right' ? 1 : 0)),
  });
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
const PEOPLE = { points: say('most points first'), name: say('by name'), time: say('as they handed in') } as const;
const ITEMS = { missed: say('most missed first'), set: say('as in the set') } as const;
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
const BLOCK = 2;
const WHOLE_COLUMNS = 60;
/** px of the other columns; the first is as wide as what stands in it, up to the widest. */
const [WIDEST, POINTS, GRADE] = [288, 56, 96];

/** Columns that stand together, and the place of the first. */
interface Block {
  items: readonly Item[];
  first: number;
}
/** The blocks of columns to draw. */
function useBlocks(columns: readonly Item[], scroll: RefObject<HTMLElement | null>): readonly Block[] {
  const blocks = useMemo(
    () => Array.from({ length: Math.ceil(columns.length / BLOCK) }, (_, n) => ({ items: columns.slice(n * BLOCK, (n + 1) * BLOCK), first: n * BLOCK })),
    [columns],
  );
  const { places } = useRows({
    count: blocks.length,
    scroll,
    list: scroll,
    estimate: BLOCK * COLUMN,
    keyOf: (n) => blocks[n]?.items[0]?.id ?? '',
    horizontal: true,
    whole: WHOLE_COLUMNS / BLOCK,
    beyond: 2,
  });
  // the same list while the same stand in it: rows are drawn anew only where other columns come into sight
  const [first = 0, end = 0] = [places[0], (places.at(-1) ?? -1) + 1];
  return useMemo(() => blocks.slice(first, end), [blocks, first, end]);
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
            {say('Learners')}
            <Select className="w-auto!" value={people} onChange={(e) => setPeople(e.target.value as ByPeople)}>
              {(Object.keys(PEOPLE) as ByPeople[]).map((k) => (
                <option key={k} value={k}>
                  {PEOPLE[k]}
                </option>
              ))}
            </Select>
          </label>
          <label className="flex items-center gap-2">
            {say('Items')}
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
  // blocks are drawn before they come into sight, when there is time
  const shown = useDeferredValue(useBlocks(columns, scroll));
  const name = useMemo(() => Math.min(WIDEST, 32 + 7.4 * Math.max(9, ...attempts.map((a) => a.name.length + notesOf(a).join('  ').length))), [attempts]);
  const fixed = { width: name };
  const large = columns.length > WHOLE_COLUMNS;
  /** A cell is given its words when somebody points at it: so many would make each frame longer. */
  const tell = (e: PointerEvent): void => {
    const cell = (e.target as Element).closest<HTMLElement>('[data-first] > [role="cell"]');
    const block = cell?.parentElement;
    if (!cell || !block || cell.title) return;
    const of = attempts[Number(block.closest<HTMLElement>('[data-index]')?.dataset['index'])];
    const about = columns[Number(block.dataset['first']) + Array.from(block.children).indexOf(cell)];
    if (of && about)
      cell.title = say('{name}, item {label}: {getAttribute}', { name: of.name, label: label(about), getAttribute: cell.getAttribute('aria-label') ?? '' });
  };
  return (
    <section
      ref={scroll}
      className={`relative border border-rule bg-sheet pb-2.5 ${attempts.length > WHOLE ? 'max-h-[70vh] overflow-auto' : 'overflow-x-auto'}`}
      tabIndex={0}
      aria-label={say('Learners and items')}
      onPointerOver={tell}
    >
      <div
        role="table"
        aria-label={say('Learners and items')}
        className="text-[13px]"
        style={{ minWidth: name + columns.length * COLUMN + POINTS + (grades ? GRADE : 0) + 12 }}
        aria-rowcount={attempts.length + 1}
        aria-colcount={columns.length + (grades ? 3 : 2)}
      >
        <div role="rowgroup" className="sticky top-0 z-10 bg-sheet pt-2.5 pb-0.5">
          <div role="row" className={`${LINE} pr-2.5`}>
            <span role="columnheader" style={fixed} className={`${NAMED} leading-7 font-semibold text-ink-2`}>
              {say('Learner')}
            </span>
            <Columns count={columns.length} large={large}>
              {shown.map((block) => (
                <span role="presentation" key={block.items[0]?.id} className={CELLS[large ? 'fixed' : 'stretched']} style={placed(block, large)}>
                  {block.items.map((i) => (
                    <span role="columnheader" key={i.id} className={CELL[large ? 'fixed' : 'stretched']}>
                      <button
                        type="button"
                        aria-pressed={i.id === item}
                        aria-label={say('Item {label}: {name}', { label: label(i), name: nameOf(i, 60) })}
                        onClick={() => onItem(i.id)}
                        className={`h-7 w-full min-w-6 cursor-pointer rounded font-semibold hover:bg-beet-soft ${i.id === item ? 'text-beet outline-2 -outline-offset-1 outline-beet' : 'text-ink-2'}`}
                      >
                        {label(i)}
                      </button>
                    </span>
                  ))}
                </span>
              ))}
            </Columns>
            <span role="columnheader" className="w-14 shrink-0 px-1 text-right font-semibold whitespace-nowrap text-ink-2">
              {say('of {number}', { number: number(maximum) })}
            </span>
            {grades && (
              <span role="columnheader" className="w-24 shrink-0 px-1 font-semibold text-ink-2">
                {say('Grade')}
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
              columns={columns.length}
              wide={name}
              large={large}
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
const NAMED = 'sticky left-0 z-1 shrink-0 self-stretch bg-sheet pr-1 pl-3.5';
// in a large table a block lies where it belongs, so that one that comes or goes moves no other
const CELLS = { stretched: 'flex min-w-0 gap-0.5', fixed: 'absolute top-0 flex h-full gap-0.5 contain-strict' } as const;
const CELL = { stretched: 'min-w-[26px] flex-1', fixed: 'w-[26px] shrink-0' } as const;

/** Where a block lies among the columns of a row. */
const placed = ({ items, first }: Block, large: boolean): CSSProperties =>
  large ? { left: first * COLUMN, width: items.length * COLUMN - 2 } : { flexGrow: items.length };

/** The room of all columns of a row. */
const Columns = ({ count, large, children }: { count: number; large: boolean; children: ReactNode }) =>
  large ? (
    <span role="presentation" className="relative h-[26px] shrink-0" style={{ width: count * COLUMN - 2 }}>
      {children}
    </span>
  ) : (
    children
  );

/** What is to be known of an attempt beside its name. */
const notesOf = (a: Attempt): string[] => [
  ...(a.attempt > 1 ? [say('attempt {attempt}', { attempt: a.attempt })] : []),
  ...(a.late ? [say('arrived late, answered in time')] : []),
  ...(a.kept === undefined ? [] : [takenOff(a.kept)]),
  ...(a.byClock ? [say('ended by the clock')] : []),
  ...(a.practice ? [practiceWords(a.practice)] : []),
  ...(a.sameDeviceAs ? [say('device of {sameDeviceAs}', { sameDeviceAs: a.sameDeviceAs })] : []),
];

interface RowProps {
  at: number;
  of: Attempt;
  blocks: readonly Block[];
  /** How many columns there are, also of those out of sight. */
  columns: number;
  /** px of the name. */
  wide: number;
  /** Columns are as wide as they are said to be. */
  large: boolean;
  grade: string | undefined;
  onOpen: (id: string) => void;
}
const Row = memo(function Row({ at, of: a, blocks, columns, wide, large, grade, onOpen }: RowProps) {
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
      <Columns count={columns} large={large}>
        {blocks.map((block) => (
          <Cells key={block.items[0]?.id} of={a} block={block} large={large} />
        ))}
      </Columns>
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
const Cells = memo(function Cells({ of: a, block, large }: { of: Attempt; block: Block; large: boolean }) {
  return (
    <span role="presentation" data-first={block.first} className={CELLS[large ? 'fixed' : 'stretched']} style={placed(block, large)}>
      {block.items.map((i) => {
        const state = a.marks[i.id]?.state ?? 'unanswered';
        return (
          <span
            key={i.id}
            role="cell"
            className={`${CELL[large ? 'fixed' : 'stretched']} h-[26px] text-center leading-[26px] ${LOOKS[state]}`}
            aria-label={WORDS[state]}
          >
            {SIGNS[state]}
          </span>
        );
      })}
    </span>
  );
});
