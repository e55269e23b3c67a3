/** Heads of the columns: what a press sorts by, and which are shown. */
import { ArrowDownNarrowWide, Columns3 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { columns, templateOf, widthOf } from './columns.js';
import { say } from '../words/say.js';

interface Props {
  /** The box that chooses all; undefined where rows have none. */
  all: { chosen: boolean; toggle: () => void } | undefined;
  shown: readonly string[];
  onShown: (shown: string[]) => void;
  sort: string;
  onSort: (sort: string) => void;
}
export function ColumnHead({ all, shown, onShown, sort, onSort }: Props) {
  return (
    <div className="flex items-center gap-2 border-b border-rule bg-paper px-4 text-[13px] text-ink-2" style={{ minWidth: `${widthOf(shown) + 4}rem` }}>
      {all && (
        <input type="checkbox" className="flex-none accent-beet" aria-label={say('Choose all that were found')} checked={all.chosen} onChange={all.toggle} />
      )}
      <span className="grid flex-1 items-center gap-x-3" style={{ gridTemplateColumns: templateOf(shown) }}>
        <span className="py-1 font-semibold">{say('Question')}</span>
        {shown.map((c) => {
          const column = columns[c];
          if (!column) return null;
          const { name, sort: by, figure } = column;
          const place = figure ? 'justify-self-end' : 'justify-self-start';
          if (by === undefined)
            return (
              <span key={c} className={`truncate font-semibold ${place}`}>
                {name}
              </span>
            );
          return (
            <button
              key={c}
              type="button"
              aria-pressed={sort === by}
              className={`flex min-h-7 cursor-pointer items-center gap-1 truncate font-semibold hover:text-beet ${place} ${sort === by ? 'text-beet' : ''}`}
              onClick={() => onSort(sort === by ? '' : by)}
            >
              {name} {sort === by && <ArrowDownNarrowWide size={13} aria-hidden />}
            </button>
          );
        })}
      </span>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={say('Columns')}
          title={say('Columns')}
          className="grid size-7 flex-none cursor-pointer place-items-center rounded hover:bg-beet-soft hover:text-beet"
        >
          <Columns3 size={15} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="z-50 max-h-[70vh] min-w-44 overflow-auto rounded-lg border border-rule bg-sheet p-1.5 text-sm">
            {Object.entries(columns).map(([id, { name }]) => (
              <DropdownMenu.CheckboxItem
                key={id}
                checked={shown.includes(id)}
                // several are chosen in one go
                onSelect={(e) => e.preventDefault()}
                onCheckedChange={(on) => onShown(Object.keys(columns).filter((c) => (c === id ? on : shown.includes(c))))}
                className="grid cursor-pointer grid-cols-[18px_1fr] rounded px-2 py-1 data-highlighted:bg-beet-soft data-highlighted:text-beet"
              >
                <span aria-hidden>{shown.includes(id) ? '✓' : ''}</span> {name}
              </DropdownMenu.CheckboxItem>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}
