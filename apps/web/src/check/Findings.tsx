/** What the checks find: of the item at hand in full, of the set, and of the other items in short. */
import {
  type Evidence,
  type Finding,
  findingKey,
  type Item,
  nameOf,
  type Operation,
  type Readability,
  ruleOf,
  type Section,
  type SetDocument,
} from '@zakuska/core';
import { memo, useMemo, useState, type ReactNode } from 'react';
import { Button } from '../ui/Button.js';
import { Input } from '../ui/Field.js';
import { Reading } from './Reading.js';
import { known, Say, say } from '../words/say.js';
import { retold } from '../words/retold.js';

const LOOK: Record<Finding['severity'], string> = { error: 'note error', warning: 'note', note: 'note info' };

/** More findings about several items are told in a line each: a set of near-copies has thousands. */
const MOST_FULL = 8;

/** So many numbers of items stand in one line. */
const MOST_NUMBERS = 60;

/** The evidence by what it says, in the order of the items. */
function byVerdict(items: readonly Item[], evidence: ReadonlyMap<string, Evidence>): Record<Evidence['verdict'], Evidence[]> {
  const out: Record<Evidence['verdict'], Evidence[]> = { contradicted: [], disputed: [], none: [], supported: [] };
  if (evidence.size)
    for (const i of items) {
      const e = evidence.get(i.id);
      if (e) out[e.verdict].push(e);
    }
  return out;
}

/** Drawn anew only when something of it changed. */
export const Findings = memo(function Findings({
  before,
  findings,
  reading,
  evidence,
  document: doc,
  current,
  passage,
  sentenceWords,
  hardMarks,
  onHardMarks,
  asideOf,
  unknown,
  alone = false,
  onAsideDone,
  mayEdit,
  onGo,
  perform,
}: {
  /** What stands before them. */
  before?: ReactNode;
  findings: readonly Finding[];
  reading: Readability | null;
  evidence: ReadonlyMap<string, Evidence>;
  document: SetDocument;
  current: Item | undefined;
  passage: Section | undefined;
  sentenceWords: number;
  hardMarks: boolean;
  onHardMarks: (on: boolean) => void;
  /** The rule whose finding of the current item is to be set aside: its reason is asked for. */
  asideOf: string | null;
  /** Nothing was checked yet. */
  unknown: boolean;
  /** In a dialog, where the item at hand is not beside it. */
  alone?: boolean;
  onAsideDone: () => void;
  mayEdit: boolean;
  onGo: (id: string, show?: 'evidence') => void;
  perform: (o: Operation) => boolean;
}) {
  const { items } = doc.set;
  const id = current?.id ?? '';
  // what is the same whichever item is at hand is computed once for the set: moving on is quick in long ones
  const names = useMemo(() => new Map(items.map((i, at) => [i.id, i.label ?? String(at + 1)])), [items]);
  const { single, several: ofSeveral } = useMemo(
    () => ({ single: findings.filter((f) => f.items.length === 1), several: findings.filter((f) => f.items.length !== 1) }),
    [findings],
  );
  const own = single.filter((f) => f.items[0] === id);
  // of several items: those that are about the one at hand stand with its own
  const several = [...ofSeveral.filter((f) => f.items.includes(id)), ...ofSeveral.filter((f) => !f.items.includes(id))];
  const ofSet = several.slice(0, MOST_FULL);
  const others = [...single.filter((f) => f.items[0] !== id), ...several.slice(MOST_FULL)];
  const { contradicted, disputed, none } = useMemo(() => byVerdict(items, evidence), [items, evidence]);
  const numbers = (list: readonly Evidence[]) => (
    <>
      {list.slice(0, MOST_NUMBERS).map((e, i) => (
        <span key={e.item}>
          {i > 0 && ', '}
          <button
            type="button"
            className="link -mx-0.5 px-0.5"
            aria-label={say('Item {name}', { name: name(e.item) })}
            onClick={() => onGo(e.item, 'evidence')}
          >
            {name(e.item)}
          </button>
        </span>
      ))}
      {list.length > MOST_NUMBERS && say(' and {n} more', { n: list.length - MOST_NUMBERS })}
    </>
  );
  const errors = others.filter((f) => f.severity === 'error');
  const rest = others.filter((f) => f.severity !== 'error');
  const aside = Object.keys(doc.dismissed ?? {}).length;
  const name = (of: string): string => names.get(of) ?? '';
  const line = (f: Finding) => (
    <li key={findingKey(f)}>
      <button type="button" className="cursor-pointer text-left hover:underline" onClick={() => onGo(f.items[0] ?? '')}>
        <b className="font-[650]">{name(f.items[0] ?? '')}</b>{' '}
        {f.code === 'key-missing' ? retold(f.message) : (known(ruleOf(f.code)?.name) ?? retold(f.message))}
      </button>
    </li>
  );
  return (
    <aside aria-label={say('Findings')} className={`grid content-start gap-4 ${alone ? '' : 'sticky top-0 max-h-full overflow-auto py-5'}`}>
      {before}
      {own.map((f) => (
        <Full key={findingKey(f)} finding={f} mayEdit={mayEdit} perform={perform} asking={asideOf === f.code} onAsked={onAsideDone} />
      ))}
      {contradicted.length > 0 && (
        <div className="note error">
          <Say text="<b>The source says otherwise</b> than the key of" values={{ b: (words) => <b className="font-[650]">{words}</b> }} />{' '}
          {numbers(contradicted)}
        </div>
      )}
      {disputed.length > 0 && (
        <div className="note">
          <Say text="<b>The source says both</b> of" values={{ b: (words) => <b className="font-[650]">{words}</b> }} /> {numbers(disputed)}
        </div>
      )}
      {none.length > 0 && (
        <div className="note info">
          <b className="font-[650]">{say('Not found in the source:')}</b> {numbers(none)}
        </div>
      )}
      {errors.length > 0 && (
        <div className="note error">
          <b className="font-[650]">{say('{errors, plural, one {# error} other {# errors}} elsewhere', { errors: errors.length })}</b>
          <ul className="mt-1 grid gap-0.5">{errors.slice(0, 30).map(line)}</ul>
        </div>
      )}
      {ofSet.map((f) => (
        <Full
          key={findingKey(f)}
          finding={f}
          mayEdit={mayEdit}
          perform={perform}
          asking={asideOf === f.code && f.items.includes(id)}
          onAsked={onAsideDone}
          onGo={f.items.length === 2 ? () => onGo(f.items.find((x) => x !== id) ?? '') : undefined}
        />
      ))}
      {rest.length > 0 && (
        <details className="text-[13.5px]">
          <summary className="cursor-pointer text-ink-2">
            {say('{rest, plural, one {# finding} other {# findings}} in other items', { rest: rest.length })}
          </summary>
          <ul className="mt-1 grid gap-1">{rest.slice(0, 200).map(line)}</ul>
        </details>
      )}
      {unknown && <p className="note info text-ink-2">{say('Checking …')}</p>}
      {!unknown && !findings.length && <p className="note info text-ink-2">{say('Nothing was found. Read each item, and mark it as checked with C.')}</p>}
      {reading && (
        <Reading
          item={current}
          passage={passage}
          set={reading}
          language={doc.set.language}
          year={doc.aim?.year}
          sentenceWords={sentenceWords}
          marked={hardMarks}
          onMark={onHardMarks}
        />
      )}
      {aside > 0 && (
        <Aside
          document={doc}
          mayEdit={mayEdit}
          perform={perform}
          nameOfItem={(id) => {
            const found = items.find((i) => i.id === id);
            return found ? nameOf(found, 40) : say('an item that is gone');
          }}
        />
      )}
    </aside>
  );
});

/** What the checks find of one item, below it where there is no room beside it. */
export function OwnFindings({
  findings,
  asideOf,
  ...of
}: {
  findings: readonly Finding[];
  mayEdit: boolean;
  perform: (o: Operation) => boolean;
  asideOf: string | null;
  onAsked: () => void;
}) {
  if (!findings.length) return null;
  return (
    <section aria-label={say('Findings of the item')} className="mt-3 grid gap-3">
      {findings.map((f) => (
        <Full key={findingKey(f)} finding={f} asking={asideOf === f.code} {...of} />
      ))}
    </section>
  );
}

function Full({
  finding: f,
  mayEdit,
  asking: askedFor,
  onAsked,
  perform,
  onGo,
}: {
  finding: Finding;
  mayEdit: boolean;
  /** The keyboard asks to set this one aside. */
  asking: boolean;
  onAsked: () => void;
  perform: (o: Operation) => boolean;
  onGo?: (() => void) | undefined;
}) {
  const [pressed, setAsking] = useState(false);
  // drawn with the key press that asks: what is typed right behind it must not fall before the field
  const asking = pressed || askedFor;
  const [reason, setReason] = useState('');
  const rule = ruleOf(f.code);
  return (
    <div className={LOOK[f.severity]}>
      <b className="font-[650]">{retold(f.message)}</b>{' '}
      {onGo && (
        <button type="button" className="link" onClick={onGo}>
          {say('Go there')}
        </button>
      )}
      <p className="text-[13.5px]">{known(rule?.why)}</p>
      <details className="text-[13px] text-ink-2">
        <summary className="cursor-pointer">{say('Source')}</summary>
        {rule?.source}
      </details>
      {mayEdit && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          {f.fix && (
            <Button onClick={() => perform({ type: 'all', label: retold(f.fix?.label ?? ''), operations: f.fix?.operations ?? [] })}>
              {retold(f.fix.label)}
            </Button>
          )}
          {f.severity !== 'error' && !asking && (
            <Button look="quiet" onClick={() => setAsking(true)}>
              {say('Set aside')}
            </Button>
          )}
        </div>
      )}
      {asking && (
        <form
          className="mt-1 flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            perform({ type: 'dismiss', finding: findingKey(f), reason: reason.trim() });
            onAsked();
          }}
        >
          <Input
            aria-label={say('Why it is all right')}
            autoFocus
            placeholder={say('Why it is all right')}
            onKeyDown={(e) => {
              if (e.key !== 'Escape') return;
              setAsking(false);
              onAsked();
            }}
            maxLength={500}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <Button type="submit">{say('Set aside')}</Button>
        </form>
      )}
    </div>
  );
}

/** What was set aside, with its reason, to be taken back in. */
function Aside({
  document: doc,
  mayEdit,
  perform,
  nameOfItem,
}: {
  document: SetDocument;
  mayEdit: boolean;
  perform: (o: Operation) => boolean;
  nameOfItem: (id: string) => string;
}) {
  const all = Object.entries(doc.dismissed ?? {});
  return (
    <details className="text-[13.5px] text-ink-2">
      <summary className="cursor-pointer">{say('{all} set aside', { all: all.length })}</summary>
      <ul className="mt-1 grid gap-1.5">
        {all.map(([key, reason]) => {
          const [code = '', id = ''] = key.split(' ');
          return (
            <li key={key}>
              {known(ruleOf(code)?.name)}: {nameOfItem(id)}
              {reason ? ` (${reason})` : ''}{' '}
              {mayEdit && (
                <button type="button" className="link" onClick={() => perform({ type: 'dismiss', finding: key, reason: null })}>
                  {say('Take back in')}
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </details>
  );
}
