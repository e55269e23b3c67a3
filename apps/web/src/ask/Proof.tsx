/** A proof with changes: each item before and after in one column of text. Y takes, N keeps, E edits; what changed its key is set apart and never taken in passing. */
import {
  type AimName,
  aims,
  editedProposal,
  fieldNames,
  keySign,
  nameOf,
  type Rewording,
  proposalText,
  type ReworkAim,
  reworked,
  languageName,
  takeAsTranslations,
  takeProposals,
} from '@zakuska/core';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { readAll, useReading } from '../draft/useReading.js';
import { ItemView } from '../item/ItemView.js';
import { WordsChanged } from '../item/WordsChanged.js';
import { useOpenSet } from '../set/context.js';
import type { Item } from '@zakuska/core';
import { Button } from '../ui/Button.js';
import { TextArea } from '../ui/Field.js';
import { useCommands } from '../ui/commands.js';
import { Failed } from '../worker/Failed.js';
import { locale, say } from '../words/say.js';
import { retold } from '../words/retold.js';

const NO_OVERRIDES: [] = [];
type Said = 'taken' | 'kept';
const HOW = { id: say('known by its sign'), words: say('known by its words'), place: say('known by its place and build: look twice') } as const;

interface Props {
  items: readonly Item[];
  reply: string;
  aim: AimName;
  language: string | undefined;
}
export function Proof({ items, reply, aim, language }: Props) {
  const { document: doc, session, view } = useOpenSet();
  const { reading, failed, again } = useReading(reply, NO_OVERRIDES, language);
  const translating = aim === 'language' && language !== undefined && language !== doc.set.language;
  const adds = (aims[aim] as ReworkAim).adds ?? false;
  const beside = useMemo(() => (readAll(reading, reply) ? reworked(items, reading.set, adds) : null), [reading, reply, items, adds]);
  const [edited, setEdited] = useState<ReadonlyMap<string, Rewording>>(new Map());
  const [said, setSaid] = useState<ReadonlyMap<string, Said>>(new Map());
  const [at, setAt] = useState(0);
  const [editing, setEditing] = useState<{ id: string; text: string } | null>(null);
  const navigate = useNavigate();

  const list = useMemo(() => {
    const all = (beside?.proposals ?? []).map((p) => edited.get(keyOf(p)) ?? p);
    return [...all.filter((p) => !p.keyChanged), ...all.filter((p) => p.keyChanged)];
  }, [beside, edited]);
  const now = list[Math.min(at, list.length - 1)];
  const taken = list.filter((p) => said.get(keyOf(p)) === 'taken');
  const open = list.filter((p) => !said.has(keyOf(p)));
  const decide = (p: Rewording | undefined, what: Said): void => {
    if (!p) return;
    setSaid((s) => new Map(s).set(keyOf(p), what));
    const next = list.findIndex((x, i) => i > list.indexOf(p) && !said.has(keyOf(x)));
    setAt(next >= 0 ? next : list.indexOf(p));
  };
  const yes = (): void => {
    if (now?.keyChanged)
      toast(say('The key of “{name}” would change. Take it with its own button, once you have looked.', { name: nameOf(now.mine ?? now.theirs, 40) }));
    else decide(now, 'taken');
  };
  const edit = (p: Rewording | undefined): void => p && setEditing({ id: keyOf(p), text: proposalText(p) });
  useCommands([
    { name: say('Take what is proposed'), keys: ['Y'], keysOnly: true, run: yes },
    { name: say('Keep the item as it is'), keys: ['N'], keysOnly: true, run: () => decide(now, 'kept') },
    { name: say('Edit what is proposed'), keys: ['E'], keysOnly: true, run: () => edit(now) },
    { name: say('Next proposal'), keys: ['J', 'ArrowDown'], keysOnly: true, run: () => setAt((a) => Math.min(list.length - 1, a + 1)) },
    { name: say('Previous proposal'), keys: ['K', 'ArrowUp'], keysOnly: true, run: () => setAt((a) => Math.max(0, a - 1)) },
  ]);
  const finish = (): void => {
    if (!session.perform(takeProposals(doc.set, items, taken, aim))) return;
    toast(say('{taken, plural, one {# item} other {# items}} taken, open to be checked. Undo brings the old wording back.', { taken: taken.length }));
    void navigate(`/sets/${view.id}/check`);
  };
  const putBeside = (): void => {
    const { operation, left } = takeAsTranslations(taken, language ?? '', 'assistant');
    if (!session.perform(operation)) return;
    toast(
      left.length
        ? say('Taken. Of {left} some text was left: its gaps or formulas are not those of the original.', { left: left.map((i) => nameOf(i, 30)).join('; ') })
        : say('{taken, plural, one {# item} other {# items}} in {language}, beside the original. Undo takes them away.', {
            taken: taken.length,
            language: languageName(language ?? '', locale()),
          }),
    );
    void navigate(`/sets/${view.id}/check/languages?in=${language}`);
  };
  const done = (): void => {
    const p = list.find((x) => keyOf(x) === editing?.id);
    const next = p && editing ? editedProposal(p, editing.text) : null;
    if (!next) return void toast.error(say('That is no single item. Its text is kept here: see the notation for what is missing.'));
    setEdited((e) => new Map(e).set(keyOf(next), next));
    setEditing(null);
  };

  if (failed) return <Failed what={say('The reply could not be read as it is.')} again={again} />;
  if (!beside) return <p role="status">{say('Reading the reply …')}</p>;
  if (!list.length)
    return (
      <p role="status">
        {beside.same.length
          ? say('The reply says all items as they are.')
          : say('Nothing in the reply belongs to these items. Was it the reply to another request? It is kept; ask again, or paste another one.')}
      </p>
    );
  const apart = list.findIndex((p) => p.keyChanged);
  return (
    <section aria-label={say('Proof')} className="grid gap-3">
      <div className="sticky top-0 z-10 flex flex-wrap items-center gap-3 border-b border-rule bg-paper py-2">
        <p role="status" className="min-w-0 flex-1 text-sm">
          {say('{list, plural, one {# proposal} other {# proposals}}, {taken} taken, {open} open{more}', {
            list: list.length,
            taken: taken.length,
            open: open.length,
            more: beside.same.length > 0 && say(' · {same} said as they are', { same: beside.same.length }),
          })}
          {beside.missing.length > 0 && (
            <span className="font-semibold text-brick">
              {' '}
              {say('· {missing} not in the reply: {missing2}', {
                missing: beside.missing.length,
                missing2: beside.missing.map((i) => nameOf(i, 30)).join('; '),
              })}
            </span>
          )}
        </p>
        <Button onClick={() => setSaid((s) => new Map([...s, ...open.filter((p) => !p.keyChanged).map((p): [string, Said] => [keyOf(p), 'taken'])]))}>
          {say('Take all that keep their key')}
        </Button>
        {translating ? (
          <>
            <Button disabled={!taken.length} onClick={finish}>
              {say('Put {taken, plural, one {# item} other {# items}} in place of the original', { taken: taken.length })}
            </Button>
            <Button look="primary" disabled={!taken.length} onClick={putBeside}>
              {say('Keep {taken, plural, one {# item} other {# items}} beside the original', { taken: taken.length })}
            </Button>
          </>
        ) : (
          <Button look="primary" disabled={!taken.length} onClick={finish}>
            {say('Put {taken, plural, one {# item} other {# items}} into the set', { taken: taken.length })}
          </Button>
        )}
      </div>
      <ol className="grid gap-3">
        {list.map((p, n) => (
          <li key={keyOf(p)} className="grid gap-3">
            {n === apart && <h3 className="font-bold text-brick">{say('Their key would change')}</h3>}
            <article
              aria-label={say('Proposal {n}: {name}', { n: n + 1, name: nameOf(p.theirs, 60) })}
              aria-current={p === now}
              className={`grid gap-2 rounded border p-3 ${p === now ? 'border-beet bg-sheet' : 'border-rule'} ${said.get(keyOf(p)) === 'kept' ? 'opacity-70' : ''}`}
              onClick={() => setAt(n)}
            >
              <p className="flex flex-wrap gap-x-3 text-[13.5px] text-ink-2">
                <span>{p.mine ? retold(fieldNames(p.changes)) || say('key') : say('new item')}</span>
                {p.by && p.by !== 'id' && <span>{HOW[p.by]}</span>}
                {p.optionsReordered && <span>{say('options in another order')}</span>}
                {p.keyMissing && <span className="text-amber">{p.mine ? say('no key in the reply: the old one stays') : say('no key')}</span>}
                {p.keyChanged && p.mine && (
                  <b className="text-brick">{say('key {keySign} → {keySign2}', { keySign: keySign(p.mine), keySign2: keySign(p.theirs) })}</b>
                )}
                {said.has(keyOf(p)) && (
                  <b className={said.get(keyOf(p)) === 'taken' ? 'text-dill' : ''}>{said.get(keyOf(p)) === 'taken' ? say('taken') : say('kept as it is')}</b>
                )}
              </p>
              {editing?.id === keyOf(p) ? (
                <div className="grid gap-2">
                  <TextArea
                    aria-label={say('The item as text')}
                    autoFocus
                    rows={6}
                    className="font-mono text-[13px]"
                    value={editing.text}
                    onChange={(e) => setEditing({ id: editing.id, text: e.target.value })}
                  />
                  <span className="flex gap-2">
                    <Button onClick={done}>{say('Done')}</Button>
                    <Button look="quiet" onClick={() => setEditing(null)}>
                      {say('Leave it')}
                    </Button>
                  </span>
                </div>
              ) : p.mine && p.mine.kind === p.theirs.kind ? (
                <WordsChanged before={p.mine} after={p.theirs} />
              ) : (
                <div className="grid gap-3 sm:grid-cols-2">
                  {p.mine && <ItemView item={p.mine} />}
                  <ItemView item={p.theirs} />
                </div>
              )}
              {editing?.id !== keyOf(p) && (
                <span className="flex flex-wrap gap-2">
                  <Button keys={p === now && !p.keyChanged ? 'Y' : ''} onClick={() => decide(p, 'taken')}>
                    {p.keyChanged ? say('Take it with the new key') : p.mine ? say('Take it') : say('Add it')}
                  </Button>
                  <Button keys={p === now ? 'N' : ''} onClick={() => decide(p, 'kept')}>
                    {p.mine ? say('Keep mine') : say('Leave it out')}
                  </Button>
                  <Button look="quiet" keys={p === now ? 'E' : ''} onClick={() => edit(p)}>
                    {say('Edit')}
                  </Button>
                </span>
              )}
            </article>
          </li>
        ))}
      </ol>
    </section>
  );
}
const keyOf = (p: Rewording): string => p.mine?.id ?? p.theirs.id;
