/** Words and filters with counts beside each value. */
import { kinds, type Kind } from '@zakuska/core';
import { X } from 'lucide-react';
import { useState } from 'react';
import type { Schemas } from '../api/client.js';
import { Input, useTyped } from '../ui/Field.js';
import { type FilterName, filterNames } from './filters.js';
import { askedIn, type BankAsked, narrows } from './query.js';
import { known, say } from '../words/say.js';

const NAMES: Record<FilterName, string> = {
  folder: say('Folder'),
  set: say('Set'),
  kind: say('Kind'),
  outcome: say('Outcome'),
  tag: say('Tag'),
  level: say('Thinking level'),
  difficulty: say('Difficulty'),
  points: say('Points'),
  use: say('Use'),
  finding: say('Finding'),
  author: say('Made by'),
  state: say('State'),
};
const STATES: Record<string, string> = { open: say('open'), checked: say('checked'), 'left-out': say('left out') };
const USE: Record<string, string> = { used: say('answered already'), never: say('not used yet') };
const HARDNESS: Record<string, string> = { unknown: say('not known') };
/** What a value of a filter is called, where it is something else than the value. */
const CALLED: Partial<Record<FilterName, (value: string) => string | undefined>> = {
  kind: (v) => known(kinds[v as Kind].name),
  state: (v) => STATES[v],
  use: (v) => USE[v],
  difficulty: (v) => HARDNESS[v],
  points: (v) => say('{Number, plural, one {# point} other {# points}}', { Number: Number(v) }),
  folder: (v) => (v === 'none' ? say('No folder') : undefined),
};
const nameOf = (filter: FilterName, c: { value: string; name?: string }): string =>
  filter === 'finding' ? known(c.name ?? c.value) : c.name || (CALLED[filter]?.(c.value) ?? c.value);

/** So many values stand there before one asks for more. */
const FIRST = 8;

interface Props {
  asked: BankAsked;
  counts: Schemas['BankCounts'] | undefined;
  onAsked: (asked: BankAsked) => void;
}

export function Filters({ asked, counts, onAsked }: Props) {
  const words = useTyped(asked.q, (q) => onAsked({ ...asked, q }));
  const toggle = (name: FilterName, value: string): void =>
    onAsked({ ...asked, [name]: asked[name].includes(value) ? asked[name].filter((v) => v !== value) : [...asked[name], value] });
  return (
    <search className="grid content-start gap-4">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          words.onBlur();
        }}
      >
        <label className="grid gap-1 text-[13.5px] font-semibold">
          {say('Find')}
          <Input type="search" className="font-normal" placeholder={say('words, parts of words')} {...words} />
        </label>
      </form>
      {narrows(asked) && (
        <button type="button" className="link justify-self-start text-sm" onClick={() => onAsked({ ...askedIn(new URLSearchParams()), sort: asked.sort })}>
          <X size={14} className="inline" aria-hidden /> {say('Show everything')}
        </button>
      )}
      {filterNames.map((name) => (
        <Values key={name} name={name} values={counts?.[name] ?? []} chosen={asked[name]} onToggle={(v) => toggle(name, v)} />
      ))}
    </search>
  );
}

function Values({
  name,
  values,
  chosen,
  onToggle,
}: {
  name: FilterName;
  values: Schemas['BankCount'][];
  chosen: readonly string[];
  onToggle: (value: string) => void;
}) {
  const [all, setAll] = useState(false);
  // what is chosen stays in sight, even where nothing of it is left
  const gone = chosen.filter((v) => !values.some((c) => c.value === v)).map((value) => ({ value, count: 0 }));
  const list = [...values.filter((c) => c.value !== ''), ...gone];
  if (!list.length) return null;
  const shown = all ? list : list.filter((c, i) => i < FIRST || chosen.includes(c.value));
  return (
    <fieldset className="grid gap-0.5 text-sm">
      <legend className="mb-0.5 text-[13.5px] font-semibold">{NAMES[name]}</legend>
      {shown.map((c) => (
        <label key={c.value} className="grid min-h-6 cursor-pointer grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-2">
          <input type="checkbox" className="accent-beet" checked={chosen.includes(c.value)} onChange={() => onToggle(c.value)} />
          <span className="truncate" title={nameOf(name, c)}>
            {nameOf(name, c)}
          </span>
          <span className="text-[13px] text-ink-2 tabular-nums">{c.count}</span>
        </label>
      ))}
      {list.length > shown.length && (
        <button type="button" className="link justify-self-start text-[13px]" onClick={() => setAll(true)}>
          {say('{n} more', { n: list.length - shown.length })}
        </button>
      )}
    </fieldset>
  );
}
