/** What a person can do in Check, by keyboard or palette; the list of keys shows the same. */
import type { Evidence, Finding, Item } from '@zakuska/core';
import { keyProblem, removing, type SetDocument } from '@zakuska/core';
import { toast } from 'sonner';
import { addCommands } from '../edit/AddItem.js';
import type { Command } from '../ui/commands.js';
import { say } from '../words/say.js';
import type { Dialog } from './CheckDialogs.js';
import { keyByDigit } from './keyByDigit.js';
import type { Chosen } from './useChosen.js';
import type { ItemChanges } from './useItemChanges.js';
import type { Walk } from './useWalk.js';

export interface CheckCommandsOf {
  document: SetDocument;
  findings: readonly Finding[];
  evidence: ReadonlyMap<string, Evidence>;
  hasSource: boolean;
  mayEdit: boolean;
  /** Whether items have changed where they were taken from. */
  newer: boolean;
  walk: Walk;
  chosen: Chosen;
  changes: ItemChanges;
  openDialog: (dialog: Dialog) => void;
  /** Opens the menu of kinds of items. */
  addItem: () => void;
  /** Puts the cursor where words to find are typed. */
  find: () => void;
  /** Opens the request to an assistant. */
  ask: () => void;
}

/** Commands that change the item at hand, or those that are chosen. */
function changing({ walk, chosen, changes, openDialog, ask }: CheckCommandsOf, item: Item): Command[] {
  const { perform } = changes;
  return [
    {
      name: say('Set the key: first, second … option; 1 true, 2 false'),
      keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
      shown: say('1 to 9'),
      keysOnly: true,
      run: (key) => {
        const operation = keyByDigit(item, Number(key));
        if (operation) perform(operation);
      },
    },
    { name: say('Mark the item as checked, and on to the next'), keys: ['C'], run: () => changes.check(item) },
    { name: say('Leave the item out, or take it back in'), keys: ['X'], run: () => changes.toggleOut(item) },
    { name: say('Edit the current item; Escape ends'), keys: ['E'], run: () => walk.toggle('editor') },
    { name: say('Do what the first finding offers'), keys: ['M'], run: changes.applyFirstFix },
    { name: say('Set the first finding aside, with a reason'), keys: ['D'], run: changes.setAside },
    { name: say('Choose the item, or not'), keys: ['S'], run: () => chosen.choose(item.id) },
    { name: say('Choose all items that are shown, or none'), keys: ['A'], run: () => chosen.chooseAll(walk.shown) },
    {
      name: say('Change the chosen items'),
      keys: ['B'],
      run: () => {
        if (!chosen.items.length) chosen.chooseOnly([item]);
        openDialog('bulk');
      },
    },
    ...(chosen.items.length ? [{ name: say('Mark the chosen items as checked'), keys: ['Shift C'], run: changes.ofChosen.check }] : []),
    { name: say('Rework the chosen items with an assistant, or all'), keys: ['W'], run: ask },
    { name: say('Copy the current item'), run: () => changes.copy(item) },
    { name: say('Take the current item out of the set'), run: () => void perform(removing([item.id])) },
  ];
}

/** Commands that go to another item. */
function going({ document: doc, findings, evidence, hasSource, walk }: CheckCommandsOf): Command[] {
  const noSource = (): void => void toast(say('The set has no source. Add one under Sources.'));
  return [
    { name: say('Try an answer'), keys: ['T'], run: () => walk.toggle('try') },
    { name: say('What the source says of the key'), keys: ['V'], run: () => (hasSource ? walk.toggle('evidence') : noSource()) },
    { name: say('Next item with an error'), keys: ['N'], run: () => walk.next((i) => keyProblem(i) !== null, say('No item has an error.')) },
    {
      name: say('Next item with a finding'),
      keys: ['F'],
      run: () => {
        const told = new Set(findings.flatMap((f) => (f.items.length === 1 ? f.items : [])));
        walk.next((i) => told.has(i.id), say('No item has a finding.'));
      },
    },
    {
      name: say('Next item that the source does not support'),
      keys: ['G'],
      run: () => {
        if (!hasSource) return noSource();
        walk.setUnder('evidence');
        walk.next((i) => (evidence.get(i.id)?.verdict ?? 'supported') !== 'supported', say('The source supports the key of every item.'));
      },
    },
    { name: say('Next item that is not checked yet'), keys: ['O'], run: () => walk.next((i) => !doc.reviews[i.id], say('Every item is checked.')) },
  ];
}

/** All commands of Check. */
export function checkCommands(of: CheckCommandsOf): Command[] {
  const { document: doc, walk, changes, mayEdit, openDialog } = of;
  return [
    { name: say('Next item'), keys: ['J', 'ArrowDown'], keysOnly: true, run: () => walk.step(1) },
    { name: say('Previous item'), keys: ['K', 'ArrowUp'], keysOnly: true, run: () => walk.step(-1) },
    ...(mayEdit && walk.item ? changing(of, walk.item) : []),
    ...going(of),
    ...(mayEdit ? [{ name: say('Add an item'), keys: ['I'], keysOnly: true, run: of.addItem }, ...addCommands(changes.add)] : []),
    ...(mayEdit ? [{ name: say('Find and replace'), keys: ['R'], run: () => openDialog('replace') }] : []),
    { name: say('Words to find'), keys: ['/'], run: of.find },
    { name: say('Preview as a learner'), keys: ['P'], run: () => openDialog('preview') },
    { name: say('History of the set'), keys: ['H'], run: () => openDialog('history') },
    { name: say('How the set is checked'), run: () => openDialog('checks') },
    ...(mayEdit || doc.work ? [{ name: say('Divide the checking among colleagues'), run: () => openDialog('divide') }] : []),
    ...(of.newer ? [{ name: say('What has changed where items were taken from'), run: () => openDialog('newer') }] : []),
    ...(mayEdit ? [{ name: say('Undo the last change'), keys: ['U'], run: changes.undo }] : []),
    {
      name: say('Close what is open'),
      keys: ['Escape'],
      keysOnly: true,
      whileTyping: true,
      run: () => {
        if (document.activeElement instanceof HTMLElement && document.activeElement !== document.body) document.activeElement.blur();
        walk.setUnder(null);
        walk.endAside();
      },
    },
    { name: say('Show all shortcuts'), keys: ['?'], run: () => openDialog('keys') },
  ];
}
