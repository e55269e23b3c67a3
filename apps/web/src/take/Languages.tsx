/** The languages of a quiz, each by its own name, to choose one. */
import { useSay } from './words/words.js';

/** A language by the name that its speakers give it. */
export function ownName(code: string): string {
  try {
    return new Intl.DisplayNames([code], { type: 'language' }).of(code) ?? code;
  } catch {
    return code;
  }
}

interface Props {
  /** That of the quiz first; empty where it is not known. */
  languages: readonly string[];
  value: string;
  onChoose: (language: string) => void;
}
export function Languages({ languages, value, onChoose }: Props) {
  const say = useSay();
  return (
    <div className="languages" role="group" aria-label={say('language')}>
      {languages.map((l) => (
        <button key={l} type="button" lang={l || undefined} aria-pressed={l === value} onClick={() => onChoose(l)}>
          {l ? ownName(l) : say('asWritten')}
        </button>
      ))}
    </div>
  );
}
