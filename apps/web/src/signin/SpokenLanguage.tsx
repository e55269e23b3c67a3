/** The language of the pages, chosen by those who are not signed in yet. */
import { Select } from '../ui/Field.js';
import { chooseLanguage } from '../words/language.js';
import { LANGUAGES, type Language, language, say } from '../words/say.js';

export function SpokenLanguage() {
  return (
    <Select
      aria-label={say('Language of the pages')}
      className="mt-6 w-auto! py-1! text-sm"
      value={language()}
      onChange={(e) => chooseLanguage(e.target.value as Language)}
    >
      {Object.entries(LANGUAGES).map(([l, name]) => (
        <option key={l} value={l} lang={l}>
          {name}
        </option>
      ))}
    </Select>
  );
}
