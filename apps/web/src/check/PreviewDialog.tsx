/** The quiz as learners will see it, at the width of a phone or of a desk, in their own page. Nothing is kept or counted. */
import { asGiven, isGraded, type Item, keyProblem, learnerView, marksOf, outcomeOf, type QuizSet, type Response, seeded } from '@zakuska/core';
import { Monitor, Smartphone } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSession } from '../signin/session.js';
import type { FromPage, ToPage } from '../take/preview.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

const chance = seeded('preview');
const ALL = { score: true, marks: true, keys: true, feedback: true };

export function PreviewDialog({ set, first, onClose }: { set: QuizSet; first: Item | undefined; onClose: () => void }) {
  const { name } = useSession();
  const [wide, setWide] = useState(false);
  const frame = useRef<HTMLIFrameElement>(null);
  // items without a key are in the preview too: they are to be looked at
  const place = Math.max(0, first ? set.items.indexOf(first) : 0);
  const items = useMemo(() => set.items.map((i) => learnerView(i, set, chance)), [set]);
  const start = useRef(place);
  useEffect(() => {
    const hear = (e: MessageEvent<FromPage>): void => {
      if (e.origin !== location.origin || e.source !== frame.current?.contentWindow) return;
      const tell = (m: ToPage): void => frame.current?.contentWindow?.postMessage(m, location.origin);
      if (e.data.type === 'preview-ready')
        tell({
          type: 'preview',
          attempt: {
            id: 'preview',
            title: set.title,
            name,
            named: true,
            ...(set.language && { language: set.language }),
            now: new Date().toISOString(),
            phase: 'open',
            pages: 'one-by-one',
            back: true,
            place: 0,
            items,
            responses: {},
          },
          place: start.current,
        });
      else if (e.data.type === 'preview-submit') {
        const responses: Record<string, Response> = {};
        for (const i of set.items) {
          const shown = e.data.responses[i.id];
          if (shown) responses[i.id] = asGiven(i, shown, chance);
        }
        tell({ type: 'preview-outcome', outcome: outcomeOf(set, responses, marksOf(set, responses), ALL) });
      }
    };
    addEventListener('message', hear);
    return () => removeEventListener('message', hear);
  }, [set, items, name]);
  const unkeyed = set.items.filter((i) => isGraded(i) && keyProblem(i)).length;
  return (
    <Modal open full onClose={onClose} title={say('As learners see it')}>
      <div className="flex h-full flex-col gap-2">
        <div className="flex flex-wrap items-center gap-2">
          <Button aria-pressed={!wide} look={wide ? 'plain' : 'primary'} onClick={() => setWide(false)}>
            <Smartphone size={15} aria-hidden /> {say('Phone')}
          </Button>
          <Button aria-pressed={wide} look={wide ? 'primary' : 'plain'} onClick={() => setWide(true)}>
            <Monitor size={15} aria-hidden /> {say('Desk')}
          </Button>
          <span className="text-[13.5px] text-ink-2">
            {say('Nothing is kept or counted.{more}', {
              more: unkeyed > 0 && say(' {unkeyed, plural, one {# item has} other {# items have}} no key and cannot be marked yet.', { unkeyed }),
            })}
          </span>
        </div>
        <div className="grid min-h-0 flex-1 place-items-center">
          <iframe
            ref={frame}
            src="/t/preview"
            title={say("The learner's page")}
            className="h-full max-w-full rounded-md border border-ink-2 bg-paper"
            style={{ width: wide ? '100%' : 390, maxHeight: wide ? undefined : 760 }}
          />
        </div>
      </div>
    </Modal>
  );
}
