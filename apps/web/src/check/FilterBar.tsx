/** Which items are shown, and what can be done with the whole set. */
import { counted, type Filter, type Finding, isFiltering, type Item, kinds, ruleOf, type Work } from '@zakuska/core';
import { Eye, History, PenLine, Replace, SlidersHorizontal } from 'lucide-react';
import { memo, type ReactNode, type RefObject, useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { VERDICTS } from './EvidenceView.js';

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
    <section aria-label="Which items" className="flex flex-wrap items-center gap-1.5 border-b border-rule bg-paper px-4 py-1 sm:px-6">
      <input
        ref={finder}
        aria-label="Words in the items"
        placeholder="Words  ( / )"
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
        Filter
      </button>
      <span className={`contents ${unfolded ? '' : 'max-sm:hidden'}`}>
        <Pick name="State" value={filter.state} onChange={(v) => put({ state: v as Filter['state'] })}>
          <option value="">any state</option>
          <option value="open">not checked</option>
          <option value="checked">checked</option>
          <option value="error">with an error</option>
          <option value="left-out">left out</option>
        </Pick>
        {kindsHere.length > 1 && (
          <Pick name="Kind" value={filter.kind} onChange={(v) => put({ kind: v as Filter['kind'] })}>
            <option value="">any kind</option>
            {kindsHere.map((k) => (
              <option key={k} value={k}>
                {kinds[k].name.toLowerCase()}
              </option>
            ))}
          </Pick>
        )}
        {(codes.length > 0 || filter.finding) && (
          <Pick name="Finding" value={filter.finding} onChange={(v) => put({ finding: v })}>
            <option value="">findings or none</option>
            <option value="any">with a finding</option>
            {codes.map((c) => (
              <option key={c} value={c}>
                {ruleOf(c)?.name ?? 'Second opinion says otherwise'}
              </option>
            ))}
          </Pick>
        )}
        {work && (
          <Pick name="Who checks" value={filter.work} onChange={(v) => put({ work: v })}>
            <option value="">whoever checks</option>
            {work.map((w) => (
              <option key={w.account} value={w.account}>
                {w.account === me ? 'mine to check' : `${w.name} checks`}
              </option>
            ))}
          </Pick>
        )}
        {hasSource && (
          <Pick name="In the source" value={filter.evidence} onChange={(v) => put({ evidence: v as Filter['evidence'] })}>
            <option value="">in the source or not</option>
            {Object.entries(VERDICTS).map(([v, words]) => (
              <option key={v} value={v}>
                {words.charAt(0).toLowerCase() + words.slice(1)}
              </option>
            ))}
          </Pick>
        )}
        {outcomes.length > 0 && (
          <Pick name="Outcome" value={filter.outcome} onChange={(v) => put({ outcome: v })}>
            <option value="">any outcome</option>
            {outcomes.map((o) => (
              <option key={o}>{o}</option>
            ))}
          </Pick>
        )}
        {tags.length > 0 && (
          <Pick name="Tag" value={filter.tag} onChange={(v) => put({ tag: v })}>
            <option value="">any tag</option>
            {tags.map((t) => (
              <option key={t}>{t}</option>
            ))}
          </Pick>
        )}
      </span>
      <span role="status" className="px-1 text-[13.5px] text-ink-2 tabular-nums">
        {isFiltering(filter) ? `${shown} of ${items.length}` : ''}
      </span>
      {isFiltering(filter) && (
        <Button look="quiet" onClick={() => onFilter({})}>
          Show all
        </Button>
      )}
      <span className="flex-1" />
      {mayEdit && (
        <Tool name="Rework" keys="W" onClick={onAsk}>
          <PenLine size={15} aria-hidden />
        </Tool>
      )}
      {mayEdit && (
        <Tool name="Replace" keys="R" onClick={onReplace}>
          <Replace size={15} aria-hidden />
        </Tool>
      )}
      <Tool name="Preview" keys="P" onClick={onPreview}>
        <Eye size={15} aria-hidden />
      </Tool>
      <Tool name="History" keys="H" onClick={onHistory}>
        <History size={15} aria-hidden />
      </Tool>
      <Tool name="How it is checked" onClick={onChecks}>
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
    <section aria-label="Chosen items" className="flex flex-wrap items-center gap-2 border-b border-beet bg-beet-soft px-4 py-1 sm:px-6">
      <b role="status" className="tabular-nums">
        {counted(count, 'item')} chosen
      </b>
      {count < all && (
        <Button look="quiet" onClick={onAll}>
          Choose all {all}
        </Button>
      )}
      <Button look="quiet" onClick={onNone}>
        Choose none
      </Button>
      <span className="flex-1" />
      <Button look="primary" keys="B" onClick={onChange}>
        Change …
      </Button>
      <Button keys="Shift C" onClick={onCheck}>
        Mark as checked
      </Button>
      <Button onClick={onMove}>Move …</Button>
      <Button onClick={onAsk}>Rework …</Button>
      <Button onClick={onCopy}>Copy</Button>
      <Button onClick={onLeaveOut}>Leave out</Button>
      <Button onClick={onTakeIn}>Take in</Button>
      <Button look="danger" onClick={onDelete}>
        Delete
      </Button>
    </section>
  );
}
