/** What the checks find: of the item at hand in full, of the set, and of the other items in short. */
import { type Finding, findingKey, nameOf, type Operation, type Readability, ruleOf, type SetDocument } from '@zakuska/core';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { Input } from '../ui/Field.js';

const LOOK: Record<Finding['severity'], string> = { error: 'note error', warning: 'note', note: 'note info' };

export function Findings({
  findings,
  reading,
  document: doc,
  current,
  mayEdit,
  onGo,
  perform,
}: {
  findings: readonly Finding[];
  reading: Readability | null;
  document: SetDocument;
  current: string | undefined;
  mayEdit: boolean;
  onGo: (id: string) => void;
  perform: (o: Operation) => boolean;
}) {
  const { items } = doc.set;
  const own = findings.filter((f) => f.items.length === 1 && f.items[0] === current);
  const ofSet = findings.filter((f) => f.items.length !== 1);
  const others = findings.filter((f) => f.items.length === 1 && f.items[0] !== current);
  const errors = others.filter((f) => f.severity === 'error');
  const rest = others.filter((f) => f.severity !== 'error');
  const aside = Object.keys(doc.dismissed ?? {}).length;
  const name = (id: string): string => {
    const at = items.findIndex((i) => i.id === id);
    return items[at]?.label ?? String(at + 1);
  };
  const line = (f: Finding) => (
    <li key={findingKey(f)}>
      <button type="button" className="cursor-pointer text-left hover:underline" onClick={() => onGo(f.items[0] ?? '')}>
        <b className="font-[650]">{name(f.items[0] ?? '')}</b> {f.code === 'key-missing' ? f.message : (ruleOf(f.code)?.name ?? f.message)}
      </button>
    </li>
  );
  return (
    <aside aria-label="Findings" className="sticky top-0 hidden max-h-full gap-4 overflow-auto py-5 lg:grid">
      {own.map((f) => (
        <Full key={findingKey(f)} finding={f} mayEdit={mayEdit} perform={perform} />
      ))}
      {errors.length > 0 && (
        <div className="note error">
          <b className="font-[650]">
            {errors.length} {errors.length === 1 ? 'error' : 'errors'} elsewhere
          </b>
          <ul className="mt-1 grid gap-0.5">{errors.slice(0, 30).map(line)}</ul>
        </div>
      )}
      {ofSet.map((f) => (
        <Full key={findingKey(f)} finding={f} mayEdit={mayEdit} perform={perform} onGo={f.code === 'items-alike' ? () => onGo(f.items[1] ?? '') : undefined} />
      ))}
      {rest.length > 0 && (
        <details className="text-[13.5px]">
          <summary className="cursor-pointer text-ink-2">
            {rest.length} {rest.length === 1 ? 'finding' : 'findings'} in other items
          </summary>
          <ul className="mt-1 grid gap-1">{rest.slice(0, 200).map(line)}</ul>
        </details>
      )}
      {!findings.length && <p className="note info text-ink-2">Nothing was found. Read each item, and mark it as checked with C.</p>}
      {reading && <Reading reading={reading} language={doc.set.language} />}
      {aside > 0 && (
        <Aside
          document={doc}
          mayEdit={mayEdit}
          perform={perform}
          nameOfItem={(id) => {
            const found = items.find((i) => i.id === id);
            return found ? nameOf(found, 40) : 'an item that is gone';
          }}
        />
      )}
    </aside>
  );
}

/** How hard the set is to read. The formulas of English tell nothing of another language; LIX counts letters only. */
function Reading({ reading: r, language }: { reading: Readability; language: string | undefined }) {
  const english = !language || language.startsWith('en');
  const rows: [string, number][] = [
    ...(english
      ? ([
          ['Flesch–Kincaid, school year', r.fleschKincaid],
          ['Flesch reading ease, of 100', r.fleschEase],
          ['Gunning fog, school year', r.fog],
          ['SMOG, school year', r.smog],
          ['Coleman–Liau, school year', r.colemanLiau],
          ['ARI, school year', r.ari],
        ] as [string, number][])
      : []),
    ['LIX', r.lix],
  ];
  const [name, value] = rows[0] ?? ['LIX', r.lix];
  return (
    <details className="text-[13.5px] text-ink-2">
      <summary className="cursor-pointer">
        Reading level: {name} {value.toFixed(1)}
      </summary>
      <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-3 tabular-nums">
        {rows.map(([k, v]) => (
          <div key={k} className="contents">
            <dt>{k}</dt>
            <dd className="text-right">{v.toFixed(1)}</dd>
          </div>
        ))}
        <dt>words a sentence</dt>
        <dd className="text-right">{(r.words / r.sentences).toFixed(1)}</dd>
      </dl>
    </details>
  );
}

function Full({
  finding: f,
  mayEdit,
  perform,
  onGo,
}: {
  finding: Finding;
  mayEdit: boolean;
  perform: (o: Operation) => boolean;
  onGo?: (() => void) | undefined;
}) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  const rule = ruleOf(f.code);
  return (
    <div className={LOOK[f.severity]}>
      <b className="font-[650]">{f.message}</b>{' '}
      {onGo && (
        <button type="button" className="link" onClick={onGo}>
          Go there
        </button>
      )}
      <p className="text-[13.5px]">{rule?.why}</p>
      <details className="text-[13px] text-ink-2">
        <summary className="cursor-pointer">Source</summary>
        {rule?.source}
      </details>
      {mayEdit && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          {f.fix && <Button onClick={() => perform({ type: 'all', label: f.fix?.label ?? 'Fix', operations: f.fix?.operations ?? [] })}>{f.fix.label}</Button>}
          {f.severity !== 'error' && !asking && (
            <Button look="quiet" onClick={() => setAsking(true)}>
              Set aside
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
          }}
        >
          <Input
            aria-label="Why it is all right"
            autoFocus
            placeholder="Why it is all right"
            maxLength={500}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <Button type="submit">Set aside</Button>
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
      <summary className="cursor-pointer">{all.length} set aside</summary>
      <ul className="mt-1 grid gap-1.5">
        {all.map(([key, reason]) => {
          const [code = '', id = ''] = key.split(' ');
          return (
            <li key={key}>
              {ruleOf(code)?.name}: {nameOfItem(id)}
              {reason ? ` (${reason})` : ''}{' '}
              {mayEdit && (
                <button type="button" className="link" onClick={() => perform({ type: 'dismiss', finding: key, reason: null })}>
                  Take back in
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </details>
  );
}
