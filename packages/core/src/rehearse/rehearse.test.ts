import { runs } from '../item/runs.js';
import fc from 'fast-check';
import { strFromU8, unzipSync } from 'fflate';
import { anyGraded, anyRichSet } from '../item/arbitrary.js';
import { type Item, type QuizSet } from '../item/model.js';
import { coreFormats } from '../formats/index.js';
import { qtiItemXml } from '../formats/qti/v2/package.js';
import { fitSet } from '../fit/fit.js';
import { giftProfile } from '../formats/gift/profile.js';
import { giftText } from '../formats/gift/write.js';
import { writeQti12 } from '../formats/qti/v1/package.js';

const RUNS = runs(80);
const encode = (s: string): Uint8Array => new TextEncoder().encode(s);

const written = coreFormats.formats.filter((f) => f.write && f.profile && !f.anonymous);
test.each(written.map((f) => [f.id, f] as const))('%s: every item answers as the core marks it', async (_id, format) => {
  await fc.assert(
    fc.asyncProperty(anyRichSet, async (set) => {
      if (!fitSet(set, format.profile as never).set.items.length) return;
      const w = await format.write?.(set);
      if (!w) throw new Error('it writes nothing');
      const { bytes, name } = w;
      const r = await coreFormats.rehearse(bytes, name, set);
      expect(r.items.filter((i) => i.verdict === 'differs' || i.verdict === 'missing')).toEqual([]);
      expect(r.wrong).toBeLessThanOrEqual(r.maximum);
      expect(r.half).toBeCloseTo(r.halfDue, 2);
    }),
    { numRuns: Math.round(RUNS / 3) },
  );
});

// ── every key broken on purpose is found ──

const bare = anyGraded.map((i): Item => {
  const { feedback: _feedback, ...rest } = i;
  return rest as Item;
});

/** Every way to change the n-th match of a pattern; `change` gives null where that would break nothing. */
function* edits(text: string, pattern: RegExp, change: (m: RegExpExecArray) => string | null): Generator<string> {
  for (const m of text.matchAll(pattern)) {
    const to = change(m as RegExpExecArray);
    if (to !== null && to !== m[0]) yield text.slice(0, m.index) + to + text.slice(m.index + m[0].length);
  }
}
const half = (n: string): string | null => (Number(n) === 0 ? null : String(Number(n) / 2));

/** Mutants of a QTI 2.1 item: keys swapped, entries dropped, weights and bounds changed, case turned. */
function* mutants2(xml: string): Generator<string> {
  const ids = [...new Set(Array.from(xml.matchAll(/<(?:simpleChoice|inlineChoice) identifier="([^"]+)"/g), (m) => m[1] ?? ''))];
  const matched = xml.includes('match_correct') || xml.includes('<correct ');
  // where a mapping scores, the correct response is only said, not asked
  if (matched && ids.length > 1) {
    yield* edits(xml, /<value>([^<]+)<\/value>(?=[\s\S]*<\/correctResponse>)/g, (m) => `<value>${ids.find((x) => x !== m[1]) ?? ''}</value>`);
    yield* edits(xml, /<value>[^<]+<\/value>(?=[\s\S]*<\/correctResponse>)/g, () => '');
  }
  yield* edits(xml, /mappedValue="([^"]+)"/g, (m) => (half(m[1] ?? '') === null ? null : `mappedValue="${half(m[1] ?? '')}"`));
  yield* edits(xml, /<mapEntry mapKey="[^"]*" mappedValue="([^"]+)"[^>]*\/>/g, (m) => (Number(m[1]) === 0 ? null : ''));
  yield* edits(xml, /<baseValue baseType="float">([^<]+)<\/baseValue>/g, (m) => `<baseValue baseType="float">${Number(m[1]) + 1}</baseValue>`);
  yield* edits(xml, /<responseCondition>[\s\S]*?<\/responseCondition>/g, () => '');
  yield* edits(xml, /template="[^"]*match_correct"/g, (m) => m[0].replace('match_correct', 'map_response'));
}
/** Mutants of a QTI 1.2 file: other answers asked for, conditions dropped, scores changed, denials taken out, bounds moved. */
function* mutants1(xml: string, kind: string): Generator<string> {
  yield* edits(xml, /(<varequal [^>]*>)([^<]+)(<\/varequal>)/g, (m) => (kind === 'numeric' ? null : `${m[1]}not there${m[3]}`));
  yield* edits(xml, /<respcondition [^>]*>(?:(?!<\/respcondition>)[\s\S])*<setvar[\s\S]*?<\/respcondition>/g, () => '');
  yield* edits(xml, /(<setvar [^>]*>)([^<]+)(<\/setvar>)/g, (m) => (half(m[2] ?? '') === null ? null : `${m[1]}${half(m[2] ?? '')}${m[3]}`));
  yield* edits(xml, /<not>\s*(<varequal [\s\S]*?<\/varequal>)\s*<\/not>/g, (m) => m[1] ?? null);
}
/** Mutants of GIFT: right and wrong swapped, weights changed, words and numbers altered, pairs crossed. */
function* mutantsGift(text: string): Generator<string> {
  const body = text.indexOf('\n{') + 1 || text.indexOf('{');
  const head = text.slice(0, body);
  const tail = text.slice(body);
  const all = function* (): Generator<string> {
    yield* edits(tail, /\t=(?!.*->)/g, () => '\t~');
    yield* edits(tail, /\t~(?!%)/g, () => '\t=');
    yield* edits(tail, /%(-?[\d.]+)%/g, (m) => (half(m[1] ?? '') === null ? null : `%${half(m[1] ?? '')}%`));
    yield* edits(tail, /\{(TRUE|FALSE)/g, (m) => (m[1] === 'TRUE' ? '{FALSE' : '{TRUE'));
    yield* edits(tail, /#(-?[\d.]+)(?=[}.\n])/g, (m) => (Number(m[1]) + 1000 === Number(m[1]) ? null : `#${Number(m[1]) + 1000}`));
  };
  for (const t of all()) yield head + t;
}

/** Marks are shared by some items however they are keyed: with one option, or all of them keys. */
const telling = (item: Item): boolean => !('options' in item) || item.options.some((o) => o.credit <= 0);

async function missed(set: QuizSet, file: string, name: string): Promise<boolean> {
  try {
    return (await coreFormats.rehearse(encode(file), name, set)).ok;
  } catch {
    // a file that can no longer be read is found at once
    return false;
  }
}

test.each<[string, (item: Item, set: QuizSet) => { file: string; name: string; mutants: Iterable<string> }]>([
  [
    'QTI 2.1',
    (item, set) => {
      const file = qtiItemXml(item, set, '2.1');
      return { file, name: 'item.xml', mutants: mutants2(file) };
    },
  ],
  [
    'QTI 1.2',
    (item, set) => {
      const file = strFromU8(unzipSync(writeQti12(set).bytes)['questions.xml'] as Uint8Array);
      return { file, name: 'questions.xml', mutants: mutants1(file, item.kind) };
    },
  ],
  [
    'GIFT',
    (item, set) => {
      const file = giftText(set);
      return { file, name: 'set.gift.txt', mutants: mutantsGift(file) };
    },
  ],
])('%s: every key that was broken on purpose is found', async (format, make) => {
  let tried = 0;
  // some items have several keys to break, some of what fits none
  for (let turn = 0; turn < 10 && tried <= RUNS / 2; turn++)
    await fc.assert(
      fc.asyncProperty(bare.filter(telling), async (item) => {
        const set: QuizSet = { title: 'T', items: [item] };
        if (format === 'GIFT' && fitSet(set, giftProfile).set.items.length !== 1) return;
        const { file, name, mutants } = make(item, set);
        expect(await missed(set, file, name)).toBe(true); // the file itself is in order
        for (const m of mutants) {
          tried++;
          if (await missed(set, m, name)) throw new Error(`not found: ${JSON.stringify(item)}\n${m.slice(0, 3000)}`);
        }
      }),
      { numRuns: RUNS },
    );
  expect(tried).toBeGreaterThan(RUNS / 2);
});

test('what differs is said with both marks', async () => {
  const item: Item = {
    id: 'a',
    kind: 'multiple-choice',
    stem: 'What feeds a starter?',
    points: 2,
    options: [
      { id: 'x', content: 'salt', credit: 0 },
      { id: 'y', content: 'flour', credit: 1 },
    ],
  };
  const set: QuizSet = { title: 'T', items: [item] };
  const r = await coreFormats.rehearse(encode(giftText(set).replace('~salt', '=salt').replace('=flour', '~flour')), 'a.gift', set);
  expect(r).toMatchObject({ ok: false, right: 0, wrong: 1, maximum: 1 });
  expect(r.items[0]?.reason).toBe('“flour” earns 0 of 1 there and 1 here');
});
