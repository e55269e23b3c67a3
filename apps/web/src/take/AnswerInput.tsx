/** Where a learner answers one item, by kind. Also used by the try box. */
import type { LearnerItem, Response } from '@zakuska/core';
import { type ReactElement, useId } from 'react';
import { Order } from './Order.js';
import { Pairs } from './Pairs.js';
import { plainWords, Text } from './Text.js';
import { Typed } from './Typed.js';
import { useSay } from './words/words.js';

/** As the server takes them (`longestAnswer` of the core). */
const LONGEST = { typed: 2000, number: 200, essay: 50_000 } as const;

interface Props {
  item: LearnerItem;
  value: Response | undefined;
  onChange: (r: Response) => void;
  disabled?: boolean;
}

function Choices({
  name,
  options,
  chosen,
  multiple,
  onChoose,
  disabled,
}: {
  name: string;
  options: { id: string; content: string }[];
  chosen: string[];
  multiple: boolean;
  onChoose: (id: string, on: boolean) => void;
  disabled: boolean;
}) {
  return (
    <div className="choices">
      {options.map((o) => (
        <label key={o.id} className={chosen.includes(o.id) ? 'on' : ''}>
          <input
            type={multiple ? 'checkbox' : 'radio'}
            name={name}
            checked={chosen.includes(o.id)}
            disabled={disabled}
            onChange={(e) => onChoose(o.id, e.target.checked)}
          />
          <Text text={o.content} />
        </label>
      ))}
    </div>
  );
}

export function AnswerInput({ item, value, onChange, disabled = false }: Props): ReactElement | null {
  const name = useId();
  const say = useSay();
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response': {
      const chosen = value && 'options' in value ? value.options : [];
      const multiple = item.kind === 'multiple-response';
      return (
        <Choices
          name={name}
          multiple={multiple}
          options={item.options ?? []}
          chosen={chosen}
          disabled={disabled}
          onChoose={(id, on) => onChange({ options: multiple ? (on ? [...chosen, id] : chosen.filter((c) => c !== id)) : [id] })}
        />
      );
    }
    case 'true-false': {
      const words = item.truth ?? { true: 'True', false: 'False' };
      const chosen = value && 'truth' in value ? [String(value.truth)] : [];
      const options = [
        { id: 'true', content: words.true },
        { id: 'false', content: words.false },
      ];
      return (
        <Choices name={name} multiple={false} options={options} chosen={chosen} disabled={disabled} onChoose={(id) => onChange({ truth: id === 'true' })} />
      );
    }
    case 'short-answer':
    case 'numeric': {
      const text = value && 'text' in value ? value.text : '';
      return (
        <div className="typed">
          <Typed
            label={say('yourAnswer')}
            text={text}
            disabled={disabled}
            is={item.kind === 'numeric' ? 'number' : item.formula ? 'formula' : 'words'}
            longest={item.kind === 'numeric' ? LONGEST.number : LONGEST.typed}
            onText={(typed) => onChange({ text: typed })}
          />
          {item.unit && <span>{item.unit}</span>}
        </div>
      );
    }
    case 'essay': {
      const text = value && 'text' in value ? value.text : '';
      return (
        <textarea
          className="essay"
          aria-label={say('yourAnswer')}
          rows={item.lines ?? 6}
          maxLength={LONGEST.essay}
          value={text}
          disabled={disabled}
          onChange={(e) => onChange({ text: e.target.value })}
        />
      );
    }
    case 'cloze': {
      const gaps = value && 'gaps' in value ? value.gaps : {};
      const set = (id: string, v: string): void => onChange({ gaps: { ...gaps, [id]: v } });
      return (
        <ol className="gaps">
          {item.gaps?.map((g, i) => (
            <li key={g.id}>
              <label>
                <span>{say('gap', { n: i + 1 })}</span>
                {g.kind === 'choice' ? (
                  <select value={gaps[g.id] ?? ''} disabled={disabled} onChange={(e) => set(g.id, e.target.value)}>
                    <option value="" />
                    {g.options?.map((o) => (
                      <option key={o.id} value={o.id}>
                        {plainWords(o.content)}
                      </option>
                    ))}
                  </select>
                ) : (
                  <Typed
                    label={say('gap', { n: i + 1 })}
                    text={gaps[g.id] ?? ''}
                    disabled={disabled}
                    is={g.kind === 'number' ? 'figures' : g.formula ? 'formula' : 'words'}
                    longest={LONGEST.typed}
                    onText={(v) => set(g.id, v)}
                  />
                )}
              </label>
            </li>
          ))}
        </ol>
      );
    }
    case 'matching': {
      const lefts = item.lefts ?? [];
      const pairs = value && 'pairs' in value ? value.pairs : lefts.map(() => null);
      return (
        <Pairs
          lefts={lefts}
          rights={item.rights ?? []}
          pairs={pairs}
          disabled={disabled}
          onPair={(left, right) => onChange({ pairs: lefts.map((_, n) => (n === left ? right : (pairs[n] ?? null))) })}
        />
      );
    }
    case 'ordering': {
      const order = value && 'order' in value ? value.order : (item.pieces ?? []);
      const move = (from: number, to: number): void => {
        const next = order.slice();
        const [piece] = next.splice(from, 1);
        next.splice(to, 0, piece ?? '');
        onChange({ order: next });
      };
      return (
        <>
          <Order order={order} onMove={move} disabled={disabled} />
          {!value && !disabled && (
            <button type="button" className="as-it-is" onClick={() => onChange({ order })}>
              {say('asItStands')}
            </button>
          )}
        </>
      );
    }
    case 'information':
      return null;
  }
}
