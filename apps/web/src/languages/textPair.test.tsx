/** @jest-environment ./src/testing/environment.mjs */
/** A text beside its translation: typed with its codes, told where one is lost, kept, left, taken away. */
import '../testing/browser.js';
import { type QuizSet, readDraft, sideBySide, type Translation, typedTranslation, withTranslations } from '@zakuska/core';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { LanguageSelect } from './LanguageSelect.js';
import { Returned } from './Returned.js';
import { TextPair } from './TextPair.js';

afterEach(cleanup);
const SET: QuizSet = readDraft('1. Dough rests in the {fridge}.\n').set;
const stemOf = (set: QuizSet) => sideBySide(set, 'es').find((r) => r.unit.id.endsWith('.stem'))!;

function shown(set: QuizSet, editing = true) {
  const saved: (Translation | null)[] = [];
  const said: string[] = [];
  const nothing = (): undefined => undefined;
  render(
    <TextPair
      row={stemOf(set)}
      place={0}
      measure={nothing}
      now
      editing={editing}
      mayEdit
      own="en"
      language="es"
      by="Ada"
      onPick={nothing}
      onEdit={() => said.push('edit')}
      onSave={(t) => saved.push(t)}
      onLeave={() => said.push('left')}
      onCheck={() => said.push('checked')}
    />,
  );
  return { saved, said };
}

test('a code that is lost is told, and nothing is kept until it is back', async () => {
  const { saved, said } = shown(SET);
  const box = screen.getByRole('textbox');
  await userEvent.type(box, 'La masa reposa{Enter}');
  expect(screen.getByRole('alert').textContent).toBe('Code 1 (the gap [[1]]) is missing. Codes may stand elsewhere in the text, each once.');
  expect(saved).toEqual([]);
  await userEvent.type(box, ' en el <1/>.{Enter}');
  expect(saved).toEqual([expect.objectContaining({ text: 'La masa reposa en el [[1]].', state: 'made', by: 'Ada' })]);
  await userEvent.keyboard('{Escape}');
  expect(said).toEqual(['left']);
});

test('what is emptied is taken away; what stays as it was is left; the original may be begun with', async () => {
  const made = withTranslations(SET, 'es', { [stemOf(SET).unit.id]: typedTranslation(stemOf(SET), 'La masa en el <1/>.', 'Otto') });
  const { saved, said } = shown(made);
  await userEvent.keyboard('{Enter}');
  expect([saved, said]).toEqual([[], ['left']]);
  await userEvent.clear(screen.getByRole('textbox'));
  await userEvent.click(screen.getByRole('button', { name: 'Begin with the original' }));
  expect((screen.getByRole('textbox') as HTMLTextAreaElement).value).toBe('Dough rests in the <1/>.');
  await userEvent.clear(screen.getByRole('textbox'));
  await userEvent.keyboard('{Enter}');
  expect(saved).toEqual([null]);
});

test('a stale one says so, and may still be right', async () => {
  const made = withTranslations(SET, 'es', { [stemOf(SET).unit.id]: { ...typedTranslation(stemOf(SET), 'La masa en el <1/>.', 'Otto'), print: 'of another' } });
  const { said } = shown(made, false);
  expect(screen.getByText('stale: the original has changed')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: /^Still right/ }));
  await userEvent.dblClick(screen.getByText('La masa en el <1/>.'));
  expect(said).toEqual(['checked', 'edit']);
});

test('what came back is told before it is taken: how many, and what does not hold', async () => {
  let taken = 0;
  const told = [
    { line: 3, name: 'Question 1, question', taken: false, why: 'code 1 is missing' },
    { line: 4, name: 'Question 2, question', taken: true, why: 'its original has changed since it went out' },
  ];
  const t: Translation = { text: 'sal', print: 'x', state: 'made' };
  render(
    <Returned
      name="back.xlf"
      taken={{ language: 'es', taken: { a: t, b: t }, untranslated: 1, same: 4, told }}
      onTake={() => taken++}
      onLeave={() => undefined}
    />,
  );
  expect(screen.getByRole('region').textContent).toContain('back.xlf, in Spanish: 2 texts to take in, 4 as before, 1 without a translation, 1 not taken');
  expect(screen.getAllByRole('listitem').map((l) => l.textContent)).toEqual([
    'line 3, Question 1, question: not taken: code 1 is missing',
    'line 4, Question 2, question: its original has changed since it went out',
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'Take in 2 texts' }));
  expect(taken).toBe(1);
});

test('a language by its name, or any other by its code; what is no code is not taken', async () => {
  const chosen: string[] = [];
  render(<LanguageSelect there={['fr']} own="en" value="fr" mayAdd onChoose={(l) => chosen.push(l)} />);
  const select = screen.getByLabelText('Language');
  expect([...select.querySelectorAll('option')].some((o) => o.textContent === 'English')).toBe(false);
  await userEvent.selectOptions(select, 'Spanish');
  await userEvent.selectOptions(select, 'another one …');
  const box = screen.getByLabelText('Code of the language');
  await userEvent.type(box, 'Klingon!{Enter}');
  await userEvent.clear(box);
  await userEvent.type(box, 'pt-AO{Enter}');
  expect(chosen).toEqual(['es', 'pt-AO']);
});
