/** Sets as lines of a table: opened, chosen, dragged into folders, and what else is done with one in its menu. */
import { shortDay } from '../ui/localTime.js';
import { useDraggable } from '@dnd-kit/react';
import { mayAs } from '@zakuska/core';
import { Copy, Ellipsis, FolderInput, GripVertical, Lock, Pencil, Share2, Trash2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Link } from 'react-router';
import type { SetSummary } from '../api/client.js';
import { stageOf } from './stageOf.js';
import { say } from '../words/say.js';

/** What may be done with a set from the list. */
export interface SetDeeds {
  rename: (s: SetSummary) => void;
  copy: (s: SetSummary) => void;
  move: (s: SetSummary) => void;
  share: (s: SetSummary) => void;
  bin: (s: SetSummary) => void;
}
interface Props {
  sets: readonly SetSummary[];
  chosen: ReadonlySet<string>;
  onChosen: (chosen: ReadonlySet<string>) => void;
  /** Names of folders that all sets of the list lie in, and that need not be said. */
  under: number;
  /** Whether dates are of the last opening. */
  opened: boolean;
  mayMake: boolean;
  deeds: SetDeeds;
}

export function SetTable({ sets, chosen, onChosen, under, opened, mayMake, deeds }: Props) {
  const all = sets.length > 0 && sets.every((s) => chosen.has(s.id));
  return (
    <div className="overflow-x-auto border-y border-rule bg-sheet">
      <table className="w-full table-fixed text-left">
        <colgroup>
          <col className="w-9" />
          <col />
          <col className="w-48 max-md:hidden" />
          <col className="w-56 max-md:hidden" />
          <col className="w-20 max-md:hidden" />
          <col className="w-20" />
        </colgroup>
        <thead className="text-[13px] text-ink-2">
          <tr className="border-b border-rule-2">
            <th className="py-1 pl-3">
              <input
                type="checkbox"
                className="accent-beet"
                aria-label={say('Choose all sets shown')}
                checked={all}
                onChange={() => onChosen(new Set(all ? [] : sets.map((s) => s.id)))}
              />
            </th>
            <th className="px-2 py-1 font-semibold">{say('Set')}</th>
            <th className="px-2 py-1 font-semibold max-md:hidden">{say('Stands at')}</th>
            <th className="px-2 py-1 font-semibold max-md:hidden">{say('Items')}</th>
            <th className="px-2 py-1 text-right font-semibold max-md:hidden">{opened ? say('Opened') : say('Changed')}</th>
            <th>
              <span className="sr-only">{say('More')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {sets.map((s) => (
            <SetRow
              key={s.id}
              set={s}
              chosen={chosen.has(s.id)}
              onChosen={() => {
                const next = new Set(chosen);
                if (!next.delete(s.id)) next.add(s.id);
                onChosen(next);
              }}
              under={under}
              opened={opened}
              mayMake={mayMake}
              deeds={deeds}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

type RowProps = Omit<Props, 'sets' | 'chosen' | 'onChosen'> & { set: SetSummary; chosen: boolean; onChosen: () => void };
function SetRow({ set: s, chosen, onChosen, under, opened, mayMake, deeds }: RowProps) {
  const mayEdit = mayAs(s.role, 'editor');
  const { ref, handleRef, isDragging } = useDraggable({ id: `set ${s.id}`, data: { set: s.id }, disabled: !mayEdit });
  const stage = stageOf(s);
  const path = s.path.slice(under);
  const menu = (
    [
      [say('Rename'), Pencil, deeds.rename, mayEdit],
      [say('Make a copy'), Copy, deeds.copy, mayMake],
      [say('Move to a folder'), FolderInput, deeds.move, mayEdit],
      [s.role === 'owner' ? say('Share') : say('Who sees it'), Share2, deeds.share, true],
      [say('Put into the bin'), Trash2, deeds.bin, s.role === 'owner'],
    ] as const
  ).filter(([, , , may]) => may);
  return (
    <tr
      ref={ref}
      className={`group border-rule-2 not-first:border-t ${chosen ? 'bg-beet-soft/60' : 'hover:bg-beet-soft/40'} ${isDragging ? 'opacity-60' : ''}`}
    >
      <td className="py-2 pl-3">
        <input type="checkbox" className="accent-beet" aria-label={say('Choose “{title}”', { title: s.title })} checked={chosen} onChange={onChosen} />
      </td>
      <td className="px-2 py-1.5">
        <span className="flex items-center gap-1.5">
          <Link to={`/sets/${s.id}/${stage.path}`} className="truncate text-base font-semibold hover:text-beet hover:underline">
            {s.title}
          </Link>
          {s.closed && <Lock size={13} aria-label={say('Shared with some only')} className="flex-none text-ink-2" />}
        </span>
        {/* where there is no room for columns */}
        <span className="block truncate text-[13px] md:hidden">
          <b className="font-semibold">{stage.name}</b> <span className="text-ink-2">{stage.detail}</span>
        </span>
        {path.length > 0 && <span className="block truncate text-[13px] text-ink-2">{path.join(' / ')}</span>}
      </td>
      <td className="truncate px-2 py-1.5 max-md:hidden">
        <span className="font-semibold">{stage.name}</span> <span className="text-[13.5px] text-ink-2">{stage.detail}</span>
      </td>
      <td className="truncate px-2 py-1.5 text-[13.5px] text-ink-2 max-md:hidden">
        {s.items
          ? `${say('{items, plural, one {# item} other {# items}}', { items: s.items })}, ${say('{points, plural, one {# point} other {# points}}', { points: s.points })}`
          : say('no items')}
        {s.withoutKey > 0 && <span className="text-brick"> {say('· {withoutKey} no key', { withoutKey: s.withoutKey })}</span>}
      </td>
      <td className="px-2 py-1.5 text-right text-[13.5px] whitespace-nowrap text-ink-2 max-md:hidden">
        {opened ? s.openedAt && shortDay(s.openedAt) : shortDay(s.updatedAt)}
      </td>
      <td className="pr-2">
        <span className="flex items-center justify-end">
          {mayEdit && (
            <span
              ref={handleRef}
              aria-hidden
              title={say('Drag into a folder')}
              className="grid size-6 cursor-grab touch-none place-items-center text-ink-2 opacity-0 group-hover:opacity-100"
            >
              <GripVertical size={15} />
            </span>
          )}
          <DropdownMenu.Root>
            <DropdownMenu.Trigger
              aria-label={say('More for “{title}”', { title: s.title })}
              className="grid size-8 cursor-pointer place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet"
            >
              <Ellipsis size={17} aria-hidden />
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content align="end" className="z-50 min-w-48 rounded-lg border border-rule bg-sheet p-1.5">
                {menu.map(([name, Icon, run]) => (
                  <DropdownMenu.Item
                    key={name}
                    className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 data-highlighted:bg-beet-soft data-highlighted:text-beet"
                    onSelect={() => run(s)}
                  >
                    <Icon size={15} aria-hidden /> {name}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </span>
      </td>
    </tr>
  );
}
