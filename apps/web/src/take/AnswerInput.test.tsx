/** @jest-environment ./src/testing/environment.mjs */
/** Where a learner answers: what is done gives a response that marks as it should, for every kind. */
import '../testing/browser.js';
import { asGiven, defaultMatch, type Item, learnerView, mark, type Response, seeded } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { AnswerInput } from './AnswerInput.js';

afterEach(cleanup);

const base = { id: 'i', stem: 's', points: 2 };
const chance = seeded('test');
const set = { title: 'T', items: [] };

function answering(item: Item, disabled = false): () => ReturnType<typeof mark> & { given: Response | undefined } {
  let given: Response | undefined;
  function Page() {
    const [value, setValue] = useState<Response>();
    return (
      <AnswerInput
        item={learnerView(item, set, chance)}
        value={value}
        disabled={disabled}
        onChange={(r) => {
          given = r;
          setValue(r);
        }}
      />
    );
  }
  render(<Page />);
  return () => ({ ...mark(item, given && asGiven(item, given, chance)), given });
}

test('one option: the last one counts', async () => {
  const marks = answering({
    ...base,
    kind: 'multiple-choice',
    options: [
      { id: 'a', content: 'rye <em>flour</em>', credit: 1 },
      { id: 'b', content: 'salt & water', credit: 0 },
    ],
  });
  expect(marks().state).toBe('unanswered');
  await userEvent.click(screen.getByLabelText('salt & water'));
  expect(marks().state).toBe('wrong');
  await userEvent.click(screen.getByLabelText('rye flour'));
  expect(marks().state).toBe('right');
});

test('several options: ticked and taken back', async () => {
  const marks = answering({
    ...base,
    kind: 'multiple-response',
    scoring: 'right-minus-wrong',
    options: ['rye', 'oats', 'cod'].map((content, n) => ({ id: `${n}`, content, credit: n < 2 ? 1 : 0 })),
  });
  for (const word of ['rye', 'cod']) await userEvent.click(screen.getByLabelText(word));
  expect(marks().points).toBe(0);
  await userEvent.click(screen.getByLabelText('cod'));
  expect(marks().points).toBe(1);
  await userEvent.click(screen.getByLabelText('oats'));
  expect(marks()).toMatchObject({ state: 'right', points: 2 });
});

test('true or false, in the words of the language', async () => {
  const marks = answering({ ...base, kind: 'true-false', answer: false, language: 'de' });
  await userEvent.click(screen.getByLabelText('Falsch'));
  expect(marks().state).toBe('right');
});

test('a typed answer has a limit, a number the keys of a number pad and its unit beside it', async () => {
  const words = answering({ ...base, kind: 'short-answer', match: defaultMatch, answers: [{ text: 'levain', credit: 1 }] });
  await userEvent.type(screen.getByLabelText('Your answer'), 'Levain');
  expect(words().state).toBe('right');
  expect((screen.getByLabelText('Your answer') as HTMLInputElement).maxLength).toBe(2000);
  cleanup();
  const number = answering({ ...base, kind: 'numeric', unit: 'g', answers: [{ min: 4, max: 5, credit: 1 }] });
  const field = screen.getByLabelText('Your answer') as HTMLInputElement;
  expect([field.inputMode, field.maxLength]).toEqual(['decimal', 200]);
  expect(screen.getByText('g')).toBeTruthy();
  await userEvent.type(field, '4,5');
  expect(number().state).toBe('right');
});

test('gaps are typed or chosen by their words, without markup', async () => {
  const marks = answering({
    ...base,
    stem: '[[1]] [[2]]',
    kind: 'cloze',
    gaps: [
      { id: '1', kind: 'text', points: 1, answers: [{ text: 'rye', credit: 1 }] },
      {
        id: '2',
        kind: 'choice',
        points: 1,
        options: [
          { id: 'a', content: 'H<sub>2</sub>O &amp; salt', credit: 1 },
          { id: 'b', content: 'oil', credit: 0 },
        ],
      },
    ],
  });
  await userEvent.type(screen.getByLabelText('Gap 1'), 'rye');
  expect(marks().points).toBe(1);
  await userEvent.selectOptions(screen.getByLabelText('Gap 2'), screen.getByRole('option', { name: 'H2O & salt' }));
  expect(marks()).toMatchObject({ state: 'right', points: 2 });
});

test('pairs are chosen, and can be opened again', async () => {
  const marks = answering({
    ...base,
    kind: 'matching',
    pairs: [
      { left: 'dough', right: '<p>rises &amp; rests</p>' },
      { left: 'oven', right: 'bakes' },
    ],
    extraRights: ['sings'],
  });
  expect([...(screen.getByLabelText('dough') as HTMLSelectElement).options].map((o) => o.text).sort()).toEqual(['', 'bakes', 'rises & rests', 'sings']);
  await userEvent.selectOptions(screen.getByLabelText('dough'), within(screen.getByLabelText('dough')).getByRole('option', { name: 'rises & rests' }));
  await userEvent.selectOptions(screen.getByLabelText('oven'), 'bakes');
  expect(marks().state).toBe('right');
  await userEvent.selectOptions(screen.getByLabelText('oven'), '');
  expect(marks()).toMatchObject({ state: 'partly', points: 1 });
});

test('pieces are moved up and down; an order that is right from the start is said to be', async () => {
  const item: Item = { ...base, kind: 'ordering', sequence: ['mix', 'rest', 'bake'] };
  const marks = answering(item);
  const order = (): (string | null)[] => screen.getAllByRole('listitem').map((li) => li.textContent);
  const start = order();
  await userEvent.click(screen.getByRole('button', { name: 'It is right as it stands' }));
  expect(marks().given).toEqual({ order: start });
  expect(screen.queryByRole('button', { name: 'It is right as it stands' })).toBeNull();
  for (const [to, piece] of ['mix', 'rest', 'bake'].entries())
    while (order().indexOf(piece) > to) await userEvent.click(screen.getByRole('button', { name: `Move up: ${piece}` }));
  expect(marks().state).toBe('right');
  // the ends have nowhere to go
  const [first, last] = [screen.getAllByRole('listitem')[0], screen.getAllByRole('listitem')[2]] as HTMLElement[];
  expect((within(first as HTMLElement).getByRole('button', { name: /^Move up/ }) as HTMLButtonElement).disabled).toBe(true);
  expect((within(last as HTMLElement).getByRole('button', { name: /^Move down/ }) as HTMLButtonElement).disabled).toBe(true);
});

test('an essay has room and a limit', async () => {
  const marks = answering({ ...base, kind: 'essay', lines: 12 });
  const field = screen.getByLabelText('Your answer') as HTMLTextAreaElement;
  expect([field.rows, field.maxLength]).toEqual([12, 50_000]);
  await userEvent.type(field, 'Bread');
  expect(marks().state).toBe('by-hand');
});

test('what is handed in stands still', () => {
  answering({ ...base, kind: 'ordering', sequence: ['a', 'b'] }, true);
  for (const b of screen.getAllByRole('button')) expect((b as HTMLButtonElement).disabled).toBe(true);
  cleanup();
  answering({ ...base, kind: 'true-false', answer: true }, true);
  for (const b of screen.getAllByRole('radio')) expect((b as HTMLInputElement).disabled).toBe(true);
});

test('a text to read asks for nothing', () => {
  const { container } = render(<AnswerInput item={learnerView({ ...base, kind: 'information' }, set, chance)} value={undefined} onChange={() => undefined} />);
  expect(container.innerHTML).toBe('');
});
