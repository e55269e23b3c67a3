/** @jest-environment ./src/testing/environment.mjs */
/** All versions at once: each to its own place and group; what stands already is brought up to date; what was not sent is said. */
import '../testing/browser.js';
import { draw, type Item, poolOf, serviceRows } from '@zakuska/core';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { AllVersions } from './AllVersions.js';
import type { PushView } from './push.js';

afterEach(cleanup);

const items = Array.from(
  { length: 6 },
  (_, n) => ({ id: `i${n}`, kind: 'true-false', stem: `Step ${n * 7} of recipe ${n * 13} is right.`, points: 1, answer: true }) as Item,
);
const drawn = draw(poolOf([{ title: 'Pool', items }]), { versions: ['A', 'B', 'C'].map((name) => ({ name, count: 2 })), overlap: 'none' });
const containers = [
  { id: 'new quiz bread', title: 'A new quiz', holds: '', link: '', fresh: true, parts: ['Evening', 'Morning'].map((id) => ({ id, title: id })) },
  { id: 'q7', title: 'Version C', holds: '2 items', link: '', parts: [] },
];
const placements = [{ version: 'C', language: '', container: 'q7' }] as never;

test('versions take turns among the groups; one that stands already keeps its place; a failure says how far it came', async () => {
  const sent: object[] = [];
  const first: string[] = [];
  let fail = false;
  render(
    <AllVersions
      drawn={drawn}
      row={serviceRows.lms}
      containers={containers}
      placements={placements}
      language={undefined}
      send={async (body) => {
        if (fail && sent.length === 1) throw new Error('the line broke');
        sent.push(body);
        return Promise.resolve({ id: body.version } as PushView);
      }}
      onSent={(p) => first.push(p.id)}
    />,
  );
  expect(screen.getByText('is brought up to date where it stands')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Push A, B, C' }));
  expect(sent).toEqual([
    { version: 'A', container: 'new quiz bread', part: 'Evening' },
    { version: 'B', container: 'new quiz bread', part: 'Morning' },
    { version: 'C', container: 'q7' },
  ]);
  expect(first).toEqual(['A']);
  sent.length = 0;
  fail = true;
  await userEvent.selectOptions(screen.getByLabelText('Version A: for'), 'everybody in the course');
  await userEvent.click(screen.getByRole('button', { name: 'Push A, B, C' }));
  expect(sent).toEqual([{ version: 'A', container: 'new quiz bread' }]);
  expect(first).toEqual(['A', 'A']);
});
