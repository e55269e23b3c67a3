/** @jest-environment ./src/testing/environment.mjs */
/** The editor of each kind: what a person does becomes one operation, and the item is as it should be then. */
import '../testing/browser.js';
import { apply, defaultMatch, emptyDocument, type Item, type Kind, keyProblem, kinds, type Operation, type SetDocument } from '@zakuska/core';
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { ItemEditor } from './ItemEditor.js';

afterEach(cleanup);

const base = { id: 'i', stem: 'What is it?', points: 1 };
const options = (...credits: number[]) => credits.map((credit, n) => ({ id: 'abcd'[n] ?? '', content: `option ${n}`, credit }));
const items: Record<Kind, Item> = {
  'multiple-choice': { ...base, kind: 'multiple-choice', options: options(1, 0, 0) },
  'multiple-response': { ...base, kind: 'multiple-response', scoring: 'all-or-nothing', options: options(1, 1, 0) },
  'true-false': { ...base, kind: 'true-false', answer: true },
  'short-answer': { ...base, kind: 'short-answer', match: defaultMatch, answers: [{ text: 'rye', credit: 1 }] },
  numeric: { ...base, kind: 'numeric', answers: [{ min: 4, max: 4, credit: 1 }] },
  cloze: { ...base, kind: 'cloze', stem: 'A [[1]].', gaps: [{ id: '1', kind: 'text', points: 1, answers: [{ text: 'loaf', credit: 1 }] }] },
  matching: {
    ...base,
    kind: 'matching',
    pairs: [
      { left: 'a', right: 'x' },
      { left: 'b', right: 'y' },
    ],
    extraRights: [],
  }, // prettier-ignore
  ordering: { ...base, kind: 'ordering', sequence: ['mix', 'rest', 'bake'] },
  essay: { ...base, kind: 'essay' },
  information: { ...base, kind: 'information', points: 0 },
};

/** The editor over a document of its own, as Check has it. */
async function edited(item: Item): Promise<{ now: () => Item; done: Operation[]; ended: () => number }> {
  const done: Operation[] = [];
  let ended = 0;
  let document: SetDocument = { ...emptyDocument('T'), set: { title: 'T', items: [item] } };
  function Page() {
    const [shown, show] = useState(item);
    return (
      <main>
        <article>
          <ItemEditor
            item={shown}
            set={document.set}
            current={() => document.set.items[0]}
            perform={(o) => {
              document = apply(document, o).document;
              done.push(o);
              show(document.set.items[0] as Item);
              return true;
            }}
            onDone={() => ended++}
          />
        </article>
      </main>
    );
  }
  render(<Page />);
  // the question takes the focus a moment later
  await act(() => new Promise((r) => setTimeout(r, 60)));
  return { now: () => document.set.items[0] as Item, done, ended: () => ended };
}
const press = (name: string | RegExp): Promise<void> => userEvent.click(screen.getByRole('button', { name }));
const type = async (label: string, text: string): Promise<void> => {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, text);
  act(() => fireEvent.blur(field));
};

test.each(Object.keys(items) as Kind[])('%s: opens without changing anything, and ends', async (kind) => {
  const e = await edited(items[kind]);
  expect(screen.getByRole('region', { name: 'Edit the item' })).toBeTruthy();
  expect(screen.getByRole('textbox', { name: kind === 'information' ? 'Text' : 'Question' })).toBeTruthy();
  await press('Done Esc');
  expect(e.ended()).toBe(1);
  expect(e.done).toEqual([]);
  expect(e.now()).toEqual(items[kind]);
});

test('choice: another key takes the place of the one before; options come, go, keep their place and earn a part', async () => {
  const e = await edited(items['multiple-choice']);
  await userEvent.click(screen.getByRole('radio', { name: 'B is the key' }));
  expect(e.now()).toMatchObject({ options: [{ credit: 0 }, { credit: 1 }, { credit: 0 }] });
  await press('Add an option');
  expect(e.now()).toMatchObject({ options: [{}, {}, {}, { content: '', credit: 0 }] });
  await press('Take out option D');
  await press('Option C keeps its place when options are shuffled');
  expect(e.now()).toMatchObject({ options: [{ id: 'a' }, { id: 'b' }, { id: 'c', pinned: true }] });
  await press('Option C keeps its place when options are shuffled');
  expect(e.now()).not.toHaveProperty('options.2.pinned');
  await userEvent.click(screen.getByRole('checkbox', { name: /earn a part/ }));
  await type('Share of the points for option C, in per cent', '50');
  expect(e.now()).toMatchObject({ options: [{}, {}, { credit: 0.5 }] });
  // one operation each
  expect(e.done).toHaveLength(6);
});

test('a new option has the focus at once, so that the next letter goes there and not to the row above', async () => {
  await edited(items['multiple-choice']);
  fireEvent.keyDown(screen.getByRole('textbox', { name: 'Option B' }), { key: 'Enter' });
  expect(document.activeElement).toBe(screen.getByRole('textbox', { name: 'Option C' }));
});

test('Enter makes a row below, in the midst of others too, or goes to the one below that is empty yet', async () => {
  const e = await edited({ ...items['ordering'], sequence: ['mix', 'bake', ''] } as Item);
  const step = (n: number): HTMLElement => screen.getByRole('textbox', { name: `Step ${n}` });
  act(() => step(1).focus());
  fireEvent.keyDown(step(1), { key: 'Enter' });
  expect(document.activeElement).toBe(step(2));
  expect(e.now()).toMatchObject({ sequence: ['mix', '', 'bake', ''] });
  expect([1, 2, 3, 4].map((n) => step(n).textContent)).toEqual(['mix', '', 'bake', '']);
  act(() => step(3).focus());
  fireEvent.keyDown(step(3), { key: 'Enter' });
  expect(document.activeElement).toBe(step(4));
  expect(e.now()).toMatchObject({ sequence: ['mix', '', 'bake', ''] });
});

test('accepted answers one after the other: Enter keeps one and waits for the next', async () => {
  const e = await edited({ ...items['short-answer'], answers: [{ text: 'marmite', credit: 1 }] } as Item);
  await userEvent.click(screen.getByRole('button', { name: /Accept another/ }));
  await userEvent.keyboard('faitout{Enter}pot{Enter}{Enter}');
  expect(e.now()).toMatchObject({ answers: [{ text: 'marmite' }, { text: 'faitout' }, { text: 'pot' }] });
  expect(screen.queryByRole('textbox', { name: 'Another accepted answer' })).toBeNull();
});

test('several: keys are ticked one by one, and the way of marking is chosen', async () => {
  const e = await edited(items['multiple-response']);
  await userEvent.click(screen.getByRole('checkbox', { name: 'C is a key' }));
  await userEvent.click(screen.getByRole('checkbox', { name: 'A is a key' }));
  expect(e.now()).toMatchObject({ options: [{ credit: 0 }, { credit: 1 }, { credit: 1 }] });
  await userEvent.selectOptions(screen.getByLabelText(/^Marked/), 'weights');
  expect(e.now()).toMatchObject({ scoring: 'weights' });
  expect(screen.getByLabelText('Share of the points for option B, in per cent')).toBeTruthy();
});

test('true or false is chosen', async () => {
  const e = await edited({ ...items['true-false'], answer: null } as Item);
  expect(keyProblem(e.now())).not.toBeNull();
  await userEvent.click(screen.getByRole('radio', { name: 'false' }));
  expect(e.now()).toMatchObject({ answer: false });
});

test('a gap is typed, a number or chosen from a list, with the answers that it had; and can be filled in again', async () => {
  const e = await edited({ ...items.cloze, gaps: [{ id: '1', kind: 'text', points: 1, answers: [{ text: '4', credit: 1 }] }] } as Item);
  const gap = within(screen.getByRole('region', { name: 'Gap 1' }));
  await userEvent.selectOptions(gap.getByLabelText('It is'), 'number');
  expect(e.now()).toMatchObject({ gaps: [{ kind: 'number', answers: [{ min: 4, max: 4, credit: 1 }] }] });
  await userEvent.selectOptions(gap.getByLabelText('It is'), 'choice');
  expect(e.now()).toMatchObject({ gaps: [{ kind: 'choice', options: [{ content: '4', credit: 1 }] }] });
  await userEvent.selectOptions(gap.getByLabelText('It is'), 'text');
  expect(e.now()).toMatchObject({ gaps: [{ kind: 'text', answers: [{ text: '4', credit: 1 }] }] });
  await type('Points of gap 1 among the gaps', '3');
  expect(e.now()).toMatchObject({ gaps: [{ points: 3 }] });
  await type('Words to choose from', 'loaf, roll,, bun');
  expect(e.now()).toMatchObject({ wordBank: ['loaf', 'roll', 'bun'] });
  await type('Words to choose from', '{Backspace}');
  expect(e.now()).not.toHaveProperty('wordBank');
  await press('Fill it in again');
  expect(e.now()).toMatchObject({ stem: 'A 4.', gaps: [] });
  expect(screen.getByText('Mark a word of the question and make it a gap.')).toBeTruthy();
});

test('pairs come and go, and so do right sides that fit nothing', async () => {
  const e = await edited(items.matching);
  await press('Add a pair');
  expect(e.now()).toMatchObject({ pairs: [{}, {}, { left: '', right: '' }] });
  await press('Take out pair 1');
  expect(e.now()).toMatchObject({ pairs: [{ left: 'b' }, { left: '' }] });
  await press('Add a right side that fits nothing');
  expect(e.now()).toMatchObject({ extraRights: [''] });
  await press('Take out the right side without a partner 1');
  expect(e.now()).toMatchObject({ extraRights: [] });
});

test('steps come and go', async () => {
  const e = await edited(items.ordering);
  await press('Add a step');
  expect(e.now()).toMatchObject({ sequence: ['mix', 'rest', 'bake', ''] });
  await press('Take out step 2');
  expect(e.now()).toMatchObject({ sequence: ['mix', 'bake', ''] });
});

test('an essay has lines to write on, or none', async () => {
  const e = await edited(items.essay);
  await type('Lines to write on', '12');
  expect(e.now()).toMatchObject({ lines: 12 });
  await type('Lines to write on', '{Backspace}');
  expect(e.now()).not.toHaveProperty('lines');
});

test('points are numbers with up to four decimals; hints are there once they are asked for', async () => {
  const e = await edited(items['true-false']);
  await type('Points', '2,5');
  expect(e.now()).toMatchObject({ points: 2.5 });
  await type('Points', '0.33333');
  expect(e.now()).toMatchObject({ points: 0.3333 });
  await press('Add a hint');
  expect(e.now()).toMatchObject({ hints: [''] });
  await press('Take out hint 1');
  expect(e.now()).not.toHaveProperty('hints');
});

test('another kind is made at once where nothing is lost, and asked for where something is', async () => {
  const e = await edited(items['multiple-choice']);
  const kind = (): HTMLElement => screen.getByLabelText('Make it');
  await userEvent.selectOptions(kind(), 'multiple-response');
  expect(e.now().kind).toBe('multiple-response');
  await userEvent.selectOptions(kind(), 'essay');
  const dialog = await screen.findByRole('dialog', { name: `Make it ${kinds.essay.name.toLowerCase()}?` });
  expect(dialog.textContent).toMatch(/This goes: .+/);
  await userEvent.click(within(dialog).getByRole('button', { name: 'Cancel' }));
  expect(e.now().kind).toBe('multiple-response');
  await userEvent.selectOptions(kind(), 'essay');
  await userEvent.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Change the kind' }));
  expect(e.now().kind).toBe('essay');
  expect(e.now().id).toBe('i');
});
