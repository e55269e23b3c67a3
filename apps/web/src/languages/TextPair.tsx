/** One text beside its translation, which is typed in place; codes stand for markup, gaps and formulas. */
import { BrokenCodes, type Translation, type TranslationRow, typedTranslation, type UnitState } from '@zakuska/core';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { TextArea } from '../ui/Field.js';
import { say } from '../words/say.js';

const STATES: Readonly<Record<UnitState, { words: string; look: string }>> = {
  missing: { words: say('missing'), look: 'text-ink-2' },
  made: { words: say('made'), look: 'text-ink-2' },
  checked: { words: say('checked'), look: 'text-dill' },
  stale: { words: say('stale: the original has changed'), look: 'font-semibold text-amber' },
};

interface Props {
  row: TranslationRow;
  place: number;
  measure: (row: Element | null) => void;
  now: boolean;
  editing: boolean;
  mayEdit: boolean;
  own: string | undefined;
  language: string;
  by: string;
  onPick: () => void;
  onEdit: () => void;
  /** Null takes the translation away. */
  onSave: (next: Translation | null) => void;
  onLeave: () => void;
  onCheck: () => void;
}

export function TextPair({ row, place, measure, now, editing, mayEdit, own, language, by, onPick, onEdit, onSave, onLeave, onCheck }: Props) {
  const { unit, state, original, translated, kept, codes } = row;
  /** Begins an item, or is of none. */
  const head = unit.item === undefined || unit.id.endsWith('.stem');
  return (
    <div
      ref={measure}
      data-index={place}
      data-unit={unit.id}
      role="listitem"
      aria-label={unit.name}
      aria-current={now}
      className={`grid gap-x-6 gap-y-1 px-4 py-2 sm:grid-cols-2 ${head ? 'border-t border-rule' : ''} ${now ? 'bg-beet-soft' : ''}`}
      onClick={onPick}
    >
      <div className="min-w-0">
        <p className="flex flex-wrap gap-x-2 text-[13px] text-ink-2">
          {unit.name}
          {unit.right && <b className="text-dill">{say('key')}</b>}
        </p>
        <p lang={own} dir="auto" className={`break-words whitespace-pre-wrap ${head ? 'font-semibold' : ''}`}>
          {original}
        </p>
        {(editing || now) && codes && <p className="mt-1 text-[12.5px] text-ink-2">{say('Codes: {codes}', { codes })}</p>}
      </div>
      <div className="min-w-0">
        <p className="flex flex-wrap gap-x-2 text-[13px]">
          <span className={STATES[state].look}>{STATES[state].words}</span>
          {kept?.by && <span className="text-ink-2">{kept.by}</span>}
        </p>
        {editing ? (
          <Editor row={row} language={language} by={by} onSave={onSave} onLeave={onLeave} />
        ) : (
          <p lang={language} dir="auto" className={`min-h-6 break-words whitespace-pre-wrap ${head ? 'font-semibold' : ''}`} onDoubleClick={onEdit}>
            {translated}
          </p>
        )}
        {now && !editing && mayEdit && (
          <span className="mt-1 flex flex-wrap gap-2">
            <Button keys="Enter" onClick={onEdit}>
              {kept ? say('Edit') : say('Translate')}
            </Button>
            {kept && (
              <Button keys="C" aria-pressed={state === 'checked'} onClick={onCheck}>
                {state === 'stale' ? say('Still right') : say('Checked')}
              </Button>
            )}
            {kept && (
              <Button look="quiet" onClick={() => onSave(null)}>
                {say('Take away')}
              </Button>
            )}
          </span>
        )}
      </div>
    </div>
  );
}

function Editor({ row, language, by, onSave, onLeave }: Pick<Props, 'row' | 'language' | 'by' | 'onSave' | 'onLeave'>) {
  const [typed, setTyped] = useState(row.translated);
  const [problem, setProblem] = useState('');
  const done = (): void => {
    if (!typed.trim()) return onSave(null);
    if (typed === row.translated && row.state !== 'stale') return onLeave();
    try {
      onSave(typedTranslation(row, typed, by));
    } catch (e) {
      if (!(e instanceof BrokenCodes)) throw e;
      setProblem(
        say('{charAt}{message}. Codes may stand elsewhere in the text, each once.', { charAt: e.message.charAt(0).toUpperCase(), message: e.message.slice(1) }),
      );
    }
  };
  return (
    <div className="mt-1 grid gap-1.5">
      <TextArea
        aria-label={say('{name}, translated', { name: row.unit.name })}
        autoFocus
        lang={language}
        dir="auto"
        rows={1}
        value={typed}
        aria-invalid={problem !== ''}
        onChange={(e) => (setTyped(e.target.value), setProblem(''))}
        onKeyDown={(e) => {
          if (e.nativeEvent.isComposing) return;
          if (e.key === 'Escape') onLeave();
          else if (e.key === 'Enter' && !e.shiftKey) {
            e.preventDefault();
            done();
          }
        }}
      />
      {problem && (
        <p role="alert" className="text-[13px] text-brick">
          {problem}
        </p>
      )}
      <span className="flex flex-wrap items-center gap-2">
        <Button keys="Enter" onClick={done}>
          {say('Keep it')}
        </Button>
        <Button look="quiet" keys="Esc" onClick={onLeave}>
          {say('Leave it')}
        </Button>
        {row.codes && typed === '' && (
          <Button look="quiet" onClick={() => setTyped(row.original)}>
            {say('Begin with the original')}
          </Button>
        )}
      </span>
    </div>
  );
}
