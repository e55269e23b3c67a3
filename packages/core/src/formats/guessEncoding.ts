/** The encoding of bytes that are no UTF-8 and say nothing of themselves. */
import { lookUp } from '../language/lookUp.js';
import chardet from 'chardet';

/** Names of the detector as labels of the WHATWG encoding standard, by which the older sets are read as the newer ones that hold them. */
const LABELS: Record<string, string> = {
  'iso-8859-1': 'windows-1252',
  'iso-8859-9': 'windows-1254',
  'iso-8859-8': 'windows-1255',
  'iso-8859-8-i': 'windows-1255',
  ascii: 'windows-1252',
};
/** Bytes that are looked at; the detector's time grows with them. */
const SAMPLE = 60_000;
/** Icelandic letters, which in the Turkish set stand for ğ, ş and ı. */
const ICELANDIC = /[ðþýÐÞÝ]/g;

/** How unlikely a text is: characters that no text has, letters of several scripts in one word, capitals within words. */
function oddness(text: string): number {
  const bad = text.match(/[\ufffd\u0080-\u009f]/g)?.length ?? 0;
  const mixed =
    text.match(
      /\p{Script=Latin}(?=[\p{Script=Cyrillic}\p{Script=Greek}\p{Script=Hebrew}])|[\p{Script=Cyrillic}\p{Script=Greek}\p{Script=Hebrew}](?=\p{Script=Latin})/gu,
    )?.length ?? 0;
  const inner = text.match(/\p{Ll}\p{Lu}/gu)?.length ?? 0;
  const signs = text.match(/\p{L}[¤¦§¨©ª«¬®°±²³¶¸¹º»¼½¾¿×÷]\p{L}/gu)?.length ?? 0;
  return bad * 3 + mixed * 2 + inner + signs * 2;
}

/**
 * The likeliest encoding, as a label of the WHATWG encoding standard. The detector (npm chardet, by the frequency of letter
 * groups in a language) proposes; what reads as nonsense falls back.
 */
export function guessEncoding(bytes: Uint8Array): string {
  const head = bytes.subarray(0, SAMPLE);
  const high = head.reduce((n, b) => n + (b > 127 ? 1 : 0), 0) || 1;
  let best = { label: 'windows-1252', score: Number.NEGATIVE_INFINITY };
  const seen = new Set<string>();
  for (const m of [
    ...chardet.analyse(head),
    { name: 'windows-1251', confidence: 5 },
    { name: 'windows-1250', confidence: 5 },
    { name: 'windows-1252', confidence: 8 },
  ]) {
    const name = m.name.toLowerCase();
    const label = lookUp(LABELS, name) ?? name;
    if (seen.has(label) || name.startsWith('utf')) continue;
    seen.add(label);
    let text: string;
    try {
      text = new TextDecoder(label).decode(head);
    } catch {
      continue;
    }
    // the decoder of old Node versions takes the upper row of Windows-1252 for control characters
    if (label === 'windows-1252') text = text.replace(/[\u0080-\u009f]/g, '’');
    const turkish = label === 'windows-1252' ? (text.match(ICELANDIC)?.length ?? 0) * 2 : 0;
    const score = m.confidence - ((oddness(text) + turkish) / high) * 60;
    if (score > best.score) best = { label, score };
  }
  return best.label;
}
