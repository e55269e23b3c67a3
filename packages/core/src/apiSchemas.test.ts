/** What travels keeps to the schemas that are published of it, by an independent validator (npm ajv, JSON Schema 2020-12). */
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { apiSchemas } from './apiSchemas.js';
import { anyGraded, anySet } from './item/arbitrary.js';
import { item } from './item/model.js';
import { apply, emptyDocument, type Operation } from './item/operations.js';
import { runs } from './item/runs.js';
import { rightResponse, wrongResponse } from './mark/answers.js';
import { mark } from './mark/mark.js';

const schemas = apiSchemas((name) => `https://zakuska.example/${name}`);
const ajv = new Ajv2020({ strict: false });
for (const [name, schema] of Object.entries(schemas)) ajv.addSchema(schema, `https://zakuska.example/${name}`);
/** What is wrong with a value by a schema; '' for nothing. As it travels: through JSON. */
const wrong = (name: string, value: unknown): string => {
  const check = ajv.getSchema(`https://zakuska.example/${name}`);
  if (!check) throw new Error(`there is no schema ${name}`);
  return check(JSON.parse(JSON.stringify(value))) ? '' : ajv.errorsText(check.errors);
};

test('sets, documents, operations with their inverses, responses and marks', () => {
  fc.assert(
    fc.property(anySet, anyGraded, (set, one) => {
      const own = item.parse(one);
      const document = {
        ...emptyDocument('T'),
        set: { ...set, items: set.items.map((i) => item.parse(i)) },
        reviews: {},
        dismissed: { 'x y': 'so it is' },
        aim: { year: 8 },
      };
      expect(wrong('SetDocument', document)).toBe('');
      const steps: Operation[] = [
        { type: 'insert', at: 0, items: [{ ...own, id: 'new' }] },
        { type: 'review', id: 'new', review: { state: 'checked', by: 'M', at: '2026-01-01T00:00:00Z' } },
        { type: 'change', id: 'new', set: { points: 2 }, review: null },
        {
          type: 'all',
          label: 'Both',
          operations: [
            { type: 'move', id: 'new', to: 0 },
            { type: 'remove', ids: ['new'] },
          ],
        },
      ];
      let now = document as Parameters<typeof apply>[0];
      for (const operation of steps) {
        const done = apply(now, operation);
        expect([operation.type, wrong('Operation', operation), wrong('Operation', done.inverse), wrong('SetDocument', done.document)]).toEqual([
          operation.type,
          '',
          '',
          '',
        ]);
        now = done.document;
      }
      for (const given of [rightResponse(own), wrongResponse(own)])
        if (given) expect([wrong('Response', given), wrong('Mark', mark(own, given))]).toEqual(['', '']);
    }),
    { numRuns: runs(60) },
  );
});

test.each<[string, unknown]>([
  ['Operation', { type: 'nonsense' }],
  ['Operation', { type: 'move', id: 'a', to: -1 }],
  ['Response', { options: 'a' }],
  ['Item', { id: 'a', kind: 'riddle', stem: 's', points: 1 }],
  ['Review', { state: 'checked' }],
  ['SetDocument', { set: { title: 'T' }, reviews: {} }],
])('%s refuses %j', (name, value) => {
  expect(wrong(name, value)).not.toBe('');
});

test('the schemas are the same each time they are made', () => {
  expect(apiSchemas((n) => n)).toEqual(apiSchemas((n) => n));
});
