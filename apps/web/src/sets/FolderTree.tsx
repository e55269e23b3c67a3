/** The folders of a workspace: chosen, opened, filled by drag, and all of it by keyboard. */
import { useDraggable, useDroppable } from '@dnd-kit/react';
import { ChevronRight, Folder as FolderIcon, FolderOpen, Layers, Lock } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { type Folder, type FolderTree as Tree, mayFill } from './useFolders.js';
import { say } from '../words/say.js';

/** What the list is of: a folder, sets in none, or everything. */
export type Place = string | 'none' | '';

interface Props {
  tree: Tree;
  place: Place;
  onPlace: (place: Place) => void;
  onRename: (f: Folder) => void;
  onRemove: (f: Folder) => void;
}
const KEPT = 'zakuska open folders';
const kept = (): Set<string> => {
  try {
    return new Set(JSON.parse(localStorage.getItem(KEPT) ?? '[]') as string[]);
  } catch {
    return new Set();
  }
};

export function FolderTree({ tree, place, onPlace, onRename, onRemove }: Props) {
  const [open, setOpen] = useState(kept);
  const list = useRef<HTMLUListElement>(null);
  const [focused, setFocused] = useState<string>();
  const turn = (id: string, to: boolean): void => {
    const next = new Set(open);
    if (to) next.add(id);
    else next.delete(id);
    setOpen(next);
    localStorage.setItem(KEPT, JSON.stringify([...next]));
  };
  // what is chosen is in sight
  useEffect(() => {
    setOpen((now) => {
      const next = new Set(now);
      for (let f = tree.byId.get(place)?.parent; f !== undefined; f = tree.byId.get(f)?.parent) next.add(f);
      return next.size === now.size ? now : next;
    });
  }, [place, tree]);
  const seen: { id: Place; folder?: Folder; depth: number }[] = [{ id: '', depth: 0 }];
  const walk = (folders: readonly Folder[], depth: number): void => {
    for (const folder of folders) {
      seen.push({ id: folder.id, folder, depth });
      if (open.has(folder.id)) walk(folder.children, depth + 1);
    }
  };
  walk(tree.top, 0);
  if (tree.top.length > 0) seen.push({ id: 'none', depth: 0 });
  const on = seen.some((s) => s.id === focused) ? focused : seen.some((s) => s.id === place) ? place : '';
  const go = (id: string | undefined): void => {
    if (id === undefined) return;
    setFocused(id);
    list.current?.querySelector<HTMLElement>(`[data-place="${id}"]`)?.focus();
  };
  return (
    <ul
      ref={list}
      role="tree"
      aria-label={say('Folders')}
      data-own-keys="all"
      className="grid grid-cols-[minmax(0,1fr)] gap-px text-[15px]"
      onKeyDown={(e) => {
        const at = seen.findIndex((s) => s.id === on);
        const { folder } = seen[at] ?? {};
        const opened = folder !== undefined && folder.children.length > 0 && open.has(folder.id);
        const keys: Record<string, (() => void) | undefined> = {
          ArrowDown: () => go(seen[at + 1]?.id),
          ArrowUp: () => go(seen[at - 1]?.id),
          Home: () => go(seen[0]?.id),
          End: () => go(seen.at(-1)?.id),
          ArrowRight: folder?.children.length ? () => (opened ? go(folder.children[0]?.id) : turn(folder.id, true)) : undefined,
          ArrowLeft: folder && (() => (opened ? turn(folder.id, false) : go(folder.parent))),
          Enter: () => onPlace(on ?? ''),
          ' ': () => onPlace(on ?? ''),
          F2: folder && mayFill(folder) ? () => onRename(folder) : undefined,
          Delete: folder && mayFill(folder) ? () => onRemove(folder) : undefined,
        };
        const run = keys[e.key];
        if (!run || e.ctrlKey || e.metaKey || e.altKey) return;
        e.preventDefault();
        run();
      }}
    >
      {seen.map(({ id, folder, depth }) => (
        <Line
          key={id}
          id={id}
          folder={folder}
          depth={depth}
          chosen={place === id}
          tabbed={on === id}
          opened={folder ? open.has(folder.id) : false}
          onTurn={() => folder && turn(folder.id, !open.has(folder.id))}
          onChoose={() => {
            setFocused(id);
            onPlace(id);
          }}
        />
      ))}
    </ul>
  );
}

interface LineProps {
  id: Place;
  folder: Folder | undefined;
  depth: number;
  chosen: boolean;
  tabbed: boolean;
  opened: boolean;
  onTurn: () => void;
  onChoose: () => void;
}
function Line({ id, folder, depth, chosen, tabbed, opened, onTurn, onChoose }: LineProps) {
  const { ref: drop, isDropTarget } = useDroppable({
    id: `into ${id}`,
    data: { into: id === 'none' || id === '' ? null : id },
    disabled: id === '' || (folder !== undefined && !mayFill(folder)),
  });
  const { ref: drag, isDragging } = useDraggable({ id: `folder ${id}`, data: { folder: id }, disabled: !folder || !mayFill(folder) });
  const name = folder?.name ?? (id === '' ? say('All sets') : say('In no folder'));
  const Icon = id === '' ? Layers : opened ? FolderOpen : FolderIcon;
  return (
    <li
      ref={(e) => {
        drop(e);
        drag(e);
      }}
      role="treeitem"
      aria-level={depth + 1}
      aria-selected={chosen}
      {...(folder?.children.length ? { 'aria-expanded': opened } : {})}
      aria-label={`${name}${folder ? `, ${say('{sets, plural, one {# set} other {# sets}}', { sets: folder.sets })}` : ''}${folder?.closed ? say(', shared with some only') : ''}`}
      data-place={id}
      tabIndex={tabbed ? 0 : -1}
      onClick={onChoose}
      style={{ paddingLeft: 4 + depth * 16 }}
      className={`flex min-h-8 cursor-pointer items-center gap-1.5 rounded pr-2 ${chosen ? 'bg-beet-soft font-semibold text-beet' : 'hover:bg-beet-soft/50'} ${isDropTarget ? 'outline-2 outline-beet' : ''} ${isDragging ? 'opacity-50' : ''}`}
    >
      <span
        aria-hidden
        className={`grid size-5 flex-none place-items-center ${folder?.children.length ? 'text-ink-2 hover:text-beet' : 'invisible'}`}
        onClick={(e) => {
          e.stopPropagation();
          onTurn();
        }}
      >
        <ChevronRight size={15} className={opened ? 'rotate-90' : ''} />
      </span>
      <Icon size={16} aria-hidden className="flex-none text-ink-2" />
      <span className="min-w-0 flex-1 truncate">{name}</span>
      {folder?.closed && <Lock size={13} aria-hidden className="flex-none text-ink-2" />}
      {folder && <span className="text-[13px] font-normal text-ink-2 tabular-nums">{folder.sets}</span>}
    </li>
  );
}
