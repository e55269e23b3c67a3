/** The dialogs of Check: at most one is open. */
import { includedItems, type SetDocument } from '@zakuska/core';
import { lazy, type ReactNode, Suspense } from 'react';
import type { Command } from '../ui/commands.js';
import { KeyList } from '../ui/KeyList.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';
import { BulkDialog, MoveDialog } from './BulkDialog.js';
import { ChecksDialog } from './ChecksDialog.js';
import { DivideDialog } from './DivideDialog.js';
import { NewerDialog, type useNewer } from './NewerDialog.js';
import { ReplaceDialog } from './ReplaceDialog.js';
import type { Chosen } from './useChosen.js';
import type { ItemChanges } from './useItemChanges.js';
import type { Walk } from './useWalk.js';

const HistoryDialog = lazy(() => import('./HistoryDialog.js').then((m) => ({ default: m.HistoryDialog })));
const PreviewDialog = lazy(() => import('./PreviewDialog.js').then((m) => ({ default: m.PreviewDialog })));

export type Dialog = 'divide' | 'newer' | 'keys' | 'bulk' | 'move' | 'replace' | 'history' | 'preview' | 'checks' | 'findings';

interface CheckDialogsProps {
  open: Dialog | null;
  onClose: () => void;
  document: SetDocument;
  at: { set: string; workspace: string };
  saved: boolean;
  mayEdit: boolean;
  walk: Walk;
  chosen: Chosen;
  changes: ItemChanges;
  commands: Command[];
  newer: ReturnType<typeof useNewer>;
  /** The findings, where the screen has no room beside the items. */
  findings: () => ReactNode;
}

export function CheckDialogs({ open, onClose, document: doc, at, saved, mayEdit, walk, chosen, changes, commands, newer, findings }: CheckDialogsProps) {
  const { perform } = changes;
  return (
    <>
      <KeyList open={open === 'keys'} commands={commands} onClose={onClose} />
      {open === 'findings' && (
        <Modal open onClose={onClose} title={say('Findings')}>
          {findings()}
        </Modal>
      )}
      {open === 'bulk' && chosen.items.length > 0 && <BulkDialog items={chosen.items} document={doc} onClose={onClose} perform={perform} />}
      {open === 'move' && <MoveDialog items={doc.set.items} chosen={chosen.ids} onClose={onClose} onMove={changes.ofChosen.move} />}
      {open === 'replace' && <ReplaceDialog document={doc} chosen={chosen.ids} words={walk.filter.words ?? ''} onClose={onClose} perform={perform} />}
      {open === 'checks' && <ChecksDialog document={doc} workspace={at.workspace} mayEdit={mayEdit} onClose={onClose} perform={perform} />}
      {open === 'divide' && (
        <DivideDialog
          document={doc}
          workspace={at.workspace}
          mayEdit={mayEdit}
          perform={perform}
          onShow={(account) => {
            walk.setFilter({ work: account });
            onClose();
          }}
          onClose={onClose}
        />
      )}
      {open === 'newer' && newer.length > 0 && <NewerDialog set={at.set} pairs={newer} mayEdit={mayEdit} perform={perform} onClose={onClose} />}
      <Suspense fallback={null}>
        {open === 'history' && <HistoryDialog set={at.set} document={doc} saved={saved} mayEdit={mayEdit} onClose={onClose} perform={perform} />}
        {open === 'preview' && <PreviewDialog set={{ ...doc.set, items: includedItems(doc) }} first={walk.item} onClose={onClose} />}
      </Suspense>
    </>
  );
}
