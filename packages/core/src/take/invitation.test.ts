/** Letters with a link and a code of one's own. */
import fc from 'fast-check';
import { invitationLetter, letterLanguages } from './invitation.js';

const lena = { name: 'Lena B.', title: 'Bread, week two', link: 'https://quiz.saltmarsh.example/t/BCDF4678', code: 'BCDF4678' };

test.each(letterLanguages)('%s: names the person, the quiz, the link on a line of its own, and the code', (language) => {
  const { subject, text } = invitationLetter(lena, language);
  expect(subject).toBe(lena.title);
  for (const part of [lena.name, lena.title, lena.code]) expect(text).toContain(part);
  expect(text.split('\n')).toContain(lena.link);
  expect(text).not.toMatch(/[{}]/);
});

test('the language of the quiz, of whatever region; English where it is not known', () => {
  expect(invitationLetter(lena, 'de-AT').text).toMatch(/^Hallo Lena B\.,/);
  expect(invitationLetter(lena, 'xx').text).toBe(invitationLetter(lena).text);
  expect(invitationLetter(lena, 'constructor').text).toBe(invitationLetter(lena).text);
  expect(new Set(letterLanguages.map((l) => invitationLetter(lena, l).text)).size).toBe(11);
});

test('whatever a name or a title holds, the subject is one line and the link stays whole', () => {
  fc.assert(
    fc.property(fc.string(), fc.string(), (name, title) => {
      const { subject, text } = invitationLetter({ ...lena, name: `${name}\r\nBcc: all`, title: `${title}\n{code}` }, 'en');
      expect(subject).not.toMatch(/[\r\n]/);
      expect(text.split('\n')).toHaveLength(7);
      expect(text.split('\n')[3]).toBe(lena.link);
    }),
  );
});
