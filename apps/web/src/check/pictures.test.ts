import { changed, picturesIn, withPictures, withSigns } from './pictures.js';

const TEXT = 'What is <img src="data:image/png;base64,AAA" alt="a &quot;bowl&quot;" width="300"/> and <img src="asset:x" alt=""/>?';

test('a text shows signs for its pictures and gets them back; a sign that is taken out takes its picture along', () => {
  expect(withSigns(TEXT)).toBe('What is ⟦picture 1⟧ and ⟦picture 2⟧?');
  expect(withPictures(withSigns(TEXT), picturesIn(TEXT))).toBe(TEXT);
  expect(withPictures('Only ⟦picture 2⟧ now', picturesIn(TEXT))).toBe('Only <img src="asset:x" alt=""/> now');
  expect(withPictures('⟦picture 7⟧', picturesIn(TEXT))).toBe('⟦picture 7⟧');
});
test('words and width of one picture change, the others stay', () => {
  expect(picturesIn(TEXT).map((p) => [p.alt, p.width])).toEqual([
    ['a "bowl"', 300],
    ['', null],
  ]);
  const wider = changed(TEXT, 0, { width: 480 });
  expect(picturesIn(wider).map((p) => [p.alt, p.width])).toEqual([
    ['a "bowl"', 480],
    ['', null],
  ]);
  expect(picturesIn(changed(TEXT, 1, { alt: 'x < y' })).map((p) => p.alt)).toEqual(['a "bowl"', 'x < y']);
  expect(changed(TEXT, 0, null)).toBe('What is  and <img src="asset:x" alt=""/>?');
});
