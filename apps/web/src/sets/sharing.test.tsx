/** @jest-environment ./src/testing/environment.mjs */
/** Who sees a set: named, changed, taken out, saved as a whole; refusals said; groups made; a link made and taken back; samples taken. */
import '../testing/browser.js';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { answering, Refused, show, somebody } from '../testing/server.js';
import { Samples } from './Samples.js';
import { ShareDialog } from './ShareDialog.js';
import TakeCopy from './TakeCopy.js';

const MEMBERS = [
  { id: 'me', name: 'M. Tester', email: 'me@x.test', role: 'owner' },
  { id: 'b', name: 'B. Busy', email: 'b@x.test', role: 'editor' },
  { id: 'r', name: 'R. Reader', email: 'r@x.test', role: 'reader' },
];
const GROUPS = [{ id: 'g', name: 'Fish', members: ['b'] }];
let end = (): void => undefined;
afterEach(() => {
  cleanup();
  end();
});
const serve = (more: Record<string, unknown>) => {
  const served = answering({
    '/workspaces/w/members': MEMBERS,
    '/workspaces/w/groups': GROUPS,
    '/sets/s/sharing': { restricted: false, shares: [{ account: 'r', may: 'read', name: 'R. Reader' }], owner: 'M. Tester' },
    ...more,
  });
  ({ end } = served);
  return served.sent;
};
const dialog = (may = true, closed: string[] = []): void =>
  show(<ShareDialog what="set" id="s" title="Stocks" workspace="w" may={may} onClose={() => closed.push('closed')} />);

test('people and groups are named with what they may do, and saved at once', async () => {
  const closed: string[] = [];
  const sent = serve({ 'PUT /sets/s/sharing': { restricted: true, shares: [] } });
  dialog(true, closed);
  await userEvent.click(await screen.findByLabelText(/^Only who is named/));
  // who is named is not offered again, oneself never
  const add = screen.getByLabelText('Name a person or group');
  expect(
    within(add)
      .getAllByRole('option')
      .map((o) => o.textContent),
  ).toEqual(['Add a person or group …', 'Fish (group of 1)', 'B. Busy, b@x.test']);
  await userEvent.selectOptions(add, 'Fish (group of 1)');
  await userEvent.selectOptions(screen.getByLabelText('What Fish (group) may do'), 'may change it');
  await userEvent.click(screen.getByRole('button', { name: 'Take out R. Reader' }));
  await userEvent.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(closed).toEqual(['closed']));
  expect(sent.find((s) => s.method === 'PUT')?.body).toEqual({ restricted: true, shares: [{ group: 'g', may: 'edit' }] });
});

test('a refusal is said and nothing is lost', async () => {
  serve({ 'PUT /sets/s/sharing': new Refused(422, 'Somebody named is not of this workspace any more.') });
  const closed: string[] = [];
  dialog(true, closed);
  await userEvent.click(await screen.findByLabelText(/^Only who is named/));
  await userEvent.click(screen.getByRole('button', { name: 'Save' }));
  expect(await screen.findByText('Somebody named is not of this workspace any more.')).toBeTruthy();
  expect((screen.getByLabelText(/^Only who is named/) as HTMLInputElement).checked).toBe(true);
  expect(closed).toEqual([]);
});

test('who may not say it looks only; a closed folder above is named', async () => {
  serve({ '/sets/s/sharing': { restricted: false, shares: [], closedBy: 'Exams' } });
  dialog(false);
  expect(await screen.findByText(/It lies in “Exams”, which only some see/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Save' })).toBeNull();
  expect(screen.queryByLabelText('Name a person or group')).toBeNull();
  expect((screen.getByLabelText(/^All of the workspace/) as HTMLInputElement).matches(':disabled')).toBe(true);
});

test('a link is made, shown, and taken back', async () => {
  let link: string | undefined;
  serve({
    '/sets/s/sharing': () => ({ restricted: false, shares: [], ...(link && { link }) }),
    'POST /sets/s/copy-link': () => ({ token: (link = 'tok') }),
    'DELETE /sets/s/copy-link': () => {
      link = undefined;
      return null;
    },
  });
  dialog();
  await userEvent.click(await screen.findByRole('button', { name: 'Make a link' }));
  expect(((await screen.findByLabelText('Link to a copy')) as HTMLInputElement).value).toMatch(/\/copy\/tok$/);
  await userEvent.click(screen.getByRole('button', { name: 'Take the link back' }));
  expect(await screen.findByRole('button', { name: 'Make a link' })).toBeTruthy();
});

test('a group is changed, made and deleted from there, by owners', async () => {
  const sent = serve({ 'PUT /workspaces/w/groups/g': GROUPS[0], 'DELETE /workspaces/w/groups/g': null });
  dialog();
  await userEvent.click(await screen.findByRole('button', { name: 'Groups' }));
  const groups = within(screen.getByRole('dialog', { name: 'Groups' }));
  expect((groups.getByRole('checkbox', { name: /Busy/ }) as HTMLInputElement).checked).toBe(true);
  await userEvent.click(groups.getByRole('checkbox', { name: /Reader/ }));
  await userEvent.click(groups.getByRole('button', { name: 'Save the group' }));
  await waitFor(() => expect(sent.find((s) => s.method === 'PUT')?.body).toEqual({ name: 'Fish', members: ['b', 'r'] }));
  await waitFor(() => expect(screen.queryByRole('dialog', { name: 'Groups' })).toBeNull());
  await userEvent.click(screen.getByRole('button', { name: 'Groups' }));
  await userEvent.selectOptions(screen.getByLabelText('Group'), 'a new group');
  expect(screen.queryByRole('button', { name: 'Delete the group' })).toBeNull();
  expect((screen.getByRole('button', { name: 'Save the group' }) as HTMLButtonElement).disabled).toBe(true);
  await userEvent.selectOptions(screen.getByLabelText('Group'), 'Fish');
  await userEvent.click(screen.getByRole('button', { name: 'Delete the group' }));
  await waitFor(() => expect(sent.some((s) => s.method === 'DELETE')).toBe(true));
});

test('samples are narrowed by outcome and level, and taken into the folder that is shown', async () => {
  const sample = (id: string, outcomes: string[], levels: string[], difficulty: number) => ({
    id,
    title: id,
    items: 8,
    points: 9,
    outcomes,
    levels,
    difficulty,
  });
  const sent = serve({
    '/samples': [sample('Loaf', ['Dough'], ['remember'], 0.2), sample('Cold', ['Cold chain', 'Dough'], ['apply'], 0.7)],
    'POST /workspaces/w/samples/Cold': { id: 'new' },
  });
  show(<Samples workspace="w" folder="f" onClose={() => undefined} />);
  expect(await screen.findByText('8 items, 9 points, easy')).toBeTruthy();
  await userEvent.selectOptions(screen.getByLabelText('Outcome'), 'Dough');
  await userEvent.selectOptions(screen.getByLabelText('Thinking level'), 'apply');
  expect(screen.getAllByRole('listitem')).toHaveLength(1);
  await userEvent.click(screen.getByRole('button', { name: 'Take “Cold”' }));
  await waitFor(() => expect(sent.find((s) => s.method === 'POST')?.body).toEqual({ folder: 'f' }));
  await userEvent.selectOptions(screen.getByLabelText('Outcome'), 'Cold chain');
  await userEvent.selectOptions(screen.getByLabelText('Thinking level'), 'remember');
  expect(screen.getByText('No sample has both.')).toBeTruthy();
});

test('a link to a copy: into one of several workspaces; who may make none is told; a link that is over says so', async () => {
  const workspaces: (typeof somebody)['workspaces'] = [
    { id: 'w', name: 'School', role: 'owner' },
    { id: 'x', name: 'Evening school', role: 'editor' },
    { id: 'y', name: 'Library', role: 'reader' },
  ];
  const sent = serve({ '/copies/': { title: 'Stocks', items: 4, by: 'B. Busy' }, 'POST /copies/': { id: 'new' } });
  show(<TakeCopy />, { session: { ...somebody, workspaces } });
  expect(await screen.findByText(/^B\. Busy gives you a copy of this set with 4 items/)).toBeTruthy();
  expect(
    within(screen.getByLabelText('Into the workspace'))
      .getAllByRole('option')
      .map((o) => o.textContent),
  ).toEqual(['School', 'Evening school']);
  await userEvent.selectOptions(screen.getByLabelText('Into the workspace'), 'Evening school');
  await userEvent.click(screen.getByRole('button', { name: 'Take the copy' }));
  await waitFor(() => expect(sent.find((s) => s.method === 'POST')?.body).toEqual({ workspace: 'x' }));
  cleanup();
  show(<TakeCopy />, { session: { ...somebody, workspaces: workspaces.slice(2) } });
  expect(await screen.findByText(/You may look at sets in your workspaces, not make any/)).toBeTruthy();
  cleanup();
  serve({ '/copies/': new Refused(404, 'This link leads to no set any more.') });
  show(<TakeCopy />);
  expect(await screen.findByText('This link leads to no set any more.', undefined, { timeout: 4000 })).toBeTruthy();
});
