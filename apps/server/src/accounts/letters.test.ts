import { linkPurposes } from './entities.js';
import { type LetterLanguage, linkLetter } from './letters.js';

const LINK = 'https://quiz.saltmarsh.example/link/abc';
const languages: LetterLanguage[] = ['en', 'de', 'fr', 'es'];

test.each(languages.flatMap((l) => linkPurposes.map((p) => [l, p] as const)))(
  '%s, %s: the link on a line of its own, names as they are',
  (language, purpose) => {
    const { subject, text } = linkLetter(purpose, LINK, { by: 'M. Okafor', workspace: 'Bread' }, language);
    expect(text.split('\n')).toContain(LINK);
    expect(subject).not.toContain('\n');
    if (purpose === 'invitation') expect([text.includes('M. Okafor'), text.includes('Bread'), subject.includes('Bread')]).toEqual([true, true, true]);
    // nobody without a name is called "undefined"
    const nameless = linkLetter(purpose, LINK, {}, language);
    expect(`${nameless.subject}${nameless.text}`).not.toMatch(/undefined|null/);
  },
);

test('no two languages say the same', () => {
  for (const p of linkPurposes) expect(new Set(languages.map((l) => linkLetter(p, LINK, {}, l).text)).size).toBe(languages.length);
});
