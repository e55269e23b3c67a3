/** @jest-environment ./src/testing/environment.mjs */
/** The teacher's side of the own quiz: rules, classes, people with their codes. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { changedRules, type QuizRules, usualRules } from '@zakuska/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactElement } from 'react';

interface Sent {
  method: string;
  path: string;
  body: unknown;
}
const sent: Sent[] = [];
let answers: Record<string, unknown> = {};
const method =
  (name: string) =>
  async (path: string, { body }: { body?: unknown } = {}) => {
    sent.push({ method: name, path, body });
    return answers[`${name} ${path}`] ?? answers[path];
  };
jest.unstable_mockModule('../api/client.js', () => ({
  api: { GET: method('GET'), POST: method('POST'), PUT: method('PUT'), DELETE: method('DELETE') },
  call: (x: unknown) => x,
  wordsOf: (e: Error) => e.message,
}));
const { RulesDialog } = await import('./RulesDialog.js');
const { ClassesDialog } = await import('./ClassesDialog.js');
const { PeopleDialog, mailTo, peopleTable } = await import('./PeopleDialog.js');
const { rulesWords, presetOf } = await import('./rulesWords.js');

const CLASSES = '/api/v1/workspaces/{workspace}/classes';
beforeEach(() => {
  sent.length = 0;
  answers = { [CLASSES]: [{ id: 'c1', name: 'Bread, Monday', people: 2 }] };
});
afterEach(cleanup);
const show = (what: ReactElement): ReturnType<typeof userEvent.setup> => {
  render(<QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>{what}</QueryClientProvider>);
  return userEvent.setup();
};

describe('rules', () => {
  const open = (rules: QuizRules, more: object = {}) => {
    const done: { rules: QuizRules; classList: string | undefined }[] = [];
    const user = show(
      <RulesDialog rules={rules} workspace="w" onClose={() => undefined} onDone={(r, classList) => done.push({ rules: r, classList })} {...more} />,
    );
    return { user, done };
  };
  const use = () => screen.getByRole('button', { name: 'Use these rules' });

  test('what is chosen comes out as one record; what is not touched stays as usual', async () => {
    const { user, done } = open(usualRules());
    await user.selectOptions(screen.getByLabelText('Attempts a person'), '2');
    await user.selectOptions(screen.getByLabelText('Of several counts'), 'mean');
    await user.type(screen.getByLabelText('Minutes for an attempt'), '45');
    await user.selectOptions(screen.getByLabelText('Items'), 'all on one page');
    await user.click(screen.getByLabelText(/^A new order of options/));
    await user.click(screen.getByLabelText('Required items must be answered before handing in'));
    await user.click(screen.getByLabelText('Mark each answer at once'));
    await user.selectOptions(screen.getByLabelText('Tries for an item'), '1');
    await user.selectOptions(screen.getByLabelText('The right answers'), 'when I release it');
    await user.click(use());
    expect(done).toEqual([
      {
        classList: undefined,
        rules: changedRules(usualRules(), {
          attempts: 2,
          counts: 'mean',
          minutes: 45,
          pages: 'all',
          shuffle: { items: false, options: true },
          holdsRequired: true,
          practice: { tries: 1, hints: true },
          shows: { score: 'handed-in', marks: 'never', keys: 'released', feedback: 'never' },
        }),
      },
    ]);
  });

  test('a class has to be chosen where people come in by one; what cannot be together is said and not taken', async () => {
    const { user, done } = open(usualRules());
    await user.selectOptions(screen.getByLabelText('Who comes in'), 'personal');
    expect(screen.getByText('Choose the class that takes it.')).not.toBeNull();
    expect(use().hasAttribute('disabled')).toBe(true);
    await user.selectOptions(await screen.findByLabelText('Class'), 'c1');
    expect(use().hasAttribute('disabled')).toBe(false);
    await user.selectOptions(screen.getByLabelText('Items'), 'all on one page');
    await user.click(screen.getByLabelText('Learners may go back'));
    expect(screen.getByText(/Show the items one by one/)).not.toBeNull();
    expect(use().hasAttribute('disabled')).toBe(true);
    await user.click(screen.getByLabelText('Learners may go back'));
    await user.click(use());
    expect(done[0]).toMatchObject({ classList: 'c1', rules: { enter: 'personal', pages: 'all' } });
  });

  test('times of this place come out as instants, and stand there again', async () => {
    const { user, done } = open(usualRules());
    await user.type(screen.getByLabelText('Opens'), '2026-12-01T08:30');
    await user.click(use());
    const { opensAt = '' } = done[0]?.rules ?? {};
    expect(new Date(opensAt).getTime()).toBe(new Date('2026-12-01T08:30').getTime());
    cleanup();
    open(done[0]?.rules ?? usualRules());
    expect((screen.getByLabelText('Opens') as HTMLInputElement).value).toBe('2026-12-01T08:30');
  });

  test('due: being late costs a tenth for each day unless it is said otherwise; without a day nothing is taken off', async () => {
    const { user, done } = open(usualRules());
    expect(screen.queryByLabelText('Handing in later costs')).toBeNull();
    await user.type(screen.getByLabelText('Due'), '2026-12-01T18:00');
    await user.clear(screen.getByLabelText('Handing in later costs'));
    await user.type(screen.getByLabelText('Handing in later costs'), '25');
    await user.selectOptions(screen.getByLabelText('How often it is taken off'), 'once');
    await user.type(screen.getByLabelText('Closes'), '2026-12-01T17:00');
    expect(screen.getByText(/It closes before anybody could be late/)).not.toBeNull();
    expect(use().hasAttribute('disabled')).toBe(true);
    await user.clear(screen.getByLabelText('Closes'));
    await user.click(use());
    const due = new Date('2026-12-01T18:00').toISOString();
    expect(done[0]?.rules).toMatchObject({ late: { due, percent: 25, per: 'once' } });
    expect(rulesWords(done[0]?.rules ?? usualRules())).toEqual([expect.stringMatching(/^due .*, later 25 % off$/)]);
    await user.clear(screen.getByLabelText('Due'));
    await user.click(use());
    expect(done[1]?.rules).not.toHaveProperty('late');
  });

  test('what was published keeps who comes in, orders and practice', () => {
    open(changedRules(usualRules(), { practice: { tries: 1, hints: false } }), { published: true });
    for (const gone of ['Who comes in', 'Mark each answer at once']) expect(screen.queryByLabelText(gone)).toBeNull();
    expect(screen.getByRole('button', { name: 'Change' })).not.toBeNull();
  });

  test('in words: only what is not as usual', () => {
    expect(rulesWords(usualRules())).toEqual([]);
    expect(
      rulesWords(
        changedRules(usualRules(), {
          enter: 'nameless',
          attempts: 2,
          minutes: 1,
          pages: 'all',
          practice: { tries: 3, hints: true },
          shuffle: { items: true, options: true },
        }),
      ),
    ).toEqual(['without names', 'practice, 3 tries an item', '2 attempts each, the best counts', '1 minute', 'all on one page', 'items and options shuffled']);
    expect(presetOf(usualRules('answers').shows)).toBe('answers');
    expect(presetOf({ ...usualRules().shows, keys: 'closed' })).toBeUndefined();
  });
});

describe('classes', () => {
  test('a list that is pasted is read as it is typed; who is there already is not there twice; extra time is kept', async () => {
    answers['GET /api/v1/classes/{class}'] = {
      id: 'c1',
      name: 'Bread, Monday',
      members: [{ id: 'm1', name: 'Ada Brandt', mail: 'ada@saltmarsh.example', number: '', extra: 0 }],
    };
    answers['PUT /api/v1/classes/{class}'] = { id: 'c1', name: 'Bread, Monday', members: [] };
    const chosen: (string | undefined)[] = [];
    const user = show(<ClassesDialog workspace="w" onClose={(id) => chosen.push(id)} />);
    await user.click(await screen.findByRole('button', { name: 'Change Bread, Monday' }));
    await user.click(await screen.findByLabelText('Add people'));
    await user.paste('Name\tMail\nBrandt, Ada\tada@saltmarsh.example\nÇelik, Béla\tbela@saltmarsh.example');
    expect(screen.getByText('2 people, 1 new')).not.toBeNull();
    await user.click(screen.getByRole('button', { name: 'Put them on the list' }));
    await user.type(screen.getByLabelText('Extra time of Béla Çelik, per cent'), '25');
    await user.click(screen.getByRole('button', { name: 'Keep the class' }));
    expect(sent.at(-1)).toMatchObject({ method: 'GET', path: CLASSES });
    expect(sent.find((s) => s.method === 'PUT')?.body).toEqual({
      name: 'Bread, Monday',
      members: [
        { id: 'm1', name: 'Ada Brandt', mail: 'ada@saltmarsh.example', number: '', extra: 0 },
        { name: 'Béla Çelik', mail: 'bela@saltmarsh.example', number: '', extra: 25 },
      ],
    });
    expect(chosen).toEqual(['c1']);
  });

  test('a class without a name or without people is not kept', async () => {
    const user = show(<ClassesDialog workspace="w" onClose={() => undefined} />);
    await user.click(screen.getByRole('button', { name: 'New class' }));
    const keep = () => screen.getByRole('button', { name: 'Keep the class' });
    expect(keep().hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByLabelText('People'), 'Ada Brandt');
    expect(keep().hasAttribute('disabled')).toBe(true);
    await user.type(screen.getByLabelText('Name of the class'), 'Bread');
    expect(keep().hasAttribute('disabled')).toBe(false);
  });
});

describe('people', () => {
  const PEOPLE = '/api/v1/deliveries/{delivery}/people';
  const MAILS = '/api/v1/deliveries/{delivery}/mails';
  const person = {
    id: 'm1',
    name: 'Ada Brandt',
    mail: 'ada@saltmarsh.example',
    extra: 25,
    code: 'Q37R9QK7',
    link: 'http://x.example/t/Q37R9QK7',
    letter: { subject: 'A & B', text: 'Hello Ada,\n\nhttp://x.example/t/Q37R9QK7 & more\n' },
    begun: 0,
    handedIn: 1,
  };

  test('each with their code and what became of it; a mail only for who has an address', async () => {
    answers[PEOPLE] = { mails: false, people: [person, { ...person, id: 'm2', name: 'Béla Çelik', mail: '', extra: 0, begun: 1, handedIn: 0 }] };
    show(<PeopleDialog delivery="d" title="Week two" personal onClose={() => undefined} />);
    const ada = within(await screen.findByRole('row', { name: /Ada Brandt/ }));
    expect(ada.getByText('handed in')).not.toBeNull();
    expect(ada.getByText('25 %')).not.toBeNull();
    expect(ada.getByRole('link', { name: 'Mail' }).getAttribute('href')).toBe(mailTo(person));
    const bela = within(screen.getByRole('row', { name: /Béla/ }));
    expect(bela.getByText('under way')).not.toBeNull();
    expect(bela.queryByRole('link', { name: 'Mail' })).toBeNull();
  });

  test('where mails can be sent, all who were not written to are, and how it went is told', async () => {
    const other = (id: string, name: string, more: object) => ({ ...person, id, name, ...more });
    const at = '2026-12-01T08:00:00Z';
    const people = [
      person,
      other('m2', 'Béla', { mail: '' }),
      other('m3', 'Cleo', { mailed: { state: 'sent', at } }),
      other('m4', 'Dora', { mailed: { state: 'failed', at, problem: 'The mail server refused it: 550 No such mailbox here' } }),
    ];
    answers[PEOPLE] = { mails: true, people };
    answers[`POST ${MAILS}`] = { mails: true, people: people.map((p) => ({ ...p, mailed: { state: 'waiting', at } })) };
    const user = show(<PeopleDialog delivery="d" title="Week two" personal onClose={() => undefined} />);
    await screen.findByText(/1 has no address in the class/);
    const row = (name: string) => within(screen.getByRole('row', { name: new RegExp(name) }));
    expect(row('Cleo').getByText(/^written to/)).not.toBeNull();
    expect(row('Dora').getByText(/No such mailbox here/)).not.toBeNull();
    expect(row('Ada').queryByRole('button', { name: /again/ })).toBeNull();
    await user.click(row('Dora').getByRole('button', { name: 'Write to Dora again' }));
    expect(sent.at(-1)).toMatchObject({ path: MAILS, body: { members: ['m4'] } });
    expect(await row('Dora').findByText('on its way')).not.toBeNull();
    expect(screen.queryByRole('button', { name: /^Write to/ })).toBeNull();
  });

  test('one press writes to everybody who has an address', async () => {
    answers[PEOPLE] = { mails: true, people: [person, { ...person, id: 'm2', name: 'Béla' }] };
    const user = show(<PeopleDialog delivery="d" title="Week two" personal onClose={() => undefined} />);
    await user.click(await screen.findByRole('button', { name: 'Write to 2 people' }));
    expect(sent.filter((s) => s.path === MAILS).map((s) => s.body)).toEqual([{}]);
  });

  test('where names are chosen from the list nobody has a code to give out', async () => {
    answers[PEOPLE] = { mails: true, people: [person] };
    show(<PeopleDialog delivery="d" title="Week two" personal={false} onClose={() => undefined} />);
    await screen.findByRole('row', { name: /Ada Brandt/ });
    expect(screen.queryByText('Q37R9QK7')).toBeNull();
    expect(screen.queryByRole('button', { name: /Slips/ })).toBeNull();
  });

  test('a mail has the link and the code, and no name can put more into its address', () => {
    const href = mailTo({ ...person, mail: 'a@x.example?bcc=all@x.example' });
    const [address = '', query = ''] = href.slice('mailto:'.length).split('?');
    expect(decodeURIComponent(address)).toBe('a@x.example?bcc=all@x.example');
    const said = new URLSearchParams(query);
    expect([...said.keys()]).toEqual(['subject', 'body']);
    expect(said.get('subject')).toBe('A & B');
    expect(said.get('body')).toBe(person.letter.text);
  });

  test('the table for a spreadsheet: what begins like a formula is text', () => {
    expect(peopleTable([{ ...person, name: '=cmd()\tx' }])).toBe(`Name\tMail\tCode\tLink\n'=cmd() x\tada@saltmarsh.example\tQ37R9QK7\t${person.link}`);
  });
});
