import { readDraft } from '../draft/read.js';
import type { Item } from '../item/model.js';
import { leftToDo } from './leftToDo.js';

const { items } = readDraft('1. Rye?\na) yes *\nb) no\n\n2. Oat?\na) yes\nb) no\n\n3. Salt?\nAnswer: NaCl\n').set;
const ids = (list: readonly Item[]): (string | undefined)[] => list.map((i) => i.label);

test('items without a key, not checked, or with a picture that nobody described are told apart', () => {
  const checked = { [items[0]?.id ?? '']: { state: 'checked' as const, by: 'M', at: '' } };
  const left = leftToDo(items, checked);
  expect([ids(left.withoutKey), ids(left.notChecked), ids(left.pictures)]).toEqual([['2'], ['3'], []]);
  const pictured = items.map((i) => ({ ...i, stem: `${i.stem} <img src="data:," alt="${i.label === '1' ? 'a field' : ' '}"/>` }));
  expect(ids(leftToDo(pictured, checked).pictures)).toEqual(['2', '3']);
});
test('a text to read has no key and needs none; what is all done leaves nothing', () => {
  const text: Item = { id: 't', kind: 'information', stem: 'Read this.', points: 0 };
  expect(leftToDo([text], {}).withoutKey).toEqual([]);
  expect(leftToDo([text], { t: { state: 'checked', by: 'M', at: '' } })).toEqual({ withoutKey: [], notChecked: [], pictures: [] });
});
