/** The bank: all items of the workspace, found by words and filters; the item in full beside them; what is chosen goes from here into a set. */
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { keySign, nameOf, mayAs } from '@zakuska/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { api, call, type Schemas } from '../api/client.js';
import { Empty, Foot, KeyHint, TopBar } from '../frame/Frame.js';
import { NotFetched } from '../frame/NotFetched.js';
import { ItemView } from '../item/ItemView.js';
import { useWorkspace } from '../signin/workspace.js';
import { Button, Kbd } from '../ui/Button.js';
import { useCommands } from '../ui/commands.js';
import { Select } from '../ui/Field.js';
import { useRows } from '../ui/useRows.js';
import { ColumnHead } from './ColumnHead.js';
import { columns, templateOf, usualColumns, widthOf } from './columns.js';
import { Filters } from './Filters.js';
import { askedIn, type BankAsked, narrows, paramsOf } from './query.js';
import { TakeDialog } from './TakeDialog.js';
import { usedWords } from './used.js';
import { Views } from './Views.js';
import { locale, say } from '../words/say.js';

/** px of a row before it is measured. */
const ROW = 33;
const SORTS = {
  '': say('as it fits, else last changed'),
  changed: say('last changed'),
  set: say('by folder and set'),
  points: say('most points'),
  difficulty: say('hardest by its level'),
  share: say('hardest by its answers'),
  used: say('last used'),
  'least-used': say('least used'),
} as const;
const COLUMNS = 'zakuska bank columns';
/** Items that are chosen in one go, at most. */
const MOST_CHOSEN = 2000;
type Row = Schemas['BankItem'];
const keyOf = (r: Row): string => `${r.set} ${r.item.id}`;

export default function BankPage() {
  const workspace = useWorkspace();
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const asked = useMemo(() => askedIn(params), [params]);
  const ask = (next: BankAsked): void => setParams(paramsOf(next), { replace: true });
  const mayEdit = mayAs(workspace?.role, 'editor');
  const path = { workspace: workspace?.id ?? '' };
  const query = { ...asked, q: asked.q || undefined, sort: asked.sort || undefined } as never;
  const found = useInfiniteQuery({
    queryKey: ['bank', workspace?.id, asked],
    enabled: Boolean(workspace),
    placeholderData: keepPreviousData,
    initialPageParam: 0,
    queryFn: ({ pageParam: from }) => call(api.GET('/api/v1/workspaces/{workspace}/bank', { params: { path, query: { ...(query as object), from } } })),
    getNextPageParam: (last, pages) => {
      const so = pages.reduce((n, p) => n + p.items.length, 0);
      return so < last.total ? so : undefined;
    },
  });
  const counts = useQuery({
    queryKey: ['bank', workspace?.id, 'counts', asked],
    enabled: Boolean(workspace),
    placeholderData: keepPreviousData,
    queryFn: () => call(api.GET('/api/v1/workspaces/{workspace}/bank/counts', { params: { path, query } })),
  });
  const rows = useMemo(() => found.data?.pages.flatMap((p) => p.items) ?? [], [found.data]);
  const total = found.data?.pages[0]?.total ?? 0;
  const [shown, setShown] = useState<readonly string[]>(() => (localStorage.getItem(COLUMNS) ?? usualColumns.join(' ')).split(' ').filter((c) => c in columns));
  const [current, setCurrent] = useState(0);
  const [chosen, setChosen] = useState<ReadonlyMap<string, Row>>(new Map());
  const [taking, setTaking] = useState<'set' | 'versions' | null>(null);
  const at = Math.min(current, Math.max(0, rows.length - 1));
  const now = rows[at];
  const scroll = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLUListElement>(null);
  const { places, before, after, measure, show } = useRows({
    count: rows.length,
    scroll,
    list,
    estimate: ROW,
    keyOf: (i) => (rows[i] ? keyOf(rows[i]) : ''),
    always: at,
  });
  const more = found.hasNextPage && !found.isFetchingNextPage;
  const { fetchNextPage } = found;
  const last = places.at(-1) ?? 0;
  // the next page is there before one comes to the end
  useEffect(() => {
    if (more && last > rows.length - 20) void fetchNextPage();
  }, [more, last, rows.length, fetchNextPage]);
  useEffect(() => setCurrent(0), [asked]);
  const toggle = (row: Row): void => {
    const next = new Map(chosen);
    if (!next.delete(keyOf(row))) next.set(keyOf(row), row);
    setChosen(next);
  };
  const allChosen = rows.length > 0 && rows.every((r) => chosen.has(keyOf(r)));
  /** Chooses all that were found, also those that are not fetched yet, up to a number that a set can hold. */
  const toggleAll = async (): Promise<void> => {
    if (allChosen) return setChosen(new Map());
    let all = rows;
    let { hasNextPage } = found;
    while (hasNextPage && all.length < MOST_CHOSEN) {
      const next = await found.fetchNextPage();
      all = next.data?.pages.flatMap((p) => p.items) ?? all;
      hasNextPage = next.hasNextPage && !next.isError;
    }
    if (hasNextPage) toast(say('The first {all} are chosen. Narrow what is found to choose others.', { all: all.length }));
    setChosen(new Map([...chosen, ...all.map((r) => [keyOf(r), r] as const)]));
  };
  const go = (to: number): void => {
    const next = Math.max(0, Math.min(rows.length - 1, to));
    setCurrent(next);
    show(next);
  };
  useCommands([
    { name: say('Next item'), keys: ['J', 'ArrowDown'], run: () => go(at + 1) },
    { name: say('Item before'), keys: ['K', 'ArrowUp'], run: () => go(at - 1) },
    ...(now && mayEdit ? [{ name: say('Choose the item, or not'), keys: ['X'], run: () => toggle(now) }] : []),
    ...(mayEdit && rows.length ? [{ name: say('Choose all that were found, or none'), keys: ['A'], run: () => void toggleAll() }] : []),
    ...(now
      ? [{ name: say('Open the item in its set'), keys: ['O'], run: () => void navigate(`/sets/${now.set}/check?item=${encodeURIComponent(now.item.id)}`) }]
      : []),
    ...(chosen.size
      ? [
          { name: say('Take what is chosen into a set'), keys: ['T'], run: () => setTaking('set') },
          { name: say('Draw versions of what is chosen'), keys: ['V'], run: () => setTaking('versions') },
        ]
      : []),
    { name: say('Show everything'), run: () => setParams(new URLSearchParams(), { replace: true }) },
  ]);
  return (
    <div className="grid h-dvh grid-cols-1 grid-rows-[46px_minmax(0,1fr)_auto]">
      <TopBar>
        <Link to="/" className="hover:text-beet hover:underline">
          {workspace?.name}
        </Link>{' '}
        / <h1 className="inline font-[650] text-ink">{say('Bank')}</h1>
      </TopBar>
      <main className="grid min-h-0 grid-cols-1 border-t border-rule max-lg:overflow-auto lg:grid-cols-[230px_minmax(0,1fr)_minmax(280px,26vw)]">
        <div className="overflow-auto p-4 max-lg:max-h-80 lg:border-r lg:border-rule" tabIndex={0} aria-label={say('Filters')} role="region">
          <div className="grid content-start gap-4">
            {workspace && <Views workspace={workspace.id} address={paramsOf(asked).toString()} worth={narrows(asked) || asked.sort !== ''} />}
            <Filters asked={asked} counts={counts.data} onAsked={ask} />
          </div>
        </div>
        <section aria-label={say('Items found')} className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)] max-lg:h-120">
          <div className="flex flex-wrap items-center gap-3 border-b border-rule px-4 py-2 text-sm">
            <span role="status">
              {found.isPending ? (
                say('Looking …')
              ) : (
                <>
                  <b className="font-semibold">{say('{total, plural, one {# item} other {# items}}', { total })}</b>
                  {narrows(asked) && say(' found')}
                </>
              )}
            </span>
            <Link to="/bank/near" className="link">
              {say('Asked nearly the same')}
            </Link>
            <span className="flex-1" />
            <span className="flex items-center gap-2 text-ink-2">
              {say('Order')}
              <Select aria-label={say('Order')} className="w-52! py-1! text-sm" value={asked.sort} onChange={(e) => ask({ ...asked, sort: e.target.value })}>
                {Object.entries(SORTS).map(([value, name]) => (
                  <option key={value} value={value}>
                    {name}
                  </option>
                ))}
              </Select>
            </span>
          </div>
          <div ref={scroll} className="overflow-auto">
            {found.isError && <NotFetched query={found} className="m-4" />}
            {found.data && !rows.length && (
              <Empty title={narrows(asked) ? say('Nothing like it') : say('The bank is empty')}>
                <p>
                  {narrows(asked)
                    ? say('No item has all of this. Take a filter away, or look for other words.')
                    : say('All items of all sets stand here. Start a set, and its items are found by their words.')}
                </p>
                {narrows(asked) ? (
                  <Button onClick={() => setParams(new URLSearchParams(), { replace: true })}>{say('Show everything')}</Button>
                ) : (
                  <Link className="link" to="/">
                    {say('Go to the sets')}
                  </Link>
                )}
              </Empty>
            )}
            {rows.length > 0 && (
              <div className="sticky top-0 z-10">
                <ColumnHead
                  all={mayEdit ? { chosen: allChosen, toggle: () => void toggleAll() } : undefined}
                  shown={shown}
                  onShown={(next) => {
                    setShown(next);
                    localStorage.setItem(COLUMNS, next.join(' '));
                  }}
                  sort={asked.sort}
                  onSort={(sort) => ask({ ...asked, sort })}
                />
              </div>
            )}
            <ul ref={list} className={found.isPlaceholderData ? 'opacity-60' : ''} style={{ minWidth: `${widthOf(shown) + 4}rem` }}>
              {before > 0 && <li aria-hidden style={{ height: before }} />}
              {places.map((i) => {
                const r = rows[i];
                if (!r) return null;
                const name = nameOf(r.item, 110);
                return (
                  <li
                    key={keyOf(r)}
                    ref={measure}
                    data-index={i}
                    className={`flex items-center gap-2 border-b border-rule-2 px-4 ${i === at ? 'bg-beet-soft' : 'bg-sheet hover:bg-beet-soft/40'}`}
                  >
                    {mayEdit && (
                      <input
                        type="checkbox"
                        className="accent-beet"
                        aria-label={say('Choose “{name}”', { name })}
                        checked={chosen.has(keyOf(r))}
                        onChange={() => toggle(r)}
                      />
                    )}
                    <button
                      type="button"
                      aria-current={i === at ? 'true' : undefined}
                      className="grid min-w-0 flex-1 cursor-pointer items-baseline gap-x-3 py-1.5 text-left text-sm"
                      style={{ gridTemplateColumns: templateOf(shown) }}
                      onClick={() => setCurrent(i)}
                    >
                      <span className="truncate">{name}</span>
                      {shown.map((c) => (
                        <span key={c} className={`truncate text-[13px] text-ink-2 ${columns[c]?.figure ? 'text-right tabular-nums' : ''}`}>
                          {columns[c]?.show(r)}
                        </span>
                      ))}
                    </button>
                    <span aria-hidden className="w-7 flex-none" />
                  </li>
                );
              })}
              {after > 0 && <li aria-hidden style={{ height: after }} />}
            </ul>
          </div>
        </section>
        <aside className="overflow-auto border-rule bg-sheet p-4 lg:border-l" aria-label={say('The item')} tabIndex={0}>
          {now && (
            <>
              <ItemView item={now.item} />
              <dl className="mt-4 grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 gap-y-0.5 border-t border-rule pt-3 text-[13.5px]">
                <dt className="text-ink-2">{say('In')}</dt>
                <dd>
                  <Link className="link" to={`/sets/${now.set}/check?item=${encodeURIComponent(now.item.id)}`}>
                    {now.setTitle}
                  </Link>
                  {now.path.length > 0 && `, ${now.path.join(' / ')}`}
                </dd>
                <dt className="text-ink-2">{say('State')}</dt>
                <dd>{now.state === 'left-out' ? say('left out') : now.state}</dd>
                <dt className="text-ink-2">{say('Used')}</dt>
                <dd>{usedWords(now.use)}</dd>
                <dt className="text-ink-2">{say('Changed')}</dt>
                <dd>{new Date(now.changedAt).toLocaleDateString(locale(), { day: 'numeric', month: 'short', year: 'numeric' })}</dd>
              </dl>
            </>
          )}
        </aside>
      </main>
      <Foot>
        {chosen.size > 0 ? (
          <>
            <b className="text-ink">{say('{chosen, plural, one {# item} other {# items}} chosen', { chosen: chosen.size })}</b>
            <span className="flex min-w-24 flex-1 gap-[3px] overflow-x-auto">
              {[...chosen.values()].slice(0, 40).map((r) => (
                <button
                  key={keyOf(r)}
                  type="button"
                  className="cell checked flex-none"
                  title={nameOf(r.item, 80)}
                  aria-label={say('Leave out “{name}”', { name: nameOf(r.item, 60) })}
                  onClick={() => toggle(r)}
                >
                  {keySign(r.item)}
                </button>
              ))}
            </span>
            <Button look="quiet" onClick={() => setChosen(new Map())}>
              {say('Choose none')}
            </Button>
            <Button keys="V" onClick={() => setTaking('versions')}>
              {say('Draw versions of them')}
            </Button>
            <Button look="primary" keys="T" onClick={() => setTaking('set')}>
              {say('Take into a set')}
            </Button>
          </>
        ) : (
          <>
            <KeyHint>
              <Kbd>J</Kbd> <Kbd>K</Kbd> {say('go')}
            </KeyHint>
            {mayEdit && (
              <KeyHint>
                <Kbd>X</Kbd> {say('choose')}
              </KeyHint>
            )}
            <KeyHint>
              <Kbd>O</Kbd> {say('open in its set')}
            </KeyHint>
          </>
        )}
      </Foot>
      {taking && workspace && (
        <TakeDialog
          workspace={workspace.id}
          items={[...chosen.values()]}
          pool={taking === 'versions'}
          onClose={() => setTaking(null)}
          onTaken={(set) => {
            const versions = taking === 'versions';
            setTaking(null);
            setChosen(new Map());
            if (versions) return void navigate(`/sets/${set.id}/arrange/versions`);
            toast.success(say('Taken into “{title}”.', { title: set.title }), {
              action: { label: say('Open it'), onClick: () => void navigate(`/sets/${set.id}/check`) },
            });
          }}
        />
      )}
    </div>
  );
}
