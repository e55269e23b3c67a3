/** @jest-environment ./src/testing/environment.mjs */
/** What a person says of lines and looks: roles by menu and by key, one question shown, which look is the key; and what is said of a line. */
import '../testing/browser.js';
import { type LookCount, readDraft, type Role } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DoubtCount } from './DoubtCount.js';
import { LineDoubts } from './DoubtNotes.js';
import { KeyQuestion } from './KeyQuestion.js';
import { itemInWords, ReadingLine } from './ReadingLine.js';
import { RoleMenu } from './RoleMenu.js';
import { ROLES } from './roles.js';
import { ShowQuestion } from './ShowQuestion.js';

afterEach(cleanup);

test('the doubts of a line stand below the text where there is no room beside it, with their fixes', async () => {
  const { diagnostics } = readDraft('1. What is rye?\na) a grain\nb) a fish\n');
  const doubts = diagnostics.filter((d) => d.code === 'key-missing');
  const fixed: string[] = [];
  const { rerender } = render(<LineDoubts doubts={doubts} mayEdit onFix={(f) => fixed.push(f.label)} />);
  expect(screen.getByRole('region', { name: 'Doubts of the line' }).textContent).toContain('has no key');
  await userEvent.click(screen.getByRole('button', { name: 'Mark B' }));
  expect(fixed).toEqual(['Mark B']);
  rerender(<LineDoubts doubts={doubts} mayEdit={false} onFix={(f) => fixed.push(f.label)} />);
  expect(screen.queryAllByRole('button')).toEqual([]);
  rerender(<LineDoubts doubts={[]} mayEdit onFix={() => undefined} />);
  expect(screen.queryByRole('region')).toBeNull();
});

describe('the menu of roles', () => {
  const open = (role: Role | undefined, said = false) => {
    const picked: (Role | null)[] = [];
    let closed = 0;
    render(
      <RoleMenu
        at={{ line: 4, top: 10, left: 10 }}
        role={role && { role, mark: '', reason: 'A letter in front.' }}
        said={said}
        onClose={() => closed++}
        onPick={(r) => picked.push(r)}
      />,
    );
    return { picked, closed: () => closed };
  };
  test('shows what the line is and why, and takes another role', async () => {
    const { picked, closed } = open('option');
    const menu = await screen.findByRole('menu', { name: 'Role of line 5' });
    expect(
      within(menu)
        .getByRole('menuitemradio', { name: /^Option/ })
        .getAttribute('aria-checked'),
    ).toBe('true');
    expect(menu.textContent).toContain('A letter in front.');
    expect(within(menu).queryByText('Let the reader decide')).toBeNull();
    await userEvent.click(within(menu).getByRole('menuitemradio', { name: /^Key\b/ }));
    expect(picked).toEqual(['key']);
    expect(closed()).toBe(1);
  });
  test.each(ROLES.map((r) => [r.key, r.role] as const))('the key %s says %s', async (key, role) => {
    const { picked, closed } = open('question');
    await screen.findByRole('menu');
    await userEvent.keyboard(key);
    expect(picked).toEqual([role]);
    expect(closed()).toBe(1);
  });
  test('by arrows and Enter, and Escape changes nothing', async () => {
    const { picked, closed } = open(undefined);
    await screen.findByRole('menu');
    await userEvent.keyboard('{Home}{ArrowDown}{Enter}');
    expect(picked).toEqual([ROLES[1]?.role]);
    cleanup();
    const other = open('option');
    await screen.findByRole('menu');
    await userEvent.keyboard('{Escape}');
    expect([other.picked, other.closed()]).toEqual([[], 1]);
    expect(closed()).toBe(1);
  });
  test('what a person said can be left to the reader again', async () => {
    const { picked } = open('aside', true);
    await userEvent.click(await screen.findByRole('menuitem', { name: 'Let the reader decide' }));
    expect(picked).toEqual([null]);
  });
});

describe('one question shown', () => {
  const draft = 'Words of week 3\n\n- crumb\nthe inside of a loaf\n\n- crust';
  const { roles } = readDraft(draft);
  const shown = () => {
    const said: { line: number; role: Role }[][] = [];
    const lines = [2, 3, 4].map((line) => ({ line, text: draft.split('\n')[line] ?? '' }));
    render(<ShowQuestion lines={lines} roles={roles} onClose={() => undefined} onSay={(s) => said.push(s)} />);
    return said;
  };
  test('empty lines are no part of it; what is said is said of each line', async () => {
    const said = shown();
    expect(screen.getAllByRole('combobox')).toHaveLength(2);
    await userEvent.selectOptions(screen.getByLabelText('Line 3 is'), 'Question');
    await userEvent.selectOptions(screen.getByLabelText('Line 4 is'), 'Key');
    await userEvent.click(screen.getByRole('button', { name: 'Read the draft so' }));
    expect(said).toEqual([
      [
        { line: 2, role: 'question' },
        { line: 3, role: 'key' },
      ],
    ]);
  });
  test('a letter says a role and goes on to the next line', async () => {
    const said = shown();
    screen.getByLabelText('Line 3 is').focus();
    await userEvent.keyboard('q');
    expect(document.activeElement).toBe(screen.getByLabelText('Line 4 is'));
    await userEvent.keyboard('f');
    await userEvent.click(screen.getByRole('button', { name: 'Read the draft so' }));
    expect(said[0]?.map((s) => s.role)).toEqual(['question', 'feedback']);
  });
});

describe('which look is the key', () => {
  const look = (l: LookCount['look'], one: number, several: number, of: number): LookCount => ({ look: l, one, several, of }) as LookCount;
  const asked = (looks: LookCount[], decided?: 'none' | 'bold' | 'auto') => {
    const said: unknown[] = [];
    const { container } = render(<KeyQuestion looks={looks} decided={decided} onDecide={(k) => said.push(k)} />);
    return { said, text: () => container.textContent ?? '' };
  };
  test('the likeliest is asked about, the others are offered, and no is an answer', async () => {
    const { said, text } = asked([look('bold', 9, 1, 10), look('highlight', 5, 0, 10)]);
    expect(text()).toContain('Are the bold options the keys? 9 of 10 questions have exactly one, 1 has several.');
    await userEvent.click(screen.getByRole('button', { name: 'Yes, bold marks the keys' }));
    await userEvent.click(screen.getByRole('button', { name: /^No, .* does \(5 of 10\)$/ }));
    await userEvent.click(screen.getByRole('button', { name: 'No, it is only stress' }));
    expect(said).toEqual(['bold', 'highlight', 'none']);
  });
  test('a look in one question of many is stress, and nobody is asked', () => {
    expect(asked([look('bold', 1, 0, 10)]).text()).toBe('');
    cleanup();
    expect(asked([]).text()).toBe('');
  });
  test('what was decided is said and can be asked again', async () => {
    const { said, text } = asked([look('bold', 9, 0, 10)], 'bold');
    expect(text()).toContain('Bold options are the keys: 9 of 10 questions have exactly one.');
    await userEvent.click(screen.getByRole('button', { name: 'Ask again' }));
    expect(said).toEqual([undefined]);
    cleanup();
    expect(asked([look('bold', 9, 0, 10)], 'none').text()).toContain('Looks of options are taken for stress, not for keys.');
    cleanup();
    expect(asked([look('bold', 1, 0, 10)], 'none').text()).toBe('');
  });
});

test.each([
  ['1. Which?\na) this *\nb) that', 'multiple choice, 2 options, key A'],
  ['1. Which?\na) this\nb) that', 'multiple choice, 2 options, no key'],
  ['1. True or false: So it is. (2 points)\nAnswer: false', 'true or false, key F, 2 points'],
  ['1. Put in order: mix, rest\n1) mix\n2) rest\n3) bake', 'ordering, 3 steps'],
])('%j in words: %s', (draft, words) => {
  const [item] = readDraft(draft).set.items;
  expect(item && itemInWords(item)).toBe(words);
});

test('the line under the caret: its number, its role, the reason and its question', () => {
  const { roles, set } = readDraft('1. Which?\na) this *\nb) that');
  render(<ReadingLine line={1} role={roles[1]} item={set.items[0]} />);
  const said = screen.getByRole('region', { name: 'Reading of the line' }).textContent ?? '';
  expect(said).toMatch(/^Line 2option/);
  expect(said).toContain('“Which?”: multiple choice, 2 options, key A');
  cleanup();
  const { container } = render(<ReadingLine line={0} role={undefined} item={undefined} />);
  expect(container.innerHTML).toBe('');
});

test('doubts are counted, and one press leads to the next', async () => {
  let next = 0;
  const { rerender, container } = render(<DoubtCount count={0} onNext={() => next++} />);
  expect(container.innerHTML).toBe('');
  rerender(<DoubtCount count={1} onNext={() => next++} />);
  await userEvent.click(screen.getByRole('button', { name: '1 doubt' }));
  rerender(<DoubtCount count={3} onNext={() => next++} />);
  await userEvent.click(screen.getByRole('button', { name: '3 doubts' }));
  expect(next).toBe(2);
});
