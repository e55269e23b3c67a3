/** What the workbench says goes through the catalogue, and each language says it with what English puts in. */
import { readFileSync } from 'node:fs';
import { IntlMessageFormat } from 'intl-messageformat';
import * as core from '../packages/core/src/index.ts';
import { fileOf, LANGUAGES, literalsOf, messagesOf, sources, toldBy } from './catalogue.mjs';

const files = sources();
/** Texts that stand for themselves: names of things, samples of drafts, keys of what is kept. */
const AS_THEY_ARE = new Set(
  `
zakuska
Edge
Opera
Firefox
Chrome
Safari
Android
Windows
Linux
https://
pasted table.tsv
Sure, here are your questions:
1. What feeds the yeast in a starter?
b) sugars from the flour *
If correct: If incorrect: Outcome:
zakuska language
zakuska bank columns
zakuska open folders
… as text
… before text
marking of …
draft …
new … … …
item …
place …
set …
into …
folder …
group …
account …
gap …
sign in
set
folder
taken out
right option
first name
last name
cell … …
contents …
role role-……
doubt doubt-…
underline dotted
https://…{query}
assistant ….csv
… scores.csv
… results…
vi zh-Hans zh-Hant
`.split('\n'),
);

test('no literal text stands in the workbench', () => {
  expect(literalsOf(files, AS_THEY_ARE).filter((l) => !l.includes('ar bg bn ca cs'))).toEqual([]);
});

test('a literal text is found wherever it stands', () => {
  const text = `export const A = () => <p title="Of what">Hello there {n} <Kbd>Ctrl K</Kbd> {ok ? 'All is well' : say('Fine')} {\`\${n} are left\`}</p>;
    const NAMES = { 'left out': say('left out'), shut: 'Shut down' };`;
  expect(literalsOf([['a.tsx', text]])).toEqual(['a.tsx: Of what', 'a.tsx: Hello there', 'a.tsx: All is well', 'a.tsx: … are left', 'a.tsx: Shut down']);
});

const faults = [];
const messages = messagesOf(files, faults);
for (const text of toldBy(core)) if (!messages.has(text)) messages.set(text, 'the core');
test('every message is a text as it stands, so that it can be found', () => expect(faults).toEqual([]));

/** What a message takes in: its values and its tags, by name; a plural counts whatever it has for each number. */
function takes(elements, into = new Set()) {
  for (const e of elements) {
    if (e.type !== 0 && e.type !== 7) into.add(e.value);
    if (e.children) takes(e.children, into);
    for (const o of Object.values(e.options ?? {})) takes(o.value, into);
  }
  return into;
}
/** Tags are tags where an element is put in for them, which no pair of signs alone says. */
const takenBy = (message, language) =>
  [...takes(new IntlMessageFormat(message, language, undefined, { ignoreTag: !/<(\w+)>.*<\/\1>/.test(message) }).getAst())].sort();

test('there are many messages, and each can be read', () => {
  expect(messages.size).toBeGreaterThan(2500);
  for (const m of messages.keys()) takenBy(m, 'en');
});

describe.each(LANGUAGES)('%s', (language) => {
  const words = JSON.parse(readFileSync(fileOf(language), 'utf8'));
  test('says all that English says', () => expect([...messages.keys()].filter((m) => words[m] === undefined)).toEqual([]));
  test('says nothing that no source says', () => expect(Object.keys(words).filter((m) => !messages.has(m))).toEqual([]));
  test('takes in what English takes in', () => {
    const other = Object.entries(words).filter(([m, said]) => said.trim() === '' || takenBy(m, 'en').join() !== takenBy(said, language).join());
    expect(other).toEqual([]);
  });
  test('begins and ends with a space where English does: it is put together with others', () => {
    const ends = (t) => [/^\s/.test(t), /\s$/.test(t)].join();
    expect(Object.entries(words).filter(([m, said]) => ends(m) !== ends(said))).toEqual([]);
  });
});
