import fc from 'fast-check';
import { type Listed, matchPeople } from './match.js';

const LIST: Listed[] = [
  { id: '1', name: 'Ada Brandt', mail: 'ada.brandt@saltmarsh.example' },
  { id: '2', name: 'Otto Finch', mail: 'otto@saltmarsh.example' },
  { id: '3', name: 'Otto Field' },
  { id: '4', name: 'Zoë Ångström' },
  { id: '5', name: 'Lena Borg' },
  { id: '6', name: 'Lena Borg' },
];
test.each<[string, string, string | null, string]>([
  ['the name as it stands', 'Ada Brandt', '1', 'name'],
  ['in other letters, the other way round, with a comma', 'BRANDT,  ada', '1', 'name'],
  ['without accents', 'Zoe Angstrom', '4', 'name'],
  ['a mail address in place of a name', 'Otto@Saltmarsh.example', '2', 'mail'],
  ['an initial', 'A. Brandt', '1', 'likely'],
  ['a first name that only one has', 'zoë', '4', 'likely'],
  ['a first name that two have', 'Otto', '2', 'maybe'],
  ['two people of one name', 'Lena Borg', '5', 'maybe'],
  ['a letter wrong', 'Ada Brant', '1', 'maybe'],
  ['two letters the wrong way round', 'Otto Fnich', '2', 'maybe'],
  ['nobody of the list', 'Milo Sand', null, 'nobody'],
  ['no name', ' … ', null, 'nobody'],
])('%s: %s', (_, name, person, by) => expect(matchPeople([{ name }], LIST)).toEqual([{ person, by }]));

test('a mail address counts before a name', () => {
  expect(matchPeople([{ name: 'Ada Brandt', mail: 'otto@saltmarsh.example' }], LIST)).toEqual([{ person: '2', by: 'mail' }]);
});
test('two who may be one person: who has the name keeps it, the other is asked', () => {
  expect(matchPeople([{ name: 'Ada Brandt' }, { name: 'Ada' }], LIST).map((m) => m.by)).toEqual(['name', 'maybe']);
});
test('whoever is on the list under a name of her own is found by it, in any order of words', () => {
  const word = fc.stringMatching(/^[A-Z][a-z]{3,9}$/);
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.tuple(word, word), { minLength: 1, maxLength: 20, selector: ([a, b]) => [a, b].sort().join(' ').toLowerCase() }),
      fc.boolean(),
      (names, turned) => {
        const list = names.map(([a, b], i) => ({ id: String(i), name: `${a} ${b}` }));
        const found = matchPeople(
          names.map(([a, b]) => ({ name: turned ? `${b} ${a}` : `${a} ${b}` })),
          list,
        );
        expect(found.map((m) => [m.person, m.by])).toEqual(list.map((p) => [p.id, 'name']));
      },
    ),
  );
});
