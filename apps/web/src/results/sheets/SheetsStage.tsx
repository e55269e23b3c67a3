/** Photographed and scanned answer sheets: read here, doubtful marks looked at, people named, kept with the results. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { newId, type SetDocument } from '@zakuska/core';
import { type KnownSheet, knownSheets, peopleOf } from '@zakuska/core/scan';
import { Camera } from 'lucide-react';
import { type ReactNode, useEffect, useId, useMemo, useReducer, useRef, useState } from 'react';
import { Link, useBlocker, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { wordsOf } from '../../api/client.js';
import { Foot } from '../../frame/Frame.js';
import { useOpenSet } from '../../set/context.js';
import { Button } from '../../ui/Button.js';
import { ChooseFiles } from '../../ui/ChooseFiles.js';
import { Input, Select } from '../../ui/Field.js';
import { Modal } from '../../ui/Modal.js';
import { useAskBeforeClosing } from '../../ui/useAskBeforeClosing.js';
import { WorkerClient } from '../../worker/client.js';
import { keepInResults } from '../keepTable.js';
import { DoubtCard } from './DoubtCard.js';
import { GreyPicture } from './GreyPicture.js';
import { peopleOfClasses } from './people.js';
import { picturesOf, type Picture } from './pictures.js';
import type { Remote } from './sheets.worker.js';
import { after, doubtsOf, emptyStack, type Entry, leftToDo, pagesOf } from './stack.js';
import { answersChanged } from '../sources.js';
import { retold } from '../../words/retold.js';
import { Say, say } from '../../words/say.js';

/** Reads pictures. */
const sheetsWorker = new WorkerClient<Remote>(() => new Worker(new URL('./sheets.worker.js', import.meta.url), { type: 'module' }));

export default function SheetsStage() {
  const { view, document: doc, mayEdit } = useOpenSet();
  const queries = useQueryClient();
  const go = useNavigate();
  const [stack, step] = useReducer(after, emptyStack);
  const known = useKnown(doc);
  // pictures that were not read stay, so that a person can say what they are
  const pictures = useRef(new Map<string, Picture>());
  const told = useRef<{ worker: object; known: typeof known } | null>(null);
  const [busy, setBusy] = useState(false);
  const read = async (id: string, picture: Picture, as?: { print: string; page: number }): Promise<void> => {
    try {
      const seen = await sheetsWorker.call(async (remote, worker) => {
        // the sheets of a set are told once to each worker, and again when the set has changed
        if (told.current?.worker !== worker || told.current.known !== known)
          await remote.know(new Map([...known].map(([print, { sheet }]) => [print, { sheet }])));
        told.current = { worker, known };
        return await remote.read(picture.width, picture.height, picture.rgba, as);
      });
      // whose it is: by its code, where that is of somebody of a class
      const person =
        seen.is === 'read' && seen.person ? ((await queries.ensureQueryData(peopleOfClasses(view.workspaceId))).byCode.get(seen.person) ?? '') : '';
      if (seen.is === 'not' && seen.mayBeSaid) pictures.current.set(id, picture);
      else pictures.current.delete(id);
      step({ is: 'read', id, view: seen.is === 'read' ? { ...seen, person } : seen });
    } catch (e) {
      step({ is: 'read', id, view: { is: 'not', mayBeSaid: false, message: say('It could not be read: {words}', { words: wordsOf(e) }) } });
    }
  };
  const take = async (files: readonly File[]): Promise<void> => {
    setBusy(true);
    for (const file of files) {
      try {
        for await (const picture of picturesOf(file)) {
          const id = newId();
          step({ is: 'come', id, file: picture.name });
          await read(id, picture);
        }
      } catch (e) {
        const id = newId();
        step({ is: 'come', id, file: file.name });
        step({ is: 'read', id, view: { is: 'not', mayBeSaid: false, message: wordsOf(e) } });
      }
    }
    setBusy(false);
  };
  useEffect(() => () => sheetsWorker.end(), []);
  // pictures are nowhere else: whoever closes the page is asked
  const something = stack.entries.length > 0;
  useAskBeforeClosing(something);
  const kept = useRef(false);
  const leaving = useBlocker(({ currentLocation, nextLocation }) => something && !kept.current && currentLocation.pathname !== nextLocation.pathname);
  const doubts = doubtsOf(stack);
  const [doubt] = doubts;
  const left = leftToDo(stack);
  const done = left.length === 0;
  const groups = useMemo(() => (done ? peopleOf(pagesOf(stack), known) : []), [done, stack, known]);
  // of several versions the second may fail: the first is not kept twice then
  const ids = useRef(new Map<string, string>());
  const keeping = useMutation({
    mutationFn: async () => {
      let last = '';
      for (const { print, version, items, people, notes } of groups) {
        const id = ids.current.get(print) ?? newId();
        ids.current.set(print, id);
        last = await keepInResults(
          view.id,
          version ? say('Answer sheets, version {version}', { version }) : say('Answer sheets'),
          { items, people, notes },
          id,
        );
      }
      return last;
    },
    onSuccess: async (last) => {
      kept.current = true;
      await answersChanged(queries, view.id);
      await go(`/sets/${view.id}/results?of=${last}`);
    },
    onError: (e) => toast.error(say('The sheets were not kept: {words}', { words: wordsOf(e) })),
  });
  return (
    <div
      className="grid min-h-0 grid-cols-1 grid-rows-[minmax(0,1fr)_auto]"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        if (!busy) void take([...e.dataTransfer.files]);
      }}
    >
      <main className="overflow-auto px-4 py-3 sm:px-6">
        <Link to={`/sets/${view.id}/results`} className="link text-sm">
          {say('Back to Results')}
        </Link>
        {something ? (
          <div className="mt-3 grid gap-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)]">
            <Sheets
              stack={stack.entries}
              known={known}
              onNamed={(id, person) => step({ is: 'named', id, person })}
              onGone={(id) => step({ is: 'gone', id })}
              onSaid={(id, as) => {
                const picture = pictures.current.get(id);
                if (picture) void read(id, picture, as);
              }}
            />
            {doubt ? (
              <DoubtCard
                key={`${doubt.entry.id} ${doubt.at}`}
                doubt={doubt}
                left={doubts.length}
                onSay={(given) => step({ is: 'said', entry: doubt.entry.id, field: doubt.at, given })}
                onBack={stack.settled.length ? () => step({ is: 'back' }) : undefined}
              />
            ) : (
              <section aria-label={say('To look at')} className="grid content-start gap-2">
                <p>{busy ? say('Sheets are being read.') : say('Nothing is left to look at.')}</p>
                {groups
                  .flatMap((g) => g.notes)
                  .map((n) => (
                    <p key={n} className="text-sm text-amber" role="note">
                      {n}
                    </p>
                  ))}
                {stack.settled.length > 0 && (
                  <div>
                    <Button onClick={() => step({ is: 'back' })}>{say('Back to the last one')}</Button>
                  </div>
                )}
              </section>
            )}
          </div>
        ) : (
          <Ask onFiles={take} busy={busy} />
        )}
      </main>
      <Modal
        open={leaving.state === 'blocked'}
        onClose={() => leaving.reset?.()}
        title={say('Leave the sheets?')}
        description={say('They are not kept yet: what was read, and what you said of it, goes.')}
      >
        <div className="flex gap-2">
          <Button look="primary" onClick={() => leaving.reset?.()}>
            {say('Stay here')}
          </Button>
          <Button look="danger" onClick={() => leaving.proceed?.()}>
            {say('Leave')}
          </Button>
        </div>
      </Modal>
      {something && (
        <Foot>
          <span className="flex-1 max-sm:basis-full" role="status">
            {say('{entries, plural, one {# picture} other {# pictures}}', { entries: stack.entries.length })}
            {busy
              ? say(', reading on')
              : done
                ? ` · ${say('{flatMap, plural, one {# person} other {# people}}', { flatMap: groups.flatMap((g) => g.people).length })}`
                : say(' · left: {left}', { left: left.join(', ') })}
          </span>
          <Choose onFiles={take} busy={busy}>
            {say('More pictures')}
          </Choose>
          {mayEdit && (
            <Button look="primary" disabled={busy || !done || keeping.isPending} onClick={() => keeping.mutate()}>
              {say('Keep in Results')}
            </Button>
          )}
        </Foot>
      )}
    </div>
  );
}

/** The sheets of the set as it is, and as it was since this screen opened: what was read stays what it was when somebody changes the set. */
function useKnown(doc: SetDocument): ReadonlyMap<string, KnownSheet> {
  const before = useRef<ReadonlyMap<string, KnownSheet>>(new Map());
  return useMemo(() => (before.current = new Map([...before.current, ...knownSheets(doc)])), [doc]);
}

function Choose({
  onFiles,
  busy,
  look,
  children,
}: {
  onFiles: (files: readonly File[]) => Promise<void>;
  busy: boolean;
  look?: 'primary';
  children: ReactNode;
}) {
  return (
    <ChooseFiles label={say('Pictures of answer sheets')} accept="image/*,.pdf" multiple look={look} disabled={busy} onFiles={(files) => void onFiles(files)}>
      {children}
    </ChooseFiles>
  );
}

/** What this is for, before anything came. */
function Ask({ onFiles, busy }: { onFiles: (files: readonly File[]) => Promise<void>; busy: boolean }) {
  const { view } = useOpenSet();
  return (
    <div className="mx-auto grid max-w-2xl gap-4 py-8">
      <h2 className="text-xl font-bold">{say('Read answer sheets')}</h2>
      <p className="text-ink-2">
        {say(
          'Photographs or scans of the answer sheets of this set, as many as you like. Each has to show the whole sheet with its four corner marks; it may lie askew or upside down. Marks that are not clear are shown to you, and nothing is kept before you have seen them.',
        )}
      </p>
      <div>
        <Choose onFiles={onFiles} busy={busy} look="primary">
          <Camera size={16} aria-hidden /> {say('Choose pictures')}
        </Choose>
        <span className="ms-3 text-sm text-ink-2">{say('JPEG, PNG, WebP, or a PDF from a scanner; they may be dropped here.')}</span>
      </div>
      <p className="text-sm text-ink-2">
        <Say
          text="The sheet to print is in {link}: “PDF, answer sheet”. Made for a class, each sheet has the name of its person on it, and is known by its code."
          values={{
            link: (
              <Link to={`/sets/${view.id}/deliver?to=paper`} className="link">
                {say('Deliver, Paper')}
              </Link>
            ),
          }}
        />
      </p>
    </div>
  );
}

interface SheetsProps {
  stack: readonly Entry[];
  known: ReadonlyMap<string, KnownSheet>;
  onNamed: (id: string, person: string) => void;
  onGone: (id: string) => void;
  onSaid: (id: string, as: { print: string; page: number }) => void;
}
/** All pictures, one below the other, with the names of those whose they are. */
function Sheets({ stack, known, onNamed, onGone, onSaid }: SheetsProps) {
  const { view } = useOpenSet();
  const people = useQuery(peopleOfClasses(view.workspaceId)).data?.names ?? [];
  const listed = useId();
  return (
    <ul aria-label={say('Pictures')} className="grid content-start gap-3">
      <datalist id={listed}>
        {people.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      {stack.map((e) => (
        <li key={e.id} className="grid gap-2 rounded border border-rule bg-sheet p-3">
          <div className="flex items-baseline justify-between gap-3 text-sm">
            <span className="min-w-0 truncate text-ink-2">
              {e.file}
              {e.view.is === 'read' && pageOf(e.view, known)}
            </span>
            <button type="button" className="link shrink-0" aria-label={say('Leave out {file}', { file: e.file })} onClick={() => onGone(e.id)}>
              {say('Leave out')}
            </button>
          </div>
          {e.view.is === 'waiting' && <p className="text-sm text-ink-2">{say('Being read …')}</p>}
          {e.view.is === 'not' && (
            <>
              <p className="text-sm text-brick" role="alert">
                {retold(e.view.message)}
              </p>
              {e.view.mayBeSaid && <WhichPage known={known} file={e.file} onSaid={(as) => onSaid(e.id, as)} />}
            </>
          )}
          {e.view.is === 'read' && (
            <>
              <GreyPicture of={e.view.head} label={say('Head of the sheet in {file}', { file: e.file })} className="w-full" />
              <Input
                aria-label={say('Name on {file}', { file: e.file })}
                placeholder={say('Whose is it?')}
                value={e.person}
                autoComplete="off"
                list={listed}
                onChange={(x) => onNamed(e.id, x.target.value)}
              />
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

function pageOf({ print, page }: { print: string; page: number }, known: ReadonlyMap<string, KnownSheet>): string {
  const of = known.get(print);
  return `${of?.version ? say(', version {version}', { version: of.version }) : ''}${(of?.sheet.pages.length ?? 1) > 1 ? say(', page {page} of {pages}', { page, pages: of?.sheet.pages.length }) : ''}`;
}

/** Which sheet a picture is of whose code could not be read. */
function WhichPage({ known, file, onSaid }: { known: ReadonlyMap<string, KnownSheet>; file: string; onSaid: (as: { print: string; page: number }) => void }) {
  return (
    <Select
      aria-label={say('Which sheet {file} is', { file })}
      value=""
      onChange={(e) => {
        const [print = '', page] = e.target.value.split(' ');
        if (print) onSaid({ print, page: Number(page) });
      }}
    >
      <option value="">{say('Which sheet is it?')}</option>
      {[...known].flatMap(([print, k]) =>
        k.sheet.pages.map((_, n) => (
          <option key={`${print} ${n}`} value={`${print} ${n + 1}`}>
            {say('{title}, page {n}', { title: k.set.title, n: n + 1 })}
          </option>
        )),
      )}
    </Select>
  );
}
