/** @jest-environment ./src/testing/environment.mjs */
/** The messages of the workbench: put together in the language of the person, with elements in them, and in English where a language lacks one. */
import '../testing/browser.js';
import { jest } from '@jest/globals';
import { cleanup, render } from '@testing-library/react';

jest.unstable_mockModule('./de.json', () => ({
  default: {
    Save: 'Sichern',
    '{n, plural, one {# item} other {# items}} of {title}': '{title}: {n, plural, one {# Frage} other {# Fragen}}',
    '<b>{name}</b>, in {language}': '{language}: <b>{name}</b>',
    'emphasis; <u> as well': 'Betonung; auch <u>',
  },
}));
jest.unstable_mockModule('./fr.json', () => {
  throw new Error('no connection');
});
const { known, language, languageOf, listed, locale, say, Say, speak } = await import('./say.js');

afterEach(async () => {
  cleanup();
  await speak('en');
});

test('English is said as it stands, with its values and plurals', () => {
  expect(say('Save')).toBe('Save');
  expect([1, 2, 1200].map((n) => say('{n, plural, one {# item} other {# items}} of {title}', { n, title: 'Bread' }))).toEqual([
    '1 item of Bread',
    '2 items of Bread',
    '1,200 items of Bread',
  ]);
  expect(say('Taken{more}.', { more: false })).toBe('Taken.');
  expect(say('Taken{more}.', { more: undefined })).toBe('Taken.');
  expect(say('emphasis; <u> as well')).toBe('emphasis; <u> as well');
  expect([say('Number¦in a list'), say('{n} left¦of people', { n: 2 })]).toEqual(['Number', '2 left']);
});

test('another language says it in its own order; what it lacks is said in English', async () => {
  await speak('de');
  expect(language()).toBe('de');
  expect(say('Save')).toBe('Sichern');
  expect(say('{n, plural, one {# item} other {# items}} of {title}', { n: 1200, title: 'Brot' })).toBe('Brot: 1.200 Fragen');
  expect(say('emphasis; <u> as well')).toBe('Betonung; auch <u>');
  expect(say('Not there yet, {n}', { n: 3 })).toBe('Not there yet, 3');
  // no word of the language of programs is a text of ours
  expect([say('constructor'), known('toString')]).toEqual(['constructor', 'toString']);
  expect(listed(['a', 'b', 'c'])).toBe('a, b und c');
  expect(locale()).toBe('de');
});

test('elements stand where the language wants them', async () => {
  const text = () => {
    const { container, unmount } = render(
      <Say text="<b>{name}</b>, in {language}" values={{ b: (words) => <b>{words}</b>, name: 'Salt', language: <i>Irish</i> }} />,
    );
    const { innerHTML } = container;
    unmount();
    return innerHTML;
  };
  expect(text()).toBe('<b>Salt</b>, in <i>Irish</i>');
  await speak('de');
  expect(text()).toBe('<i>Irish</i>: <b>Salt</b>');
});

test('a language whose words cannot be fetched leaves all as it was', async () => {
  await expect(speak('fr')).rejects.toThrow();
  expect([language(), say('Save')]).toEqual(['en', 'Save']);
});

test('the language is the first that is asked for and spoken', () => {
  expect(languageOf([null, 'nl-BE', 'fr-CA', 'de'])).toBe('fr');
  expect(languageOf(['ES'])).toBe('es');
  expect(languageOf(['ja', undefined])).toBe('en');
  expect(languageOf(['constructor'])).toBe('en');
});
