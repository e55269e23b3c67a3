/** The sentences of the source for and against an item's key, with their places. */
import { type Evidence, type Hit, type Item, letterOf, type Operation, richToPlain } from '@zakuska/core';
import { Check, X } from 'lucide-react';
import { useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { keyByDigit } from './keyByDigit.js';
import { say } from '../words/say.js';

export const VERDICTS: Record<Evidence['verdict'], string> = {
  supported: say('The source says so'),
  contradicted: say('The source says otherwise'),
  disputed: say('The source says both'),
  none: say('Not found in the source'),
};
const LOOK: Record<Evidence['verdict'], string> = { supported: 'text-dill', contradicted: 'text-brick', disputed: 'text-amber', none: 'text-ink-2' };

/** A sentence with the words marked that it shares with question and answer. */
function Sentence({ hit }: { hit: Hit }) {
  const { text } = hit.sentence;
  const parts: [string, boolean][] = [];
  let at = 0;
  for (const m of hit.matched) {
    if (m.from < at) continue;
    parts.push([text.slice(at, m.from), false], [text.slice(m.from, m.to), true]);
    at = m.to;
  }
  parts.push([text.slice(at), false]);
  return (
    <q dir="auto" className="before:content-[''] after:content-['']">
      {parts.map(([t, marked], i) =>
        marked ? (
          <mark key={i} className="bg-transparent font-[650] text-ink">
            {t}
          </mark>
        ) : (
          t
        ),
      )}
    </q>
  );
}

/** What would make the key what a sentence says, with its name; null where a sentence does not say which. */
export function otherKey(item: Item, hit: Hit): { name: string; operation: Operation } | null {
  if (item.kind === 'true-false' && item.answer !== null)
    return { name: item.answer ? say('Set false') : say('Set true'), operation: { type: 'change', id: item.id, set: { answer: !item.answer } } };
  if (item.kind !== 'multiple-choice' || hit.instead === undefined) return null;
  const operation = keyByDigit(item, hit.instead + 1);
  return operation && { name: say('Set {letter}', { letter: letterOf(hit.instead) }), operation };
}

interface EvidenceProps {
  item: Item;
  evidence: Evidence;
  onOpen: (source: string, from: number, to: number) => void;
  /** Sets another key; null where a person may not. */
  perform: ((o: Operation) => boolean) | null;
}
export function EvidenceView({ item, evidence, onOpen, perform }: EvidenceProps) {
  const fixOf = (h: Hit, against: boolean) => {
    const fix = against && perform ? otherKey(item, h) : null;
    return (
      fix && (
        <Button className="ms-2" onClick={() => perform?.(fix.operation)}>
          {fix.name}
        </Button>
      )
    );
  };
  const line = (h: Hit, against: boolean) => (
    <li key={`${h.sentence.source}${h.sentence.from}${against}`} className="grid grid-cols-[18px_minmax(0,1fr)] gap-1.5">
      {against ? (
        <X size={16} aria-label={say('against')} className="mt-0.5 text-brick" />
      ) : (
        <Check size={16} aria-label={say('for')} className="mt-0.5 text-dill" />
      )}
      <span>
        <Sentence hit={h} />{' '}
        <button type="button" className="link text-[13px]" onClick={() => onOpen(h.sentence.source, h.sentence.from, h.sentence.to)}>
          {h.sentence.sourceName}, {h.sentence.place}
        </button>
        <span className="block text-[13px] text-ink-2">
          {h.why}
          {fixOf(h, against)}
        </span>
      </span>
    </li>
  );
  return (
    <section aria-label={say('What the source says')} className="mt-3 rounded-md border border-rule bg-paper px-3 py-2.5">
      <b className={LOOK[evidence.verdict]}>{VERDICTS[evidence.verdict]}</b>
      {evidence.verdict === 'none' ? (
        <p className="text-[13.5px] text-ink-2">{say('No sentence has the words of question and key together. It may be said in other words: look it up.')}</p>
      ) : (
        <ul className="mt-1 grid gap-1.5">
          {evidence.contradicts.map((h) => line(h, true))}
          {evidence.supports.map((h) => line(h, false))}
        </ul>
      )}
    </section>
  );
}

/** A link that looks the question up in the person's own search engine; nothing where none is set. */
export function LookUp({ item }: { item: Item }) {
  const { searchAddress } = useSession();
  if (!searchAddress) return null;
  const words = richToPlain(item.stem)
    .replace(/\[\[[^\]]*\]\]|_{2,}/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 300);
  return (
    <a className="link text-sm" href={searchAddress.replace('{query}', encodeURIComponent(words))} target="_blank" rel="noreferrer noopener">
      {say('Look it up')}
    </a>
  );
}
