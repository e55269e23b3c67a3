/** A line of the order: an item, chosen, dragged, moved, taken out; and the head of a part. */
import { useDraggable, useDroppable } from '@dnd-kit/react';
import { isQuestion, type Item, kinds, nameOf, type Section } from '@zakuska/core';
import { ArrowDown, ArrowUp, GripVertical, Lock, Pencil, Trash2, Ungroup } from 'lucide-react';
import type { ReactNode } from 'react';
import { known, say } from '../words/say.js';

function Icon({ name, off = false, onClick, children }: { name: string; off?: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name.replace(/:.*/, '')}
      disabled={off}
      onClick={onClick}
      className="grid size-8 cursor-pointer place-items-center rounded text-ink-2 hover:bg-beet-soft hover:text-beet disabled:opacity-30"
    >
      {children}
    </button>
  );
}

interface RowProps {
  item: Item;
  at: number;
  count: number;
  current: boolean;
  chosen: boolean;
  leftOut: boolean;
  mayEdit: boolean;
  onFocus: () => void;
  onChoose: () => void;
  /** Goes on by so many lines. */
  onGo: (by: number) => void;
  onMove: (to: number) => void;
  onRemove: () => void;
}
export function ArrangeRow({ item, at, count, current, chosen, leftOut, mayEdit, onFocus, onChoose, onGo, onMove, onRemove }: RowProps) {
  const { ref: drag, handleRef, isDragging } = useDraggable({ id: `item ${item.id}`, data: { item: item.id }, disabled: !mayEdit });
  const { ref: drop, isDropTarget } = useDroppable({ id: `place ${item.id}`, data: { at }, disabled: !mayEdit });
  return (
    <div
      ref={(e) => {
        drag(e);
        drop(e);
      }}
      data-row
      tabIndex={current ? 0 : -1}
      onFocus={onFocus}
      onKeyDown={(e) => {
        if (e.target !== e.currentTarget) return;
        const by = e.key === 'ArrowDown' || e.key === 'j' ? 1 : e.key === 'ArrowUp' || e.key === 'k' ? -1 : 0;
        if (e.key === 's' && mayEdit && !e.ctrlKey && !e.metaKey) return onChoose();
        if (!by) return;
        e.preventDefault();
        if (e.altKey && mayEdit) onMove(at + by);
        else onGo(by);
      }}
      className={`grid grid-cols-[auto_32px_minmax(0,1fr)_auto] items-center gap-3 px-3 py-1.5 sm:grid-cols-[auto_32px_minmax(0,1fr)_130px_80px_auto] ${chosen ? 'bg-beet-soft' : current ? 'bg-beet-soft/60' : ''} ${leftOut ? 'text-ink-2 line-through' : ''} ${isDropTarget ? 'shadow-[inset_0_2px_0_var(--beet)]' : ''} ${isDragging ? 'opacity-60' : ''}`}
    >
      {mayEdit ? (
        <span className="flex items-center gap-1">
          <span
            ref={handleRef}
            aria-hidden
            title={say('Drag, or Alt ↑ ↓')}
            className="grid size-6 cursor-grab touch-none place-items-center text-ink-2 hover:text-beet"
          >
            <GripVertical size={15} />
          </span>
          <input
            type="checkbox"
            className="accent-beet"
            tabIndex={-1}
            aria-label={say('Choose item {n}', { n: at + 1 })}
            checked={chosen}
            onChange={onChoose}
          />
        </span>
      ) : (
        <span />
      )}
      <span className="text-right font-[650] text-ink-2">{item.label ?? at + 1}</span>
      <span className="truncate">{nameOf(item, 120)}</span>
      <span className="hidden text-[13.5px] text-ink-2 sm:block">{known(kinds[item.kind].name)}</span>
      <span className="hidden text-right text-[13.5px] text-ink-2 sm:block">
        {isQuestion(item) ? say('{points, plural, one {# point} other {# points}}', { points: item.points }) : ''}
      </span>
      {mayEdit && (
        <span className="flex">
          <Icon name={say('Move up: item {n}', { n: at + 1 })} off={at === 0} onClick={() => onMove(at - 1)}>
            <ArrowUp size={16} aria-hidden />
          </Icon>
          <Icon name={say('Move down: item {n}', { n: at + 1 })} off={at === count - 1} onClick={() => onMove(at + 1)}>
            <ArrowDown size={16} aria-hidden />
          </Icon>
          <Icon name={say('Take out: item {n}', { n: at + 1 })} onClick={onRemove}>
            <Trash2 size={16} aria-hidden />
          </Icon>
        </span>
      )}
    </div>
  );
}

interface HeadProps {
  section: Section;
  items: number;
  points: number;
  first: boolean;
  last: boolean;
  mayEdit: boolean;
  onEdit: () => void;
  onMove: (by: -1 | 1) => void;
  onDissolve: () => void;
}
export function PartHead({ section, items, points, first, last, mayEdit, onEdit, onMove, onDissolve }: HeadProps) {
  const name = section.title || say('Part without a title');
  const notes = [section.passage && say('with a passage'), section.instructions && say('with instructions')].filter(Boolean).join(', ');
  return (
    <div className="flex flex-wrap items-center gap-x-3 bg-paper/60 px-3 pt-2 pb-1">
      <h2 className="font-bold text-beet">{name}</h2>
      {section.keepOrder && <Lock size={13} aria-label={say('keeps its order')} className="text-ink-2" />}
      <span className="text-[13.5px] text-ink-2">
        {say('{items, plural, one {# item} other {# items}}', { items })}, {say('{points, plural, one {# point} other {# points}}', { points })}
        {notes && `, ${notes}`}
      </span>
      <span className="flex-1" />
      {mayEdit && (
        <span className="flex">
          <Icon name={say('Change the part: {name}', { name })} onClick={onEdit}>
            <Pencil size={15} aria-hidden />
          </Icon>
          <Icon name={say('Move the part up: {name}', { name })} off={first} onClick={() => onMove(-1)}>
            <ArrowUp size={16} aria-hidden />
          </Icon>
          <Icon name={say('Move the part down: {name}', { name })} off={last} onClick={() => onMove(1)}>
            <ArrowDown size={16} aria-hidden />
          </Icon>
          <Icon name={say('Dissolve the part: {name}', { name })} onClick={onDissolve}>
            <Ungroup size={16} aria-hidden />
          </Icon>
        </span>
      )}
    </div>
  );
}
