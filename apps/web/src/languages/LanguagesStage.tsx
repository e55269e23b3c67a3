/** A set in a second language: each text beside its translation. J and K go, Enter edits, C says that it is checked. */
import {
  checkedTranslation,
  fileName,
  includedSet,
  languageName,
  type Operation,
  readTranslations,
  sideBySide,
  takeTranslations,
  type TakenTranslations,
  type Translation,
  type TranslationRow,
  type UnitState,
  writeTranslationSheet,
  writeXliff,
} from '@zakuska/core';
import { useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { Empty, Foot, KeyHint } from '../frame/Frame.js';
import { useOpenSet } from '../set/context.js';
import { useSession } from '../signin/session.js';
import { BLANK } from '../ui/blank.js';
import { Button, Kbd } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { saveFile } from '../ui/saveFile.js';
import { useRows } from '../ui/useRows.js';
import { Returned } from './Returned.js';
import { LanguageSelect } from './LanguageSelect.js';
import { TextPair } from './TextPair.js';
import { locale, Say, say } from '../words/say.js';

/** What is shown, by the states that belong to it. */
const SHOWN = {
  all: { name: say('all texts'), states: ['missing', 'made', 'checked', 'stale'] },
  open: { name: say('missing and stale'), states: ['missing', 'stale'] },
  made: { name: say('to be checked'), states: ['made', 'stale'] },
  checked: { name: say('checked'), states: ['checked'] },
} as const satisfies Record<string, { name: string; states: readonly UnitState[] }>;
type Shown = keyof typeof SHOWN;

/** px of a row before it is measured. */
const ROW = 64;

export default function LanguagesStage() {
  const { document: doc, session, view, mayEdit } = useOpenSet();
  const me = useSession();
  const [params, setParams] = useSearchParams();
  const there = Object.keys(doc.set.translations ?? {});
  const language = params.get('in') ?? there[0] ?? '';
  const shown: Shown = (Object.keys(SHOWN) as Shown[]).find((s) => s === params.get('show')) ?? 'all';
  const go = (next: { in?: string; show?: Shown }): void => {
    const now = { in: language, show: shown, ...next };
    setParams({ ...(now.in && { in: now.in }), ...(now.show !== 'all' && { show: now.show }) }, { replace: true });
  };
  const set = useMemo(() => includedSet(doc), [doc]);
  const rows = useMemo(() => (language ? sideBySide(set, language) : []), [set, language]);
  const progress = useMemo(() => {
    const counts: Record<UnitState, number> = { missing: 0, made: 0, checked: 0, stale: 0 };
    for (const r of rows) counts[r.state]++;
    return language ? counts : null;
  }, [rows, language]);
  const states: readonly UnitState[] = SHOWN[shown].states;
  const [at, setAt] = useState('');
  // what one works on stays where it is although it is no longer of the sort that is shown
  const list = useMemo(() => rows.filter((r) => states.includes(r.state) || r.unit.id === at), [rows, states, at]);
  const place = Math.max(
    0,
    list.findIndex((r) => r.unit.id === at),
  );
  const now = list[place];
  const [editing, setEditing] = useState<string | null>(null);
  const [returned, setReturned] = useState<{ name: string; taken: TakenTranslations } | null>(null);
  const scroll = useRef<HTMLElement>(null);
  const body = useRef<HTMLDivElement>(null);
  const { places, before, after, measure, show } = useRows({
    count: list.length,
    scroll,
    list: body,
    estimate: ROW,
    keyOf: (i) => list[i]?.unit.id ?? '',
    always: editing === null ? undefined : place,
  });
  const navigate = useNavigate();

  const pick = (n: number): void => {
    const row = list[Math.max(0, Math.min(list.length - 1, n))];
    if (!row) return;
    setAt(row.unit.id);
    setEditing(null);
    const element = body.current?.querySelector(`[data-unit="${CSS.escape(row.unit.id)}"]`);
    if (element) element.scrollIntoView({ block: 'nearest' });
    else show(n);
  };
  const put = (all: Readonly<Record<string, Translation>>, unset?: readonly string[]): boolean =>
    session.perform({ type: 'translate', language, set: all, ...(unset && { unset: [...unset] }) });
  const check = (row: TranslationRow | undefined): void => {
    const next = row && mayEdit ? checkedTranslation(row, me.name) : undefined;
    if (row && next && put({ [row.unit.id]: next }) && next.state === 'checked') pick(place + 1);
  };
  const edit = (row: TranslationRow | undefined): void => {
    if (!row || !mayEdit) return;
    setAt(row.unit.id);
    setEditing(row.unit.id);
  };
  const save = (row: TranslationRow, next: Translation | null): void => {
    const done = next ? put({ [row.unit.id]: next }) : row.kept ? put({}, [row.unit.id]) : true;
    if (!done) return;
    pick(place + 1);
    // who types one after the other need not ask for each
    const following = list[place + 1];
    if (next && following && (following.state === 'missing' || following.state === 'stale')) setEditing(following.unit.id);
  };
  useCommands([
    { name: say('Next text'), keys: ['J', 'ArrowDown'], keysOnly: true, run: () => pick(place + 1) },
    { name: say('Previous text'), keys: ['K', 'ArrowUp'], keysOnly: true, run: () => pick(place - 1) },
    { name: say('Translate the text'), keys: ['Enter'], keysOnly: true, run: () => edit(now) },
    { name: say('The translation is checked'), keys: ['C'], keysOnly: true, run: () => check(now) },
    { name: say('Undo'), keys: ['U'], keysOnly: true, run: () => void session.undo() },
  ]);

  if (!set.items.length)
    return (
      <main>
        <Empty title={say('No items yet')}>
          <p>{say('A second language stands beside the texts of the items. Take items from the draft first.')}</p>
          <Link className="link" to={`/sets/${view.id}/draft`}>
            {say('Go to Draft')}
          </Link>
        </Empty>
      </main>
    );
  const own = doc.set.language;
  const name = language && languageName(language, locale());
  const out = (text: string, ending: string, mediaType: string): void =>
    saveFile(new TextEncoder().encode(text), fileName(`${set.title} ${language}`, ending), mediaType);
  const into = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      const read = readTranslations(new Uint8Array(await file.arrayBuffer()));
      if (!read.language && !language) return void toast.error(say('The file does not say its language. Choose the language first, then take the file in.'));
      if (own && (read.language || language) === own)
        return void toast.error(say('The file says that it is in {language}, the language of the set itself.', { language: languageName(own, locale()) }));
      setReturned({ name: file.name, taken: takeTranslations(set, read, language, file.name) });
    } catch (e) {
      toast.error(say('{name} could not be read: {message}', { name: file.name, message: (e as Error).message }), { duration: 10_000 });
    }
  };
  const takeIn = ({ taken, name: from }: { name: string; taken: TakenTranslations }): void => {
    const operation: Operation = {
      type: 'all',
      label: say('Took {keys} texts in {language} from {from}', {
        keys: Object.keys(taken.taken).length,
        language: languageName(taken.language, locale()),
        from,
      }),
      operations: [{ type: 'translate', language: taken.language, set: taken.taken }],
    };
    if (!session.perform(operation)) return;
    toast(say('{keys} texts taken in. Undo brings back what was there.', { keys: Object.keys(taken.taken).length }));
    setReturned(null);
    go({ in: taken.language });
  };
  return (
    <div className="grid min-h-0 grid-cols-1 grid-rows-[minmax(0,1fr)_auto]">
      <main ref={scroll} className="overflow-auto px-4 pb-6 sm:px-6" tabIndex={-1}>
        <div className="flex flex-wrap items-baseline gap-x-3 pt-4">
          <p className="flex-1 text-lg/9">
            {say('{what} beside', { what: own ? languageName(own, locale()) : say('The set') })}{' '}
            <LanguageSelect there={there} own={own} value={language} mayAdd={mayEdit} onChoose={(l) => go({ in: l })} />
            {progress && (
              <>
                {': '}
                <select
                  aria-label={say('Shown')}
                  className={`${BLANK} field-sizing-content`}
                  value={shown}
                  onChange={(e) => go({ show: e.target.value as Shown })}
                >
                  {(Object.keys(SHOWN) as Shown[]).map((s) => (
                    <option key={s} value={s}>
                      {SHOWN[s].name}
                    </option>
                  ))}
                </select>
              </>
            )}
          </p>
          <Link className="link text-sm" to={`/sets/${view.id}/check`}>
            {say('Back to Check')}
          </Link>
        </div>
        {progress && (
          <p role="status" className="text-sm text-ink-2">
            <Say
              text="{checked} checked, {made} made, {span}, {missing} missing"
              values={{
                checked: progress.checked,
                made: progress.made,
                span: <span className={progress.stale ? 'font-semibold text-amber' : ''}>{say('{stale} stale', { stale: progress.stale })}</span>,
                missing: progress.missing,
              }}
            />
          </p>
        )}
        <div className="my-3 flex flex-wrap items-center gap-2 border-y border-rule py-2 text-sm">
          {language && (
            <>
              <span className="text-ink-2">{say('For translators:')}</span>
              <Button look="quiet" onClick={() => out(writeXliff(set, language, '2.1'), '.xlf', 'application/xliff+xml')}>
                {say('XLIFF 2.1')}
              </Button>
              <Button look="quiet" onClick={() => out(writeXliff(set, language, '1.2'), '.xlf', 'application/xliff+xml')}>
                {say('XLIFF 1.2')}
              </Button>
              <Button look="quiet" onClick={() => out(writeTranslationSheet(set, language), '.csv', 'text/csv')}>
                {say('Sheet')}
              </Button>
            </>
          )}
          {mayEdit && (
            <>
              <label className="link inline-flex min-h-8 cursor-pointer items-center px-2 focus-within:outline-2">
                {say('Take in what came back')}
                <input
                  type="file"
                  className="sr-only"
                  accept=".xlf,.xliff,.xml,.csv,.tsv,.txt"
                  onChange={(e) => {
                    void into(e.target.files?.[0]);
                    e.target.value = '';
                  }}
                />
              </label>
              {language && (
                <Button
                  look="quiet"
                  onClick={() =>
                    void navigate(`/sets/${view.id}/check/rework`, {
                      state: { items: set.items.map((i) => i.id), what: 'language', detail: language },
                    })
                  }
                >
                  {say('Ask an assistant')}
                </Button>
              )}
            </>
          )}
        </div>
        {returned && <Returned name={returned.name} taken={returned.taken} onTake={() => takeIn(returned)} onLeave={() => setReturned(null)} />}
        {!language ? (
          <p className="max-w-prose py-4">
            {say(
              'Choose a language to put beside this one. Keys, points and gaps stay as they are in every language; only texts are translated: here, by a translator’s tools, or by an assistant.',
            )}
          </p>
        ) : (
          <div ref={body} role="list" className="border-x border-rule bg-sheet" aria-label={say('Texts and their translations into {name}', { name })}>
            {!list.length && <p className="p-4 text-ink-2">{say('No text is like that.')}</p>}
            {before > 0 && <div style={{ height: before }} />}
            {places.map((n) => {
              const row = list[n];
              return (
                row && (
                  <TextPair
                    key={row.unit.id}
                    row={row}
                    place={n}
                    measure={measure}
                    now={row === now}
                    editing={editing === row.unit.id}
                    mayEdit={mayEdit}
                    own={own}
                    language={language}
                    by={me.name}
                    onPick={() => (setAt(row.unit.id), row.unit.id !== editing && setEditing(null))}
                    onEdit={() => edit(row)}
                    onSave={(next) => save(row, next)}
                    onLeave={() => setEditing(null)}
                    onCheck={() => check(row)}
                  />
                )
              );
            })}
            {after > 0 && <div style={{ height: after }} />}
          </div>
        )}
      </main>
      <Foot>
        <KeyHint>
          <Kbd>J</Kbd> <Kbd>K</Kbd> {say('next, previous')}
        </KeyHint>
        <KeyHint>
          <Kbd>Enter</Kbd> {say('translate')}
        </KeyHint>
        <KeyHint>
          <Kbd>C</Kbd> {say('checked')}
        </KeyHint>
        <span className="flex-1" />
        {language && there.includes(language) && (
          <Link to={`/sets/${view.id}/deliver?in=${language}`} className="link text-sm">
            {say('Deliver in {name}', { name })}
          </Link>
        )}
      </Foot>
    </div>
  );
}
