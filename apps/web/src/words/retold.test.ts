/** @jest-environment ./src/testing/environment.mjs */
/** Sentences of the core, known by their shape: each that the core's own examples bring about is told in every language, and none is taken for another. */
import '../testing/browser.js';
import { coreFormats, findingsOf, giftText, type Item, mark, offersFor, readDraft, type Response, rightResponse, rules, wrongResponse } from '@zakuska/core';
import { ApiError, wordsOf } from '../api/client.js';
import { retold } from './retold.js';
import { LANGUAGES, type Language, speak } from './say.js';

/** What the checks say of the drafts that they are explained with. */
const said = [
  ...new Set(
    rules.flatMap((rule) =>
      rule.examples.found.flatMap((draft) =>
        findingsOf(readDraft(draft).set, { aim: rule.examples.aim }).flatMap((f) => [f.message, ...(f.fix ? [f.fix.label] : [])]),
      ),
    ),
  ),
];

/** Drafts with something to doubt in each. */
const DOUBTFUL = [
  '1. One?\na) x\nb) y\nAnswer: Z',
  '1. One?\na) x\nAnswer: a',
  '1. One?\na) x *\nb) y *\nAnswer: a',
  '1. True or false: Salt is sweet.\nAnswer: perhaps',
  '1. Salt is {}.',
  '1. One?\na) x *\nb) x\n\n1. Two?\na) x *\nb) y\n\n9. Three?\na) *\nb) y',
  'hello there',
  '1. One?\na) x *\nb) y\nPoints: many',
  '1. Which?\na) x\nb) **y**\n\n2. Who?\na) **x**\nb) y\n\n3. Where?\na) x\nb) **y**',
  '1. Which?\na) x\nb) y\n\n2. Who?\na) x\nb) y\n\nAnswer key\n1. a',
];
const doubted = [...new Set(DOUBTFUL.flatMap((draft) => readDraft(draft).diagnostics.flatMap((d) => [d.message, ...(d.fixes ?? []).map((fix) => fix.label)])))];

/** What a rehearsal says of files that are not of the set that they are compared with. */
async function rehearsed(): Promise<string[]> {
  const one = (draft: string) => ({ ...readDraft(draft).set, title: 'Bread' });
  const here = one('1. Loaf?\na) rye *\nb) oats\nc) spelt\nPoints: 2\n\n2. Salt is sweet.\nAnswer: false\n\n3. Which grain has the loaf?\nAnswer: rye');
  const there = [
    '1. Loaf?\na) rye\nb) oats *\nc) maize\n\n2. Salt is sweet.\nAnswer: true\n\n3. Which grain has the loaf?\nAnswer: rye\nor: oats',
    '1. Loaf?\na) rye *\nb) oats\nc) spelt',
    '1. A fourth question?\na) one *\nb) two\n\n2. And a fifth?\na) one *\nb) two\n\n3. And the last of all?\na) one *\nb) two\n\n4. More?\na) one *\nb) two',
  ];
  const remarks = there.map(async (draft) => {
    const bytes = new TextEncoder().encode(giftText(one(draft)));
    return (await coreFormats.rehearse(bytes, 'a.gift.txt', here)).items.flatMap((i) => i.reason ?? []);
  });
  return [...new Set((await Promise.all(remarks)).flat())];
}

/** Why answers count or do not, and what would let them. */
function marked(): string[] {
  const items = readDraft(
    [
      '1. Loaf?\na) rye *\nb) oats\nc) spelt',
      '2. Which are grains? Select all that apply.\na) rye *\nb) oats *\nc) salt',
      '3. Salt is sweet.\nAnswer: false',
      '4. Which grain has the loaf?\nAnswer: Rye',
      '5. How warm is the oven?\nAnswer: 220 °C ± 5',
      '6. Flour, water and {salt} make {dough}.',
      '7. Match.\nrye = grain\nsalt = mineral',
      '8. Put in order.\nKind: ordering\n1. mix\n2. rest\n3. bake',
    ].join('\n\n'),
  ).set.items;
  const typed = ['rye', 'Ryé', 'rye.', 'ryee', 'oats', '220', '200 °C', '226 °C', 'x'.repeat(6000)];
  const given = (item: Item): (Response | null)[] => [
    null,
    rightResponse(item),
    wrongResponse(item),
    ...(item.kind === 'short-answer' || item.kind === 'numeric' ? typed.map((text) => ({ text })) : []),
    ...(item.kind === 'cloze' ? [{ gaps: Object.fromEntries(item.gaps.map((g) => [g.id, 'Salt'])) }] : []),
    ...(item.kind === 'multiple-choice' ? [{ options: item.options.map((o) => o.id) }] : []),
  ];
  return items.flatMap((i) => given(i).flatMap((r) => [mark(i, r).reason, ...offersFor(i, r, 'en').map((o) => o.label)]));
}

/** What is said of a table and of a GIFT file in which this and that is wrong. */
async function remarked(): Promise<string[]> {
  const read = async (name: string, text: string): Promise<string[]> =>
    (await coreFormats.read(new TextEncoder().encode(text), name)).diagnostics.map((d) => d.message);
  const gift = ['::A:: Loaf? {=rye =oats ~spelt}', 'Salt? {~one ~two}', 'Picture ![x](gone.png)? {T}', 'Number? {#1e400}', 'Word? {=*rye*}'].join('\n\n');
  const rows = ['Question,A,B,Answer,Points', 'Loaf?,rye,rye,A,1', 'Salt?,one,,A,many', 'Grain?,rye,oats,Z,1', 'Crust?,rye,oats,,1'].join('\n');
  return [...(await read('a.gift', gift)), ...(await read('a.csv', rows))];
}

afterEach(() => speak('en'));

test('English is what came', () => {
  expect(said.length).toBeGreaterThan(25);
  for (const s of said) expect(retold(s)).toBe(s);
});

describe.each(Object.keys(LANGUAGES).filter((l) => l !== 'en'))('%s', (language) => {
  test('every finding of the examples is told', async () => {
    await speak(language as Language);
    expect(said.filter((s) => retold(s) === s)).toEqual([]);
  });
  test('every reason of marking, what would let an answer count, and what readers of files remark', async () => {
    const all = [...new Set([...marked(), ...(await remarked())])];
    await speak(language as Language);
    expect(all.length).toBeGreaterThan(25);
    expect(all.filter((s) => retold(s) === s)).toEqual([]);
  });
  test('every doubt of the reader, and what can be done about it', async () => {
    await speak(language as Language);
    expect(doubted.length).toBeGreaterThan(15);
    expect(doubted.filter((s) => retold(s) === s)).toEqual([]);
  });
});

test('what a rehearsal says of an item', async () => {
  const remarks = await rehearsed();
  expect(remarks.length).toBeGreaterThan(3);
  await speak('fr');
  expect(remarks.filter((s) => retold(s) === s)).toEqual([]);
  await speak('de');
  expect(retold('it is worth 1 there and 2 here')).toBe('dort ist sie 1 wert und hier 2');
  expect(retold('“London” earns 1 of 1 there and 0 here')).toBe('“London” bringt dort 1 von 1 und hier 0');
});

test('what the server refuses with, with roles and names in their places', async () => {
  await speak('de');
  const told = (detail: string): string => wordsOf(new ApiError(403, 'refused', detail));
  expect(told('This set is not here, or you may not see it.')).toBe('Nicht hier, oder für Sie nicht zu sehen: der Fragensatz.');
  expect(told('This needs the role editor; you are reader here.')).toBe('Das braucht die Rolle Bearbeitend; Sie sind hier Lesend.');
  expect(told('There is a folder called “owner” here already.')).toBe('Einen Ordner namens „owner“ gibt es hier schon.');
  expect(told('Too many tries. Wait 4 minutes and try again.')).toBe('Zu viele Versuche. Warten Sie 4 Minuten, und versuchen Sie es wieder.');
  expect(told('The service refused: quota')).toBe('Der Dienst hat abgelehnt: quota');
  expect(wordsOf('no error')).toBe('Etwas ging schief.');
});

test('what readers of files refuse with', async () => {
  const refused = async (bytes: readonly number[], name: string): Promise<string> =>
    wordsOf(await coreFormats.read(Uint8Array.from(bytes), name).catch((e: unknown) => e));
  await speak('es');
  expect(await refused([0x50, 0x4b, 3, 4, 1, 2], 'a.zip')).toBe('este archivo comprimido está dañado o cortado; cópielo o expórtelo de nuevo');
  expect(await refused([...new TextEncoder().encode('<assessmentTest/>')], 'a.xml')).toBe('no hay ninguna pregunta QTI en este XML');
});

test('what is put in stands in its place, pieces of sentences are told too, and quotes stay', async () => {
  await speak('de');
  expect(retold('Options A and C say the same, and only one of them is a key.')).toBe(
    'Die Antworten A und C sagen dasselbe, und nur eine davon ist eine Lösung.',
  );
  expect(retold('Options B and D say the same.')).toBe('Die Antworten B und D sagen dasselbe.');
  expect(retold('The item has no answer for gap 2, 3.')).toBe('Die Aufgabe hat ein Problem: keine Antwort für Lücke 2, 3.');
  expect(retold('Question 3: two options say “One has two keys. Yes”. Which one was meant otherwise cannot be told: change or take out one of them.')).toBe(
    'Frage 3: Zwei Antworten sagen „One has two keys. Yes“. Welche anders gemeint war, ist nicht zu sagen: Ändern Sie eine, oder nehmen Sie sie heraus.',
  );
  expect(retold('“strict” counts as one answer.')).toBe('„strict“ zählt als eine Antwort.');
  expect(retold('its 40 seconds become 30: one of those that may be given there')).toBe('aus 40 Sekunden werden 30: eine der Zeiten, die es dort gibt');
});

test('what has no shape comes as it is, however it ends', async () => {
  await speak('de');
  for (const s of ['', 'constructor', 'Something else', 'Options A and', 'Option {0} has', `${'a '.repeat(20_000)}.`]) expect(retold(s)).toBe(s);
});
