/** Whose a sheet is, by its code. */
import { personCode } from '@zakuska/core';
import { listedPeople } from './people.js';

const member = (id: string, name: string, more: { mail?: string; number?: string } = {}) => ({ id, name, mail: '', number: '', extra: 0, ...more });
const id = (n: number): string => `0190a5c4-0000-7000-8000-00000000000${n}`;

test('by their names', () => {
  const { names, byCode } = listedPeople([{ name: 'Bread, Monday', members: [member(id(1), 'Ola Nilsen'), member(id(2), 'Ada Brandt')] }]);
  expect(names).toEqual(['Ada Brandt', 'Ola Nilsen']);
  expect(byCode.get(personCode(id(2)))).toBe('Ada Brandt');
  expect(byCode.get('000000000009')).toBeUndefined();
});

test('nobody gets the answers of another of the same name', () => {
  const { names, byCode } = listedPeople([
    {
      name: 'Monday',
      members: [member(id(1), 'Ada', { number: '17' }), member(id(2), 'Ada', { mail: 'ada@saltmarsh.example' }), member(id(3), 'Ada'), member(id(4), 'Ada')],
    },
    { name: 'Tuesday', members: [member(id(5), 'Ada'), member(id(6), 'Béla')] },
  ]);
  expect(byCode.get(personCode(id(1)))).toBe('Ada (17)');
  expect(byCode.get(personCode(id(2)))).toBe('Ada (ada@saltmarsh.example)');
  expect(byCode.get(personCode(id(5)))).toBe('Ada (Tuesday)');
  expect(names).toHaveLength(6);
});
