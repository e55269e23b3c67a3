/** Which passages of a source go along with a request: the whole of it, or those that are marked here. */
import { useRef, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { say } from '../words/say.js';

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
      {parts
        ? say('{parts, plural, one {# passage of “{title}” goes} other {# passages of “{title}” go}} along.', { parts, title })
        : say('All of “{title}” goes along.', { title })}{' '}
      <button
        type="button"
        className="link"
        onClick={() => {
          onOpen();
          setOpen(true);
        }}
      >
        {say('Choose passages')}
      </button>
      <Modal
        open={open}
        wide
        onClose={() => setOpen(false)}
        title={say('Which passages go along')}
        description={say('Mark a passage with the mouse or with Shift and the arrows, then add it.')}
      >
        <div className="grid gap-3">
          <textarea
            ref={text}
            readOnly
            aria-label={say('Text of {title}', { title })}
            rows={14}
            dir="auto"
            className="w-full rounded border border-rule bg-sheet p-3 text-sm"
            value={whole ?? say('Fetching …')}
          />
          <span>
            <Button onClick={add} disabled={whole === undefined}>
              {say('Add what is marked')}
            </Button>
          </span>
          <ol aria-label={say('Passages')} className="grid gap-1 text-sm">
            {chosen.map((c) => (
              <li key={c.from} className="flex gap-2">
                <span dir="auto" className="min-w-0 flex-1 truncate">
                  {words(c)}
                </span>
                <Button
                  look="quiet"
                  aria-label={say('Without “{words}”', { words: words(c).slice(0, 30) })}
                  onClick={() => setChosen(chosen.filter((x) => x !== c))}
                >
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
              {say('Send {chosen, plural, one {# passage} other {# passages}} along', { chosen: chosen.length })}
            </Button>
            <Button
              disabled={whole === undefined}
              onClick={() => {
                setChosen([]);
                onPassages(whole ?? '');
                setOpen(false);
              }}
            >
              {say('All of it')}
            </Button>
          </span>
        </div>
      </Modal>
    </p>
  );
}
