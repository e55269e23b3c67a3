/** Which passages of a source go along with a request: the whole of it, or those that are marked here. */
import { counted } from '@zakuska/core';
import { useRef, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';

/** What stands between passages that do not follow one another. */
const BETWEEN = '\n\n[…]\n\n';

interface Props {
  title: string;
  /** What goes along now. */
  now: string;
  /** The whole source; undefined until it is fetched. */
  whole: string | undefined;
  /** Fetches the whole source. */
  onOpen: () => void;
  onPassages: (text: string) => void;
}
export function Passages({ title, now, whole, onOpen, onPassages }: Props) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<{ from: number; to: number }[]>([]);
  const text = useRef<HTMLTextAreaElement>(null);
  const parts = now.includes(BETWEEN) || (whole !== undefined && now !== whole) ? now.split(BETWEEN).length : 0;
  const add = (): void => {
    const { selectionStart: from = 0, selectionEnd: to = 0 } = text.current ?? {};
    if (to <= from) return;
    // passages that meet are one
    const meets = chosen.filter((c) => c.from <= to && c.to >= from);
    const one = { from: Math.min(from, ...meets.map((c) => c.from)), to: Math.max(to, ...meets.map((c) => c.to)) };
    setChosen([...chosen.filter((c) => !meets.includes(c)), one].sort((a, b) => a.from - b.from));
  };
  const words = (c: { from: number; to: number }): string => (whole ?? '').slice(c.from, c.to).trim();
  return (
    <p className="text-sm text-ink-2">
      {parts ? `${counted(parts, 'passage')} of “${title}”` : `All of “${title}”`} {parts === 1 ? 'goes' : parts ? 'go' : 'goes'} along.{' '}
      <button
        type="button"
        className="link"
        onClick={() => {
          onOpen();
          setOpen(true);
        }}
      >
        Choose passages
      </button>
      <Modal
        open={open}
        wide
        onClose={() => setOpen(false)}
        title="Which passages go along"
        description="Mark a passage with the mouse or with Shift and the arrows, then add it."
      >
        <div className="grid gap-3">
          <textarea
            ref={text}
            readOnly
            aria-label={`Text of ${title}`}
            rows={14}
            dir="auto"
            className="w-full rounded border border-rule bg-sheet p-3 text-sm"
            value={whole ?? 'Fetching …'}
          />
          <span>
            <Button onClick={add} disabled={whole === undefined}>
              Add what is marked
            </Button>
          </span>
          <ol aria-label="Passages" className="grid gap-1 text-sm">
            {chosen.map((c) => (
              <li key={c.from} className="flex gap-2">
                <span dir="auto" className="min-w-0 flex-1 truncate">
                  {words(c)}
                </span>
                <Button look="quiet" aria-label={`Without “${words(c).slice(0, 30)}”`} onClick={() => setChosen(chosen.filter((x) => x !== c))}>
                  ×
                </Button>
              </li>
            ))}
          </ol>
          <span className="flex gap-2">
            <Button
              look="primary"
              disabled={!chosen.length}
              onClick={() => {
                onPassages(chosen.map(words).join(BETWEEN));
                setOpen(false);
              }}
            >
              Send {counted(chosen.length, 'passage')} along
            </Button>
            <Button
              disabled={whole === undefined}
              onClick={() => {
                setChosen([]);
                onPassages(whole ?? '');
                setOpen(false);
              }}
            >
              All of it
            </Button>
          </span>
        </div>
      </Modal>
    </p>
  );
}
