/** @jest-environment ./src/testing/environment.mjs */
/** The checking divided among colleagues, and items whose origins have changed: what is shown, and what it makes of the set. */
import '../testing/browser.js';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { apply, contentPrint, type Item, type Operation, type SetDocument } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect, useState } from 'react';
import { MemoryRouter } from 'react-router';
import { DivideDialog } from './DivideDialog.js';
import { NewerDialog } from './NewerDialog.js';

const MEMBERS = [
  { id: 'a1', name: 'A. Able', email: 'a@x.test', role: 'owner' },
  { id: 'b1', name: 'B. Busy', email: 'b@x.test', role: 'editor' },
  { id: 'r1', name: 'R. Reader', email: 'r@x.test', role: 'reader' },
];
const before = globalThis.fetch;
beforeEach(() => {
  globalThis.fetch = () => Promise.resolve(new Response(JSON.stringify(MEMBERS), { headers: { 'content-type': 'application/json' } }));
});
afterEach(() => {
  cleanup();
  globalThis.fetch = before;
});
const item = (id: string): Item => ({ id, kind: 'true-false', stem: `Is ${id} so?`, points: 1, answer: true });
const start: SetDocument = { set: { title: 'T', items: ['i1', 'i2', 'i3', 'i4', 'i5'].map(item) }, reviews: { i1: { state: 'checked', by: 'x', at: '' } } };

/** A page around a dialog, with the document that its operations make. */
function Page({ from, children }: { from: SetDocument; children: (doc: SetDocument, perform: (o: Operation) => boolean) => React.ReactNode }) {
  const [doc, setDoc] = useState(from);
  useEffect(() => {
    now = doc;
  }, [doc]);
  return (
    <MemoryRouter>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        {children(doc, (o) => {
          setDoc(apply(doc, o).document);
          return true;
        })}
      </QueryClientProvider>
    </MemoryRouter>
  );
}
let now: SetDocument;

test('stretches are shown while people are chosen; readers cannot be; then how far everybody is', async () => {
  const shown: string[] = [];
  const dialog = (doc: SetDocument, perform: (o: Operation) => boolean) => (
    <DivideDialog
      key={String(Boolean(doc.work))}
      document={doc}
      workspace="w"
      mayEdit
      perform={perform}
      onShow={(a) => shown.push(a)}
      onClose={() => undefined}
    />
  );
  render(<Page from={start}>{dialog}</Page>);
  expect(screen.getByText(/^4 items still to be looked at/)).toBeTruthy();
  await userEvent.click(await screen.findByRole('checkbox', { name: /Able/ }));
  expect(screen.getByText('4 items, from 2 to 5')).toBeTruthy();
  await userEvent.click(screen.getByRole('checkbox', { name: /Busy/ }));
  expect(screen.getByText('2 items, from 4 to 5')).toBeTruthy();
  expect(screen.queryByRole('checkbox', { name: /Reader/ })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Divide' }));
  expect(now.work).toEqual([
    { account: 'a1', name: 'A. Able', items: ['i2', 'i3'] },
    { account: 'b1', name: 'B. Busy', items: ['i4', 'i5'] },
  ]);
  const busy = screen.getByText('B. Busy').closest('li') as HTMLElement;
  expect(within(busy).getByText('0 of 2')).toBeTruthy();
  await userEvent.click(within(busy).getByRole('button', { name: 'Show them' }));
  expect(shown).toEqual(['b1']);
  await userEvent.click(screen.getByRole('button', { name: 'No longer divided' }));
  expect(now.work).toBeUndefined();
});

test('the newer one is taken or the own kept; what differs is named', async () => {
  const old = item('there');
  const mine: Item[] = ['m1', 'm2'].map((id) => ({ ...item(id), stem: old.stem, takenFrom: { set: 's', item: 'there', print: contentPrint(old) } }));
  const there: Item = { ...old, stem: 'Is it so, really?', points: 2 };
  const pairs = (doc: SetDocument) =>
    doc.set.items
      .filter((i) => i.takenFrom?.print !== contentPrint(there))
      .map((m) => ({ mine: m, newer: { item: m.id, set: 's', setTitle: 'Stocks', there } }));
  render(
    <Page from={{ set: { title: 'T', items: mine }, reviews: {} }}>
      {(doc, perform) => <NewerDialog set="own" pairs={pairs(doc)} mayEdit perform={perform} onClose={() => undefined} />}
    </Page>,
  );
  expect(screen.getAllByText(/points, the question differ|the question, points differ|points.*question differ/).length).toBe(2);
  await userEvent.click(screen.getAllByRole('button', { name: 'Take the newer' })[0] as HTMLElement);
  expect(now.set.items.map((i) => [i.id, i.stem])).toEqual([
    ['m1', 'Is it so, really?'],
    ['m2', 'Is there so?'],
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'Keep mine' }));
  expect(now.set.items.map((i) => [i.stem, i.points])).toEqual([
    ['Is it so, really?', 2],
    ['Is there so?', 1],
  ]);
  expect(screen.queryByRole('button', { name: 'Keep mine' })).toBeNull();
});
