/** Which items are shown, and what can be done with the whole set. */
import { type Filter, type Finding, isFiltering, type Item, kinds, ruleOf, type Work } from '@zakuska/core';
import { Eye, History, PenLine, Replace, SlidersHorizontal } from 'lucide-react';
import { memo, type ReactNode, type RefObject, useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { VERDICTS } from './EvidenceView.js';
import { inSentence, known, say } from '../words/say.js';

const BOX = 'h-7 min-w-0 rounded border border-rule bg-sheet px-1.5 text-[13.5px] text-ink hover:border-ink-2';
function Pick({
  name,
  value,
  onChange,
  children,
}: {
  name: string;
  value: string | undefined;
  onChange: (v: string | undefined) => void;
  children: ReactNode;
}) {
  return (
    <select
      aria-label={name}
      className={`${BOX} max-w-44 ${value ? 'border-beet! font-semibold text-beet' : ''}`}
      value={value ?? ''}
      onChange={(e) => onChange(e.target.value || undefined)}
    >
      {children}
    </select>
  );
}

const unique = (list: (string[] | undefined)[]): string[] => [...new Set(list.flatMap((l) => l ?? []))].sort((a, b) => a.localeCompare(b));

/** Drawn anew only when something of it changed. */
export const FilterBar = memo(function FilterBar({
  items,
  shown,
  findings,
  work,
  me,
  hasSource,
  filter,
  onFilter,
  finder,
  mayEdit,
  onAsk,
  onReplace,
  onPreview,
  onHistory,
  onChecks,
}: {
  items: readonly Item[];
  shown: number;
  findings: readonly Finding[];
  /** Who is to check what, where it is divided. */
  work: readonly Work[] | undefined;
  /** The account of the person. */
  me: string;
  hasSource: boolean;
  filter: Filter;
  onFilter: (f: Filter) => void;
  finder: RefObject<HTMLInputElement | null>;
  mayEdit: boolean;
  onAsk: () => void;
  onReplace: () => void;
  onPreview: () => void;
  onHistory: () => void;
  onChecks: () => void;
}) {
  const [unfolded, setUnfolded] = useState(false);
  const put = (part: Filter): void => onFilter({ ...filter, ...part });
  const { kindsHere, tags, outcomes } = useMemo(
    () => ({
      kindsHere: [...new Set(items.map((i) => i.kind))],
      tags: unique(items.map((i) => i.tags)),
      outcomes: unique(items.map((i) => i.outcomes)),
    }),
    [items],
  );
  const codes = useMemo(() => [...new Set(findings.map((f) => f.code))], [findings]);
  return (
    <section aria-label={say('Which items')} className="flex flex-wrap items-center gap-1.5 border-b border-rule bg-paper px-4 py-1 sm:px-6">
      <input
        ref={finder}
        aria-label={say('Words in the items')}
        placeholder={say('Words  ( / )')}
        value={filter.words ?? ''}
        onChange={(e) => put({ words: e.target.value || undefined })}
        className={`${BOX} w-24 placeholder:text-ink-2 sm:w-32`}
      />
      {/* on a phone the items have the room, until somebody filters by more than words */}
      <button
        type="button"
        aria-expanded={unfolded}
        className={`${BOX} cursor-pointer sm:hidden ${isFiltering({ ...filter, words: undefined }) ? 'border-beet! font-semibold text-beet' : ''}`}
        onClick={() => setUnfolded(!unfolded)}
      >
        {say('Filter')}
      </button>
      <span className={`contents ${unfolded ? '' : 'max-sm:hidden'}`}>
        <Pick name={say('State')} value={filter.state} onChange={(v) => put({ state: v as Filter['state'] })}>
          <option value="">{say('any state')}</option>
          <option value="open">{say('not checked')}</option>
          <option value="checked">{say('checked')}</option>
          <option value="error">{say('with an error')}</option>
          <option value="left-out">{say('left out')}</option>
        </Pick>
        {kindsHere.length > 1 && (
          <Pick name={say('Kind')} value={filter.kind} onChange={(v) => put({ kind: v as Filter['kind'] })}>
            <option value="">{say('any kind')}</option>
            {kindsHere.map((k) => (
              <option key={k} value={k}>
                {inSentence(known(kinds[k].name))}
              </option>
            ))}
          </Pick>
        )}
        {(codes.length > 0 || filter.finding) && (
          <Pick name={say('Finding')} value={filter.finding} onChange={(v) => put({ finding: v })}>
            <option value="">{say('findings or none')}</option>
            <option value="any">{say('with a finding')}</option>
            {codes.map((c) => (
              <option key={c} value={c}>
                {known(ruleOf(c)?.name) ?? say('Second opinion says otherwise')}
              </option>
            ))}
          </Pick>
        )}
        {work && (
          <Pick name={say('Who checks')} value={filter.work} onChange={(v) => put({ work: v })}>
            <option value="">{say('whoever checks')}</option>
            {work.map((w) => (
              <option key={w.account} value={w.account}>
                {w.account === me ? say('mine to check') : say('{name} checks', { name: w.name })}
              </option>
            ))}
          </Pick>
        )}
        {hasSource && (
          <Pick name={say('In the source')} value={filter.evidence} onChange={(v) => put({ evidence: v as Filter['evidence'] })}>
            <option value="">{say('in the source or not')}</option>
            {Object.entries(VERDICTS).map(([v, words]) => (
              <option key={v} value={v}>
                {inSentence(words)}
              </option>
            ))}
          </Pick>
        )}
        {outcomes.length > 0 && (
          <Pick name={say('Outcome')} value={filter.outcome} onChange={(v) => put({ outcome: v })}>
            <option value="">{say('any outcome')}</option>
            {outcomes.map((o) => (
              <option key={o}>{o}</option>
            ))}
          </Pick>
        )}
        {tags.length > 0 && (
          <Pick name={say('Tag')} value={filter.tag} onChange={(v) => put({ tag: v })}>
            <option value="">{say('any tag')}</option>
            {tags.map((t) => (
              <option key={t}>{t}</option>
            ))}
          </Pick>
        )}
      </span>
      <span role="status" className="px-1 text-[13.5px] text-ink-2 tabular-nums">
        {isFiltering(filter) ? say('{shown} of {items}', { shown, items: items.length }) : ''}
      </span>
      {isFiltering(filter) && (
        <Button look="quiet" onClick={() => onFilter({})}>
          {say('Show all')}
        </Button>
      )}
      <span className="flex-1" />
      {mayEdit && (
        <Tool name={say('Rework')} keys="W" onClick={onAsk}>
          <PenLine size={15} aria-hidden />
        </Tool>
      )}
      {mayEdit && (
        <Tool name={say('Replace')} keys="R" onClick={onReplace}>
          <Replace size={15} aria-hidden />
        </Tool>
      )}
      <Tool name={say('Preview')} keys="P" onClick={onPreview}>
        <Eye size={15} aria-hidden />
      </Tool>
      <Tool name={say('History')} keys="H" onClick={onHistory}>
        <History size={15} aria-hidden />
      </Tool>
      <Tool name={say('How it is checked')} onClick={onChecks}>
        <SlidersHorizontal size={15} aria-hidden />
      </Tool>
    </section>
  );
});

const Tool = ({ name, keys, onClick, children }: { name: string; keys?: string; onClick: () => void; children: ReactNode }) => (
  <button
    type="button"
    onClick={onClick}
    title={keys ? `${name} (${keys})` : name}
    className="inline-flex h-7 cursor-pointer items-center gap-1 rounded px-1.5 text-[13.5px] text-ink-2 hover:bg-beet-soft hover:text-beet"
  >
    {children}
    <span className="max-xl:sr-only">{name}</span>
  </button>
);

/** What can be done with the chosen items. */
export function SelectionBar({
  count,
  all,
  onAll,
  onNone,
  onChange,
  onCheck,
  onMove,
  onAsk,
  onCopy,
  onLeaveOut,
  onTakeIn,
  onDelete,
}: {
  count: number;
  all: number;
  onAll: () => void;
  onNone: () => void;
  onChange: () => void;
  onCheck: () => void;
  onMove: () => void;
  onAsk: () => void;
  onCopy: () => void;
  onLeaveOut: () => void;
  onTakeIn: () => void;
  onDelete: () => void;
}) {
  return (
    <section aria-label={say('Chosen items')} className="flex flex-wrap items-center gap-2 border-b border-beet bg-beet-soft px-4 py-1 sm:px-6">
      <b role="status" className="tabular-nums">
        {say('{count, plural, one {# item} other {# items}} chosen', { count })}
      </b>
      {count < all && (
        <Button look="quiet" onClick={onAll}>
          {say('Choose all {all}', { all })}
        </Button>
      )}
      <Button look="quiet" onClick={onNone}>
        {say('Choose none')}
      </Button>
      <span className="flex-1" />
      <Button look="primary" keys="B" onClick={onChange}>
        {say('Change …')}
      </Button>
      <Button keys="Shift C" onClick={onCheck}>
        {say('Mark as checked')}
      </Button>
      <Button onClick={onMove}>{say('Move …')}</Button>
      <Button onClick={onAsk}>{say('Rework …')}</Button>
      <Button onClick={onCopy}>{say('Copy')}</Button>
      <Button onClick={onLeaveOut}>{say('Leave out')}</Button>
      <Button onClick={onTakeIn}>{say('Take in')}</Button>
      <Button look="danger" onClick={onDelete}>
        {say('Delete')}
      </Button>
    </section>
  );
}
