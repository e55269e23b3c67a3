/** The one question about looks: which of them says the key. Asked once for the whole draft, and it can be asked again. */
import { counted, type KeyLook, type KeysFrom, type LookCount, lookName } from '@zakuska/core';
import { Button } from '../ui/Button.js';

const some = (l: LookCount): string =>
  `${l.one} of ${l.of} questions ${l.one === 1 ? 'has' : 'have'} exactly one${l.several ? `, ${counted(l.several, 'has', 'have')} several` : ''}`;

export function KeyQuestion({
  looks,
  decided,
  onDecide,
}: {
  looks: readonly LookCount[];
  decided: KeysFrom | undefined;
  onDecide: (keys: KeysFrom | undefined) => void;
}) {
  // a look in one question out of many is stress, and nobody is asked about it
  const likely = looks.filter((l) => l.one + l.several >= Math.max(1, l.of * 0.4));
  if (decided && decided !== 'auto') {
    const look = looks.find((l) => l.look === decided);
    if (decided === 'none' && !likely.length) return null;
    return (
      <p className="flex flex-wrap items-center gap-x-3 border-b border-rule px-4 py-1.5 text-[13.5px] text-ink-2" role="status">
        {decided === 'none'
          ? 'Looks of options are taken for stress, not for keys.'
          : `${lookName(decided)} options are the keys${look ? `: ${some(look)}` : ''}.`}
        <Button look="quiet" onClick={() => onDecide(undefined)}>
          Ask again
        </Button>
      </p>
    );
  }
  const [first, ...others] = likely;
  if (!first) return null;
  const name = (l: KeyLook): string => lookName(l).toLowerCase();
  return (
    <section aria-label="Where the keys are" className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-rule bg-amber-soft px-4 py-3">
      <p className="min-w-0 flex-1 basis-72">
        <b>Are the {name(first.look)} options the keys?</b> {some(first)}.
      </p>
      <Button look="primary" onClick={() => onDecide(first.look)}>
        Yes, {name(first.look)} marks the keys
      </Button>
      {others.map((l) => (
        <Button key={l.look} onClick={() => onDecide(l.look)}>
          No, {name(l.look)} does ({l.one} of {l.of})
        </Button>
      ))}
      <Button onClick={() => onDecide('none')}>No, it is only stress</Button>
    </section>
  );
}
