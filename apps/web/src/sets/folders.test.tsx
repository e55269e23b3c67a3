/** @jest-environment ./src/testing/environment.mjs */
/** The tree of folders: sums of what lies below, and everything by keyboard. */
import '../testing/browser.js';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Dragging } from '../ui/Dragging.js';
import { FolderTree } from './FolderTree.js';
import { inOrder, treeOf, within } from './useFolders.js';

afterEach(() => {
  cleanup();
  localStorage.clear();
});
const view = (id: string, name: string, sets: number, parent?: string, role: 'owner' | 'reader' = 'owner') => ({
  id,
  name,
  sets,
  role,
  closed: id === 'c',
  ...(parent !== undefined && { parent }),
});
const tree = treeOf([view('a', 'Bread', 1), view('b', 'Unit', 2, 'a'), view('c', 'Week', 4, 'b'), view('d', 'Fish', 0, undefined, 'reader')]);

test('sets are counted with all below; a folder knows its way from the top', () => {
  expect(inOrder(tree.top).map((f) => [f.path.join('/'), f.sets])).toEqual([
    ['Bread', 7],
    ['Bread/Unit', 6],
    ['Bread/Unit/Week', 4],
    ['Fish', 0],
  ]);
  expect(within(tree, 'c', 'a')).toBe(true);
  expect(within(tree, 'a', 'c')).toBe(false);
  expect(within(tree, undefined, 'a')).toBe(false);
  // the folder above is one that the person does not see
  expect(treeOf([view('x', 'Lost', 1, 'unseen')]).top.map((f) => f.id)).toEqual(['x']);
});

test('one tab stop; arrows open, close and go; Enter chooses, F2 renames, Delete deletes what one may change', async () => {
  const did: string[] = [];
  function Held() {
    const [place, setPlace] = useState('');
    return (
      <Dragging onDrop={() => undefined}>
        <FolderTree
          tree={tree}
          place={place}
          onPlace={(p) => {
            did.push(`at ${p}`);
            setPlace(p);
          }}
          onRename={(f) => did.push(`rename ${f.id}`)}
          onRemove={(f) => did.push(`remove ${f.id}`)}
        />
      </Dragging>
    );
  }
  render(<Held />);
  const names = (): (string | null)[] => screen.getAllByRole('treeitem').map((e) => e.getAttribute('aria-label'));
  expect(names()).toEqual(['All sets', 'Bread, 7 sets', 'Fish, 0 sets', 'In no folder']);
  await userEvent.tab();
  expect(document.activeElement?.getAttribute('aria-label')).toBe('All sets');
  await userEvent.keyboard('{ArrowDown}{ArrowRight}');
  expect(names()).toEqual(['All sets', 'Bread, 7 sets', 'Unit, 6 sets', 'Fish, 0 sets', 'In no folder']);
  await userEvent.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}');
  expect(document.activeElement?.getAttribute('aria-label')).toBe('Week, 4 sets, shared with some only');
  await userEvent.keyboard('{F2}{Delete}{Enter}');
  await userEvent.keyboard('{ArrowLeft}{ArrowLeft}');
  expect(names()).not.toContain('Week, 4 sets, shared with some only');
  await userEvent.keyboard('{End}{ArrowUp}{F2}{Delete}{ }{Home}{Enter}');
  expect(did).toEqual(['rename c', 'remove c', 'at c', 'at d', 'at ']);
  expect(screen.getAllByRole('treeitem').filter((e) => e.tabIndex === 0)).toHaveLength(1);
});

test('the way to the folder that is shown is open, also on the next visit', () => {
  render(
    <Dragging onDrop={() => undefined}>
      <FolderTree tree={tree} place="c" onPlace={() => undefined} onRename={() => undefined} onRemove={() => undefined} />
    </Dragging>,
  );
  expect(screen.getByRole('treeitem', { selected: true }).getAttribute('aria-label')).toMatch(/^Week/);
});
