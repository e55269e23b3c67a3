/** What the line under the caret was read as, and why; and the question that it belongs to. */
import { counted, keyProblem, keySign, kinds, nameOf, type Item, type LineRole } from '@zakuska/core';

export const ROLE_NAMES: Record<LineRole['role'], string> = {
  question: 'question',
  option: 'option',
  key: 'key',
  feedback: 'feedback',
  field: 'field',
  pair: 'pair',
  step: 'step',
  part: 'part heading',
  passage: 'text to read',
  'key-list': 'list of keys',
  more: 'goes on',
  aside: 'set aside',
  blank: 'empty',
};

/** An item in a few words: "multiple choice, 4 options, key B, 2 points". */
export function itemInWords(i: Item): string {
  const parts = [kinds[i.kind].name.toLowerCase()];
  if ('options' in i) parts.push(`${i.options.length} options`);
  if (i.kind === 'cloze') parts.push(counted(i.gaps.length, 'gap'));
  if (i.kind === 'matching') parts.push(`${i.pairs.length} pairs`);
  if (i.kind === 'ordering') parts.push(`${i.sequence.length} steps`);
  if (keyProblem(i)) parts.push('no key');
  else if (/^[A-Z ]+$|^[TF]$/.test(keySign(i))) parts.push(`key ${keySign(i)}`);
  if (i.points !== 1 && i.kind !== 'information') parts.push(`${i.points} points`);
  return parts.join(', ');
}

export function ReadingLine({ line, role, item }: { line: number; role: LineRole | undefined; item: Item | undefined }) {
  if (!role) return null;
  return (
    <section
      aria-label="Reading of the line"
      className="flex min-h-8 flex-wrap items-baseline gap-x-3 border-t border-rule bg-paper px-4 py-1 text-[13.5px] sm:px-6"
    >
      <span className="tabular-nums text-ink-2">Line {line + 1}</span>
      <b className="font-[650]">
        {ROLE_NAMES[role.role]}
        {role.mark && role.role !== 'aside' && role.mark !== role.role && role.mark !== ROLE_NAMES[role.role] ? ` ${role.mark.replace(/^key /, '')}` : ''}
      </b>
      <span className="text-ink-2">{role.reason || 'Nothing stands here.'}</span>
      {item && role.role !== 'aside' && role.role !== 'blank' && (
        <span className="ml-auto truncate text-ink-2">
          “{nameOf(item, 36)}”: {itemInWords(item)}
        </span>
      )}
    </section>
  );
}
