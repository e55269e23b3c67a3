import { decodeText } from './encoding.js';

/** Bytes of a text in a single-byte encoding, by asking the platform's decoder what each byte stands for. */
function encoded(text: string, label: string): Uint8Array {
  const table = new Map<string, number>();
  for (let b = 0; b < 256; b++) table.set(new TextDecoder(label).decode(Uint8Array.of(b)), b);
  // Node 20's windows-1252 has the control characters in its upper row; the signs there by the WHATWG standard
  [...'€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'].forEach((c, i) => void (label === 'windows-1252' && table.set(c, 0x80 + i)));
  return Uint8Array.from([...text].map((c) => table.get(c) ?? 0x3f));
}

test.each([
  ['windows-1250', '1. Co to jest inflacja?\na) spadek poziomu cen\nb) wzrost ogólnego poziomu cen\nOdpowiedź: b, bo ceny rosną. Źródło: podręcznik, święta'],
  ['iso-8859-2', '1. Które z tych kont służy do codziennych płatności?\na) lokata\nb) rachunek bieżący\nOdpowiedź: b, gdyż można płacić'],
  ['windows-1251', '1. Какой минерал самый твёрдый?\nа) тальк\nб) алмаз\nОтвет: б'],
  ['koi8-r', '1. Какой минерал самый твёрдый?\nа) тальк\nб) алмаз\nОтвет: б'],
  ['windows-1251', '1. Який мінерал найтвердіший?\nа) тальк\nб) алмаз\nВідповідь: б'],
  ['windows-1254', '1. Aşağıdakilerden hangisi doğrudur?\na) güneş\nb) yıldız\nCevap: a, çünkü ışık verir'],
  ['windows-1252', '1. Où se trouve le café ?\na) à côté de l’église\nb) “ici” – là\nRéponse : a'],
  ['windows-1252', '1. Welche Größe paßt?\na) Öl – für Überdruck\nb) Äther\nLösung: a'],
  ['windows-1252', '1. ¿Cuál es la capital de España?\na) Madrid\nb) León\nRespuesta: a'],
])('%s is told by its letters', (label, text) => {
  expect(decodeText(encoded(text, label))).toBe(text);
});

test.each(['utf-16le', 'utf-16be'])('%s without a mark', (label) => {
  const text = '1. Which? é\na) one *\nb) two';
  const bytes = new Uint8Array(text.length * 2);
  [...text].forEach((c, i) => {
    const code = c.charCodeAt(0);
    bytes.set(label === 'utf-16le' ? [code & 255, code >> 8] : [code >> 8, code & 255], i * 2);
  });
  expect(decodeText(bytes)).toBe(text);
});
