/** What the line under the caret was read as, and why; and the question that it belongs to. */
import { keyProblem, keySign, kinds, nameOf, type Item, type LineRole } from '@zakuska/core';
import { inSentence, known, say } from '../words/say.js';
import { retold } from '../words/retold.js';

export const ROLE_NAMES: Record<LineRole['role'], string> = {
  question: say('question'),
  option: say('option'),
  key: say('key'),
  feedback: say('feedback'),
  field: say('field'),
  pair: say('pair'),
  step: say('step'),
  part: say('part heading'),
  passage: say('text to read'),
  'key-list': say('list of keys'),
  more: say('goes on'),
  aside: say('set aside'),
  blank: say('empty'),
};

/** An item in a few words: "multiple choice, 4 options, key B, 2 points". */
export function itemInWords(i: Item): string {
  const parts = [inSentence(known(kinds[i.kind].name))];
  if ('options' in i) parts.push(say('{options} options', { options: i.options.length }));
  if (i.kind === 'cloze') parts.push(say('{gaps, plural, one {# gap} other {# gaps}}', { gaps: i.gaps.length }));
  if (i.kind === 'matching') parts.push(say('{pairs} pairs', { pairs: i.pairs.length }));
  if (i.kind === 'ordering') parts.push(say('{sequence} steps', { sequence: i.sequence.length }));
  if (keyProblem(i)) parts.push(say('no key'));
  else if (/^[A-Z ]+$|^[TF]$/.test(keySign(i))) parts.push(say('key {keySign}', { keySign: keySign(i) }));
  if (i.points !== 1 && i.kind !== 'information') parts.push(say('{points} points', { points: i.points }));
  return parts.join(', ');
}

export function ReadingLine({ line, role, item }: { line: number; role: LineRole | undefined; item: Item | undefined }) {
  if (!role) return null;
  return (
    <section
      aria-label={say('Reading of the line')}
      className="flex min-h-8 flex-wrap items-baseline gap-x-3 border-t border-rule bg-paper px-4 py-1 text-[13.5px] sm:px-6"
    >
      <span className="tabular-nums text-ink-2">{say('Line {n}', { n: line + 1 })}</span>
      <b className="font-[650]">
        {ROLE_NAMES[role.role]}
        {role.mark && role.role !== 'aside' && role.mark !== role.role && role.mark !== 'key list' ? ` ${role.mark.replace(/^key /, '')}` : ''}
      </b>
      <span className="text-ink-2">{retold(role.reason) || say('Nothing stands here.')}</span>
      {item && role.role !== 'aside' && role.role !== 'blank' && (
        <span className="ml-auto truncate text-ink-2">
          “{nameOf(item, 36)}”: {itemInWords(item)}
        </span>
      )}
    </section>
  );
}
