/** @jest-environment ./src/testing/environment.mjs */
/** What counts of answers from elsewhere is chosen, kept as it was, and sent whole. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Source } from './sources.js';

const sent: unknown[] = [];
jest.unstable_mockModule('../api/client.js', () => ({
  api: { PUT: (path: string, { body }: { body: unknown }) => sent.push([path, body]) },
  call: async (x: unknown) => x,
  callUnlessSame: async (x: unknown) => x,
  wordsOf: String,
}));
const { OutsideRulesDialog } = await import('./OutsideRules.js');

afterEach(cleanup);
beforeEach(() => sent.splice(0));
const source: Source = { id: 'p1', name: 'Table: week two', responses: 3, link: '', version: '', placement: true, table: true };
function open(rules?: NonNullable<Source['rules']>) {
  const closed = jest.fn();
  render(
    <QueryClientProvider client={new QueryClient()}>
      <OutsideRulesDialog source={{ ...source, ...(rules && { rules }) }} set="s" onClose={closed} />
    </QueryClientProvider>,
  );
  return { user: userEvent.setup(), closed };
}
const PUT = '/api/v1/placements/{placement}/rules';

test('the best counts, and a day is taken off', async () => {
  const { user, closed } = open();
  expect(screen.queryByLabelText('Handing in later costs')).toBeNull();
  await user.selectOptions(screen.getByLabelText('Of several answers of a person counts'), 'the best');
  fireEvent.change(screen.getByLabelText('Due'), { target: { value: '2026-11-02T12:00' } });
  const cost = screen.getByLabelText('Handing in later costs');
  fireEvent.change(cost, { target: { value: '25' } });
  await user.click(screen.getByRole('button', { name: 'Count them so' }));
  await waitFor(() => expect(closed).toHaveBeenCalled());
  const due = new Date('2026-11-02T12:00').toISOString();
  expect(sent).toEqual([[PUT, { rules: { counts: 'best', late: { due, percent: 25, per: 'day' } } }]]);
});

test('what was said before stands there, and can be taken back', async () => {
  const { user } = open({ counts: 'last', late: { due: '2026-11-02T12:00:00.000Z', percent: 10, per: 'once' } });
  expect(screen.getByLabelText<HTMLSelectElement>('Of several answers of a person counts').value).toBe('last');
  await user.selectOptions(screen.getByLabelText('Of several answers of a person counts'), 'each by itself, as they came');
  fireEvent.change(screen.getByLabelText('Due'), { target: { value: '' } });
  await user.click(screen.getByRole('button', { name: 'Count them so' }));
  await waitFor(() => expect(sent).toEqual([[PUT, { rules: {} }]]));
});
