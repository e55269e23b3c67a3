/** The one question about looks: which of them says the key. Asked once for the whole draft, and it can be asked again. */
import { type KeyLook, type KeysFrom, type LookCount, lookName } from '@zakuska/core';
import { Button } from '../ui/Button.js';
import { inSentence, known, say } from '../words/say.js';

const some = (l: LookCount): string =>
  say('{one} of {of} questions {one, plural, one {has} other {have}} exactly one{what2}', {
    one: l.one,
    of: l.of,
    what2: l.several ? say(', {several, plural, one {# has} other {# have}} several', { several: l.several }) : '',
  });

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
          ? say('Looks of options are taken for stress, not for keys.')
          : say('{look} options are the keys{what}.', { look: known(lookName(decided)), what: look ? `: ${some(look)}` : '' })}
        <Button look="quiet" onClick={() => onDecide(undefined)}>
          {say('Ask again')}
        </Button>
      </p>
    );
  }
  const [first, ...others] = likely;
  if (!first) return null;
  const name = (l: KeyLook): string => inSentence(known(lookName(l)));
  return (
    <section aria-label={say('Where the keys are')} className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-rule bg-amber-soft px-4 py-3">
      <p className="min-w-0 flex-1 basis-72">
        <b>{say('Are the {name} options the keys?', { name: name(first.look) })}</b> {some(first)}.
      </p>
      <Button look="primary" onClick={() => onDecide(first.look)}>
        {say('Yes, {name} marks the keys', { name: name(first.look) })}
      </Button>
      {others.map((l) => (
        <Button key={l.look} onClick={() => onDecide(l.look)}>
          {say('No, {name} does ({one} of {of})', { name: name(l.look), one: l.one, of: l.of })}
        </Button>
      ))}
      <Button onClick={() => onDecide('none')}>{say('No, it is only stress')}</Button>
    </section>
  );
}
