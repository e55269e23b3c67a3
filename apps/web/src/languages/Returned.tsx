/** What came back from translators, before it is taken in: how many texts, and what of it does not hold. */
import { counted, languageName, type TakenTranslations } from '@zakuska/core';
import { Button } from '../ui/Button.js';

interface Props {
  name: string;
  taken: TakenTranslations;
  onTake: () => void;
  onLeave: () => void;
}
export function Returned({ name, taken, onTake, onLeave }: Props) {
  const { told, language, same, untranslated } = taken;
  const n = Object.keys(taken.taken).length;
  const broken = told.filter((t) => !t.taken);
  return (
    <section aria-label="What came back" className="mb-4 grid gap-2 rounded border border-beet bg-sheet p-3">
      <p>
        <b>{name}</b>, in {languageName(language)}: {n ? `${counted(n, 'text')} to take in` : 'nothing new in it'}
        {same > 0 && `, ${same} as before`}
        {untranslated > 0 && `, ${untranslated} without a translation`}
        {broken.length > 0 && <span className="font-semibold text-brick">, {broken.length} not taken</span>}
      </p>
      {told.length > 0 && (
        <ul className="grid max-h-48 gap-0.5 overflow-auto text-[13.5px]" tabIndex={0} aria-label="What does not hold">
          {told.map((t) => (
            <li key={`${t.line} ${t.name} ${t.why}`}>
              <span className="text-ink-2">line {t.line}, </span>
              {t.name}: <span className={t.taken ? 'text-amber' : 'text-brick'}>{t.taken ? t.why : `not taken: ${t.why}`}</span>
            </li>
          ))}
        </ul>
      )}
      <span className="flex gap-2">
        {n > 0 && (
          <Button look="primary" onClick={onTake}>
            Take in {counted(n, 'text')}
          </Button>
        )}
        <Button look="quiet" onClick={onLeave}>
          {n ? 'Leave it' : 'Close'}
        </Button>
      </span>
    </section>
  );
}
