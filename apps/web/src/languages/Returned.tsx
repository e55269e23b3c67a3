/** What came back from translators, before it is taken in: how many texts, and what of it does not hold. */
import { languageName, type TakenTranslations } from '@zakuska/core';
import { Button } from '../ui/Button.js';
import { locale, Say, say } from '../words/say.js';

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
    <section aria-label={say('What came back')} className="mb-4 grid gap-2 rounded border border-beet bg-sheet p-3">
      <p>
        <Say
          text="<b>{name}</b>, in {language}: {what}{more}{more2}"
          values={{
            b: (words) => <b>{words}</b>,
            name,
            language: languageName(language, locale()),
            what: n ? say('{n, plural, one {# text} other {# texts}} to take in', { n }) : say('nothing new in it'),
            more: same > 0 && say(', {same} as before', { same }),
            more2: untranslated > 0 && say(', {untranslated} without a translation', { untranslated }),
          }}
        />
        {broken.length > 0 && <span className="font-semibold text-brick">{say(', {broken} not taken', { broken: broken.length })}</span>}
      </p>
      {told.length > 0 && (
        <ul className="grid max-h-48 gap-0.5 overflow-auto text-[13.5px]" tabIndex={0} aria-label={say('What does not hold')}>
          {told.map((t) => (
            <li key={`${t.line} ${t.name} ${t.why}`}>
              <span className="text-ink-2">{say('line {line},', { line: t.line })} </span>
              {t.name}: <span className={t.taken ? 'text-amber' : 'text-brick'}>{t.taken ? t.why : say('not taken: {why}', { why: t.why })}</span>
            </li>
          ))}
        </ul>
      )}
      <span className="flex gap-2">
        {n > 0 && (
          <Button look="primary" onClick={onTake}>
            {say('Take in {n, plural, one {# text} other {# texts}}', { n })}
          </Button>
        )}
        <Button look="quiet" onClick={onLeave}>
          {n ? say('Leave it') : say('Close')}
        </Button>
      </span>
    </section>
  );
}
