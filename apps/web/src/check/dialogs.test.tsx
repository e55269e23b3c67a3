/** @jest-environment ./src/testing/environment.mjs */
/** Changing, moving, finding and replacing many items, trying an answer: what is told beforehand is what is done. */
import '../testing/browser.js';
import { apply, defaultMatch, type Evidence, findingsOf, type Item, type Operation, readDraft, type SetDocument } from '@zakuska/core';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { BulkDialog, MoveDialog } from './BulkDialog.js';
import { FilterBar } from './FilterBar.js';
import { EvidenceView } from './EvidenceView.js';
import { Findings, OwnFindings } from './Findings.js';
import { ReplaceDialog } from './ReplaceDialog.js';
import { TryBox } from './TryBox.js';

afterEach(cleanup);

const choice = (id: string, stem: string, more: Partial<Item> = {}): Item =>
  ({
    id,
    kind: 'multiple-choice',
    stem,
    points: 1,
    options: [
      { id: 'a', content: 'rye flour', credit: 1 },
      { id: 'b', content: 'wheat flour', credit: 0 },
    ],
    ...more,
  }) as Item;
const start = (): SetDocument => ({
  set: {
    title: 'T',
    items: [choice('one', 'Which flour?'), choice('two', 'Which Flour suits?', { tags: ['bread'] }), { id: 'three', kind: 'essay', stem: 'Say.', points: 1 }],
  },
  reviews: { one: { state: 'checked', by: 'M', at: '2026-01-01T00:00:00Z' } },
});

/** A document that operations change, and what was done to it. */
function held(document = start()) {
  const done: Operation[] = [];
  return {
    done,
    get document() {
      return document;
    },
    perform: (o: Operation): boolean => {
      document = apply(document, o).document;
      done.push(o);
      return true;
    },
  };
}
const status = (): string => screen.getByRole('status').textContent ?? '';

describe('changing many', () => {
  const open = (h = held()) => {
    let closed = 0;
    render(<BulkDialog items={h.document.set.items} document={h.document} onClose={() => closed++} perform={h.perform} />);
    return { h, closed: () => closed };
  };
  const what = (name: string): Promise<void> => userEvent.selectOptions(screen.getByLabelText('What'), name);

  const setting = (name: string, value: string): Promise<void> => userEvent.selectOptions(screen.getByLabelText(name), value);
  const change = (): HTMLButtonElement => screen.getByRole('button', { name: /^Change/ });

  test('points: how many change is said, and which checks they lose', async () => {
    const { h, closed } = open();
    expect([status(), change().disabled]).toEqual(['Nothing is changed yet.', true]);
    await userEvent.type(screen.getByLabelText('Points of each'), 'two');
    expect([status(), change().disabled]).toEqual(['Something is missing, or is no number.', true]);
    await userEvent.clear(screen.getByLabelText('Points of each'));
    await userEvent.type(screen.getByLabelText('Points of each'), '2,5');
    expect(status()).toMatch(/^Changes 3 of 3\./);
    await userEvent.click(change());
    expect(h.document.set.items.map((i) => i.points)).toEqual([2.5, 2.5, 2.5]);
    expect(h.done).toHaveLength(1);
    expect(h.done[0]).toMatchObject({ type: 'all', label: 'Settings of 3 items' });
    expect(closed()).toBe(1);
  });
  test('points, must be answered, shuffled and a time limit in one go; what is not touched stays', async () => {
    const { h } = open();
    const before = h.document.set.items.map((i) => i.shuffle);
    await userEvent.type(screen.getByLabelText('Points of each'), '2');
    await setting('Must be answered', 'must be answered');
    await setting('Time limit', 'seconds for each');
    await userEvent.clear(screen.getByLabelText('Seconds for each'));
    expect(status()).toBe('Something is missing, or is no number.');
    await userEvent.type(screen.getByLabelText('Seconds for each'), '90');
    expect(status()).toMatch(/^Changes 3 of 3\./);
    await userEvent.click(change());
    expect(h.done).toHaveLength(1);
    expect(h.document.set.items.map((i) => [i.points, i.required, i.timeLimit])).toEqual([
      [2, true, 90],
      [2, true, 90],
      [2, true, 90],
    ]);
    expect(h.document.set.items.map((i) => i.shuffle)).toEqual(before);
  });
  test('a limit is taken away, a rule goes back to that of the set', async () => {
    const h = held({ ...start(), set: { title: 'T', items: [choice('one', 'Q', { timeLimit: 30, shuffle: false }), choice('two', 'R')] } });
    open(h);
    await setting('Time limit', 'none');
    await setting('Options', 'as the whole set');
    expect(status()).toMatch(/^Changes 1 of 2\./);
    await userEvent.click(change());
    expect(h.document.set.items.map((i) => [i.timeLimit, i.shuffle])).toEqual([
      [undefined, undefined],
      [undefined, undefined],
    ]);
  });
  test('tags: some come, some go', async () => {
    const { h } = open();
    await what('Tags');
    await userEvent.type(screen.getByLabelText('Tags to add'), 'week 3, dough');
    await userEvent.type(screen.getByLabelText('Tags to take off'), 'bread');
    await userEvent.click(screen.getByRole('button', { name: /^Change/ }));
    expect(h.document.set.items.map((i) => i.tags)).toEqual([
      ['week 3', 'dough'],
      ['week 3', 'dough'],
      ['week 3', 'dough'],
    ]);
  });
  test('feedback only where there is none', async () => {
    const h = held({ ...start(), set: { title: 'T', items: [choice('one', 'Q', { feedback: { general: 'Old.' } }), choice('two', 'R')] } });
    open(h);
    await what('Feedback');
    await userEvent.type(screen.getByLabelText('Text'), 'New.');
    expect(status()).toMatch(/^Changes 1 of 2\./);
    await userEvent.click(screen.getByLabelText('Only where there is none yet'));
    expect(status()).toMatch(/^Changes 2 of 2\./);
  });
  test('a language is a code or nothing', async () => {
    const { h } = open();
    await what('Language');
    await userEvent.type(screen.getByLabelText('Language'), 'not a code');
    expect(status()).toBe('Something is missing, or is no number.');
    await userEvent.clear(screen.getByLabelText('Language'));
    await userEvent.type(screen.getByLabelText('Language'), 'de');
    await userEvent.click(screen.getByRole('button', { name: /^Change/ }));
    expect(h.document.set.items.map((i) => i.language)).toEqual(['de', 'de', 'de']);
  });
  test('first letters of options, not of questions', async () => {
    const { h } = open();
    await what('First letters');
    expect(status()).toMatch(/^Changes 2 of 3\./);
    await userEvent.click(screen.getByRole('button', { name: /^Change/ }));
    expect(h.document.set.items[0]).toMatchObject({ stem: 'Which flour?', options: [{ content: 'Rye flour' }, { content: 'Wheat flour' }] });
  });
  test('nothing is changed by Cancel', async () => {
    const { h, closed } = open();
    await userEvent.clear(screen.getByLabelText('Points of each'));
    await userEvent.type(screen.getByLabelText('Points of each'), '9');
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect([h.done, closed()]).toEqual([[], 1]);
  });
});

test('moving: to the beginning or behind one that is not chosen', async () => {
  const moves: number[] = [];
  const { items } = start().set;
  render(<MoveDialog items={items} chosen={new Set(['two'])} onClose={() => undefined} onMove={(to) => moves.push(to)} />);
  expect([...(screen.getByLabelText('To') as HTMLSelectElement).options].map((o) => o.text)).toEqual(['the beginning', 'behind item 1', 'behind item 3']);
  await userEvent.click(screen.getByRole('button', { name: 'Move' }));
  await userEvent.selectOptions(screen.getByLabelText('To'), 'behind item 3');
  await userEvent.click(screen.getByRole('button', { name: 'Move' }));
  expect(moves).toEqual([0, 3]);
});

describe('find and replace', () => {
  const open = (chosen: ReadonlySet<string> = new Set(), words = 'flour') => {
    const h = held();
    render(<ReplaceDialog document={h.document} chosen={chosen} words={words} onClose={() => undefined} perform={h.perform} />);
    return h;
  };
  const places = (): HTMLElement[] => within(screen.getByRole('list', { name: 'Places' })).queryAllByRole('listitem');

  test('every place is shown, may be left out, and the rest is replaced in one step', async () => {
    const h = open();
    expect(places()).toHaveLength(6);
    expect(status()).toBe('6 of 6 places. 1 checked item has to be checked again.');
    await userEvent.type(screen.getByLabelText('Replace with'), 'meal');
    await userEvent.click(within(places()[0] as HTMLElement).getByRole('checkbox'));
    expect(status()).toMatch(/^5 of 6 places\./);
    await userEvent.click(screen.getByRole('button', { name: 'Replace' }));
    expect(h.done).toHaveLength(1);
    expect(h.document.set.items[0]).toMatchObject({ stem: 'Which flour?', options: [{ content: 'rye meal' }, { content: 'wheat meal' }] });
    expect(JSON.stringify(h.document.set.items[1])).not.toMatch(/flour/i);
  });
  test('capital letters, whole words and chosen items narrow it', async () => {
    open(new Set(['two']));
    expect(screen.getByRole('dialog', { name: 'Find and replace in 1 chosen items' })).toBeTruthy();
    expect(places()).toHaveLength(3);
    await userEvent.click(screen.getByLabelText('Capital letters count'));
    expect(places()).toHaveLength(2);
    await userEvent.clear(screen.getByLabelText('Find'));
    await userEvent.type(screen.getByLabelText('Find'), 'flou');
    expect(places()).toHaveLength(2);
    await userEvent.click(screen.getByLabelText('Whole words only'));
    expect(places()).toHaveLength(0);
    expect(screen.getByText('Nothing has these words.')).toBeTruthy();
  });
  test('without words there is nothing to do', () => {
    open(new Set(), '');
    expect(status()).toBe('Type what is to be found.');
    expect((screen.getByRole('button', { name: 'Replace' }) as HTMLButtonElement).disabled).toBe(true);
  });
});

describe('trying an answer', () => {
  const item: Item = { id: 'i', kind: 'short-answer', stem: 'Q', points: 2, match: defaultMatch, answers: [{ text: 'poolish', credit: 1 }] };
  test('the marks and the reason are told, and what is offered is done', async () => {
    const h = held({ ...start(), set: { title: 'T', items: [item] } });
    render(<TryBox item={item} set={h.document.set} perform={h.perform} />);
    expect(status()).toBe('0 of 2 points No answer.');
    await userEvent.type(screen.getByLabelText('Your answer'), 'poolsh');
    expect(status()).toBe('0 of 2 points One letter differs from “poolish”.');
    await userEvent.click(screen.getByRole('button', { name: 'Allow one letter to differ' }));
    expect(h.document.set.items[0]).toMatchObject({ match: { spelling: 1 } });
  });
  test('who may only read is offered nothing', async () => {
    render(<TryBox item={item} set={{ title: 'T', items: [item] }} perform={null} />);
    await userEvent.type(screen.getByLabelText('Your answer'), 'poolsh');
    expect(screen.queryAllByRole('button')).toEqual([]);
  });
});

/** What the findings are given that no test here is about. */
const REST = {
  passage: undefined,
  sentenceWords: 30,
  hardMarks: false,
  onHardMarks: () => undefined,
  asideOf: null,
  unknown: false,
  onAsideDone: () => undefined,
};
describe('findings', () => {
  const { set } = readDraft('1. How hot is a fridge?\na) 12 °C\nb) 4 °C *\nc) 20 °C\n\n2. What is rye?\na) a grain\nb) a fish');
  const shown = (more: { mayEdit?: boolean; current?: number; evidence?: Evidence[] } = {}) => {
    const h = held({ set, reviews: {} });
    const gone: [string, string | undefined][] = [];
    function Page() {
      const [, again] = useState(0);
      const at = set.items[more.current ?? 0];
      return (
        <Findings
          findings={findingsOf(h.document.set)}
          reading={null}
          evidence={new Map((more.evidence ?? []).map((e) => [e.item, e]))}
          document={h.document}
          current={at}
          {...REST}
          mayEdit={more.mayEdit ?? true}
          onGo={(id, show) => gone.push([id, show])}
          perform={(o) => {
            h.perform(o);
            again((n) => n + 1);
            return true;
          }}
        />
      );
    }
    render(<Page />);
    return { h, gone };
  };

  test('of the item at hand in full, of others in a line that leads there', async () => {
    const { gone } = shown();
    expect(screen.getByText('The options are numbers that stand in no order.')).toBeTruthy();
    expect(screen.getByText('1 error elsewhere')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /^2 / }));
    expect(gone).toEqual([[set.items[1]?.id, undefined]]);
  });
  test('a fix is one operation, and its finding goes', async () => {
    const { h } = shown();
    const fix = findingsOf(set).find((f) => f.items[0] === set.items[0]?.id && f.fix)?.fix;
    await userEvent.click(screen.getByRole('button', { name: fix?.label ?? '' }));
    expect(h.done).toHaveLength(1);
    expect(screen.queryByRole('button', { name: fix?.label ?? '' })).toBeNull();
  });
  test('one is set aside with a reason, and taken back in', async () => {
    const { h } = shown();
    await userEvent.click(screen.getByRole('button', { name: 'Set aside' }));
    await userEvent.type(screen.getByLabelText('Why it is all right'), 'the order is the trap{Enter}');
    expect(Object.values(h.document.dismissed ?? {})).toEqual(['the order is the trap']);
    await userEvent.click(screen.getByText('1 set aside'));
    await userEvent.click(screen.getByRole('button', { name: 'Take back in' }));
    expect(h.document.dismissed ?? {}).toEqual({});
  });
  test('before the first check is through nobody is told that nothing was found', () => {
    const of = { findings: [], reading: null, evidence: new Map(), document: { set, reviews: {} }, current: set.items[0], mayEdit: true };
    const { rerender } = render(<Findings {...of} {...REST} unknown onGo={() => undefined} perform={() => true} />);
    expect(screen.getByText('Checking …')).toBeTruthy();
    expect(screen.queryByText(/Nothing was found/)).toBeNull();
    rerender(<Findings {...of} {...REST} onGo={() => undefined} perform={() => true} />);
    expect(screen.getByText(/Nothing was found/)).toBeTruthy();
  });
  test('below the item where there is no room beside it: what is wrong, and what can be done', async () => {
    const h = held({ set, reviews: {} });
    const own = findingsOf(set).filter((f) => f.items[0] === set.items[1]?.id && f.items.length === 1);
    render(<OwnFindings findings={own} mayEdit perform={h.perform} asideOf={null} onAsked={() => undefined} />);
    const region = screen.getByRole('region', { name: 'Findings of the item' });
    expect(region.textContent).toContain('no key');
    cleanup();
    render(<OwnFindings findings={[]} mayEdit perform={h.perform} asideOf={null} onAsked={() => undefined} />);
    expect(screen.queryByRole('region')).toBeNull();
  });
  test('who may only read sees them and can change nothing', () => {
    shown({ mayEdit: false });
    expect(screen.queryByRole('button', { name: 'Set aside' })).toBeNull();
  });
  test('what the source says is told by numbers, of many the first sixty', async () => {
    const many = Array.from({ length: 70 }, (_, i) => choice(`i${i}`, `Q ${i}`));
    const evidence = many.map((i): Evidence => ({ item: i.id, verdict: 'none', supports: [], contradicts: [] }));
    const gone: unknown[] = [];
    render(
      <Findings
        findings={[]}
        reading={null}
        evidence={new Map([...evidence, { item: 'i3', verdict: 'contradicted', supports: [], contradicts: [] } as Evidence].map((e) => [e.item, e]))}
        document={{ set: { title: 'T', items: many }, reviews: {} }}
        current={many[0]}
        {...REST}
        mayEdit
        onGo={(...to) => gone.push(to)}
        perform={() => true}
      />,
    );
    expect(screen.getByText(/The source says otherwise/).parentElement?.textContent).toContain('than the key of 4');
    const unfound = screen.getByText('Not found in the source:').parentElement as HTMLElement;
    expect(within(unfound).getAllByRole('button')).toHaveLength(60);
    expect(unfound.textContent).toMatch(/and 9 more$/);
    await userEvent.click(within(unfound).getByRole('button', { name: 'Item 2' }));
    expect(gone).toEqual([['i1', 'evidence']]);
  });
});

test('beside a sentence that says otherwise stands the key that it has', async () => {
  const sentence = { source: 's', sourceName: 'Notes', place: 'paragraph 1', from: 0, to: 10, text: 'A fridge has 4 °C.', tokens: [], clauses: [] };
  const hit = (more: object = {}): Evidence['contradicts'][number] => ({ sentence: sentence as never, score: 1, why: 'It says so.', matched: [], ...more });
  const options = ['12 °C', '20 °C', '4 °C'].map((content, i) => ({ id: `o${i}`, content, credit: i === 0 ? 1 : 0 }));
  const item = { ...choice('one', 'How hot?'), options } as Item;
  const of = (i: Item, h: Evidence['contradicts'][number]): Evidence => ({ item: i.id, verdict: 'contradicted', supports: [], contradicts: [h] });
  const done: Operation[] = [];
  const perform = (o: Operation): boolean => (done.push(o), true);
  render(<EvidenceView item={item} evidence={of(item, hit({ instead: 2 }))} onOpen={() => undefined} perform={perform} />);
  await userEvent.click(screen.getByRole('button', { name: 'Set C' }));
  const after = done[0]?.type === 'change' ? (done[0].set['options'] as { credit: number }[]).map((o) => o.credit) : [];
  expect(after.indexOf(1)).toBe(2);
  expect(after.filter((c) => c > 0)).toHaveLength(1);
  cleanup();
  const truth = { id: 't', kind: 'true-false', stem: 'It is so.', points: 1, answer: true } as Item;
  render(<EvidenceView item={truth} evidence={of(truth, hit())} onOpen={() => undefined} perform={perform} />);
  await userEvent.click(screen.getByRole('button', { name: 'Set false' }));
  expect(done[1]).toMatchObject({ type: 'change', id: 't', set: { answer: false } });
  cleanup();
  // a sentence that has no option says only that the key is wrong, and who may only read changes nothing
  render(<EvidenceView item={item} evidence={of(item, hit())} onOpen={() => undefined} perform={perform} />);
  expect(screen.queryByRole('button', { name: /^Set/ })).toBeNull();
  cleanup();
  render(<EvidenceView item={item} evidence={of(item, hit({ instead: 2 }))} onOpen={() => undefined} perform={null} />);
  expect(screen.queryByRole('button', { name: /^Set/ })).toBeNull();
});

test('the filter offers what there is in the set, and each choice narrows it', async () => {
  const filters: unknown[] = [];
  const { items } = start().set;
  render(
    <FilterBar
      items={items}
      shown={3}
      findings={findingsOf({ title: 'T', items })}
      work={[
        { account: 'a1', name: 'A. Able', items: [] },
        { account: 'b1', name: 'B. Busy', items: [] },
      ]}
      me="b1"
      hasSource={false}
      filter={{}}
      onFilter={(f) => filters.push(f)}
      finder={{ current: null }}
      mayEdit
      onAsk={() => undefined}
      onReplace={() => undefined}
      onPreview={() => undefined}
      onHistory={() => undefined}
      onChecks={() => undefined}
    />,
  );
  await userEvent.selectOptions(screen.getByLabelText('Who checks'), 'mine to check');
  expect(filters.pop()).toEqual({ work: 'b1' });
  await userEvent.selectOptions(screen.getByLabelText('State'), 'open');
  await userEvent.type(screen.getByLabelText('Words in the items'), 'f');
  expect(filters).toEqual([{ state: 'open' }, { words: 'f' }]);
  const names = screen.getAllByRole('combobox').flatMap((s) => [...(s as HTMLSelectElement).options].map((o) => o.text));
  expect(names).toContain('bread');
  expect(names).not.toContain('matching');
});
