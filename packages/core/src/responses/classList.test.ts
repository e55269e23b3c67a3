/** Class lists as people have them. The heads of OneRoster are of IMS OneRoster 1.1, CSV tables, users.csv (from memory). */
import fc from 'fast-check';
import { MOST_MEMBERS, readClassList } from './classList.js';

const names = (text: string): string[] => readClassList(text).members.map((m) => m.name);

test.each<[string, string, { name: string; mail?: string; number?: string }[]]>([
  ['a name a line', 'Ada Brandt\n\n  Béla Çelik \n', [{ name: 'Ada Brandt' }, { name: 'Béla Çelik' }]],
  ['numbered, with bullets', '1. Ada Brandt\n2) Béla Çelik\n- Chi Doan', [{ name: 'Ada Brandt' }, { name: 'Béla Çelik' }, { name: 'Chi Doan' }]],
  ['family name first', 'Brandt, Ada\nÇelik, Béla', [{ name: 'Ada Brandt' }, { name: 'Béla Çelik' }]],
  [
    'as mail programs write them',
    'Ada Brandt <ada@saltmarsh.example>, \nbela@saltmarsh.example',
    [
      { name: 'Ada Brandt', mail: 'ada@saltmarsh.example' },
      { name: 'bela', mail: 'bela@saltmarsh.example' },
    ],
  ],
  [
    'pasted from a sheet, no heads',
    'Ada\tBrandt\t10021\nBéla\tÇelik\t10022',
    [
      { name: 'Ada Brandt', number: '10021' },
      { name: 'Béla Çelik', number: '10022' },
    ],
  ],
  ['heads in German', 'Nachname;Vorname;E-Mail\nBrandt;Ada;ada@saltmarsh.example', [{ name: 'Ada Brandt', mail: 'ada@saltmarsh.example' }]],
  [
    'heads in another order',
    'Student ID,Email,Full name\nS17,ada@saltmarsh.example,"Brandt, Ada"',
    [{ name: 'Ada Brandt', mail: 'ada@saltmarsh.example', number: 'S17' }],
  ],
  [
    'OneRoster',
    [
      'sourcedId,status,dateLastModified,enabledUser,orgSourcedIds,role,username,userIds,givenName,familyName,middleName,identifier,email',
      'u1,active,2026-08-01,true,o1,student,abrandt,,Ada,Brandt,,4711,ada@saltmarsh.example',
      'u2,active,2026-08-01,true,o1,teacher,tkrug,,Tom,Krug,,12,tom@saltmarsh.example',
      'u3,tobedeleted,2026-08-01,true,o1,student,bcelik,,Béla,Çelik,,4712,bela@saltmarsh.example',
    ].join('\n'),
    [{ name: 'Ada Brandt', mail: 'ada@saltmarsh.example', number: '4711' }],
  ],
])('%s', (_, text, expected) => {
  expect(readClassList(text).members).toEqual(expected.map((m) => ({ mail: '', number: '', ...m })));
});

test('who stands twice is there once, and that is told; two of one name are both there', () => {
  const twice = readClassList('Ada Brandt\nBéla Çelik\nada brandt');
  expect(twice.members.map((m) => m.name)).toEqual(['Ada Brandt', 'Béla Çelik']);
  expect(twice.notes.join()).toMatch(/Ada|ada/);
  const same = readClassList('Name,Email\nAda Brandt,a@x.example\nAda Brandt,b@x.example');
  expect(same.members).toHaveLength(2);
  expect(same.notes.join()).toMatch(/more than one person/);
});

test('nothing, and what is no list, gives nobody or is told', () => {
  expect(readClassList('')).toEqual({ members: [], notes: [] });
  expect(readClassList('\uFEFF\n \n123\n')).toEqual({ members: [], notes: [] });
  expect(readClassList('x'.repeat(300)).notes.join()).toMatch(/too long/);
  const many = readClassList(Array.from({ length: MOST_MEMBERS + 3 }, (_, i) => `Person ${'abcdefghij'[i % 10]}${i}`).join('\n'));
  expect(many.members).toHaveLength(MOST_MEMBERS);
  expect(many.notes.join()).toMatch(/last 3/);
});

test('any list of names comes back as it was, whatever separates the columns', () => {
  const word = fc.stringMatching(/^[A-ZÄÖÉ][a-zäöéßñ]{1,9}$/);
  const person = fc.record({ first: word, last: word });
  fc.assert(
    fc.property(
      fc.uniqueArray(person, { minLength: 2, maxLength: 30, selector: (p) => `${p.first} ${p.last}`.toLowerCase() }),
      fc.constantFrom(',', ';', '\t'),
      (people, sign) => {
        const expected = people.map((p) => `${p.first} ${p.last}`);
        expect(names(expected.join('\n'))).toEqual(expected);
        expect(names(people.map((p) => `${p.last}, ${p.first}`).join('\r\n'))).toEqual(expected);
        expect(names([['First name', 'Last name'].join(sign), ...people.map((p) => [p.first, p.last].join(sign))].join('\n'))).toEqual(expected);
      },
    ),
  );
});

test('never an exception, and every name has letters or comes from a mail', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 300, unit: 'grapheme' }), (text) => {
      for (const m of readClassList(text).members) expect(m.name.trim()).not.toBe('');
    }),
  );
});
