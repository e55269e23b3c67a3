/** What stands under the item at hand: what can be done with it, or its editor, a try, or what the source says. */
import { type Evidence, isGraded, type Item, type Operation, type QuizSet, type Review } from '@zakuska/core';
import { lazy, type ReactNode, Suspense } from 'react';
import { Busy } from '../frame/Frame.js';
import { Button } from '../ui/Button.js';
import { AskedBefore } from './AskedBefore.js';
import { EvidenceView, LookUp } from './EvidenceView.js';
import { TryBox } from './TryBox.js';
import { say } from '../words/say.js';

const ItemEditor = lazy(() => import('../edit/ItemEditor.js').then((m) => ({ default: m.ItemEditor })));

/** What is open under the item. */
export type Under = 'editor' | 'try' | 'evidence';

export interface CurrentItemProps {
  item: Item;
  set: QuizSet;
  review: Review | undefined;
  under: Under | null;
  evidence: Evidence | undefined;
  /** What the checks find of it, where there is no room beside it. */
  findings?: ReactNode;
  mayEdit: boolean;
  /** Where the item stands: what else is asked is looked for elsewhere in the workspace. */
  at: { set: string; workspace: string };
  /** An item as it is at this moment. */
  now: (id: string) => Item | undefined;
  perform: (o: Operation) => boolean;
  onCheck: () => void;
  onLeaveOut: () => void;
  /** Opens or closes something under the item. */
  onUnder: (under: Under) => void;
  onDone: () => void;
  onOpenSource: (source: string, from: number, to: number) => void;
}

export function CurrentItem(p: CurrentItemProps) {
  const { item, under, evidence, mayEdit } = p;
  return (
    <>
      {under === 'editor' && mayEdit ? (
        <Suspense fallback={<Busy what={say('Opening the editor')} />}>
          <ItemEditor item={item} set={p.set} current={p.now} perform={p.perform} onDone={p.onDone} />
          {/* wide screens say it beside the item, where nothing moves while one types */}
          <AskedBefore item={item} {...p.at} className="mt-3 lg:hidden" />
        </Suspense>
      ) : (
        <Tools {...p} />
      )}
      {p.findings}
      {under === 'try' && isGraded(item) && <TryBox item={item} set={p.set} perform={mayEdit ? p.perform : null} />}
      {under === 'evidence' && evidence && <EvidenceView item={item} evidence={evidence} onOpen={p.onOpenSource} perform={mayEdit ? p.perform : null} />}
    </>
  );
}

function Tools({ item, review, under, evidence, mayEdit, onCheck, onLeaveOut, onUnder }: CurrentItemProps) {
  const checked = review?.state === 'checked';
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2">
      {mayEdit && (
        <>
          <Button look={checked ? 'plain' : 'primary'} keys="C" onClick={onCheck}>
            {checked ? say('Mark as not checked') : say('Mark as checked')}
          </Button>
          <Button keys="E" onClick={() => onUnder('editor')}>
            {say('Edit')}
          </Button>
        </>
      )}
      {isGraded(item) && (
        <Button keys="T" aria-expanded={under === 'try'} onClick={() => onUnder('try')}>
          {say('Try')}
        </Button>
      )}
      {evidence && (
        <Button keys="V" aria-expanded={under === 'evidence'} onClick={() => onUnder('evidence')}>
          {say('In the source')}
        </Button>
      )}
      {mayEdit && (
        <Button keys="X" onClick={onLeaveOut}>
          {review?.state === 'left-out' ? say('Take back in') : say('Leave out')}
        </Button>
      )}
      <LookUp item={item} />
    </div>
  );
}
