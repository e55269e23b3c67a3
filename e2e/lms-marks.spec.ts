/** The LMS stand-in, which reads packages by itself, gives the core's marks for random items of every kind and random responses. */
import { expect, test } from './test.js';
import { type Item, letterOf, mark, piecesOf, type QuizSet, type Response, rightResponse, serviceOf, writeQtiPackage, wrongResponse } from '@zakuska/core';
import { workbook } from '@zakuska/documents';
import fc from 'fast-check';
import { anyGraded } from '../packages/core/src/item/arbitrary.js';
import { readPackage, responsesOf, score, showItem } from '../apps/standins/src/lms/qti.js';
import { runs } from '../packages/core/src/item/runs.js';

/** The fields of the LMS's form for a response. */
function form(item: Item, r: Response): Record<string, string | string[]> {
  if ('options' in r && 'options' in item) return { 'q.RESPONSE': item.options.flatMap((o, i) => (r.options.includes(o.id) ? [letterOf(i)] : [])) };
  if ('truth' in r) return { 'q.RESPONSE': String(r.truth) };
  if ('text' in r) return { 'q.RESPONSE': r.text };
  if ('gaps' in r) return Object.fromEntries(Object.values(r.gaps).map((v, i) => [`q.RESPONSE_${i + 1}`, v]));
  if ('pairs' in r && item.kind === 'matching') {
    const rights = [...new Set([...item.pairs.map((p) => p.right), ...item.extraRights])];
    return Object.fromEntries(r.pairs.flatMap((p, i) => (p === null ? [] : [[`q.RESPONSE|L${i + 1}`, `R${rights.indexOf(p) + 1}`]])));
  }
  if ('order' in r && item.kind === 'ordering')
    return Object.fromEntries(r.order.map((o, i) => [`q.RESPONSE#S${item.sequence.indexOf(o) + 1}`, String(i + 1)]));
  return {};
}
/** Some response between right and wrong. */
function between(item: Item, n: number): Response | null {
  if (item.kind === 'multiple-choice' || item.kind === 'multiple-response') {
    const ids = item.options.filter((_, i) => (n >> i) & 1).map((o) => o.id);
    return item.kind === 'multiple-choice' ? { options: ids.slice(0, 1) } : { options: ids };
  }
  if (item.kind === 'matching') return { pairs: item.pairs.map((p, i) => ((n >> i) & 1 ? p.right : null)) };
  if (item.kind === 'cloze')
    return { gaps: Object.fromEntries(item.gaps.map((g, i) => [g.id, (n >> i) & 1 && g.kind === 'text' ? (g.answers[0]?.text ?? '') : 'not this'])) };
  return null;
}

test('600 random items, each answered right, wrong and in between', () => {
  fc.assert(
    fc.property(anyGraded, fc.nat(63), (item, n) => {
      const set: QuizSet = { title: 'T', items: [item] };
      const quiz = readPackage(writeQtiPackage(set, '2.1').bytes);
      const [stored] = quiz.items;
      if (!stored) throw new Error('the LMS refused the item');
      expect(showItem(stored, 'q.')).not.toBe('');
      for (const r of [rightResponse(item), wrongResponse(item), between(item, n)]) {
        if (!r) continue;
        const lms = score(stored, responsesOf(stored, 'q.', form(item, r)));
        expect(lms.maximum).toBe(item.points);
        expect(lms.score).toBeCloseTo(mark(item, r).points, 3);
      }
    }),
    { numRuns: runs(600) },
  );
});

/** The LMS needs none of them. */
const noMeans = { workbook, pictureAddress: () => '' };

test('what a learner did in the LMS comes back as it was done, for 300 random items', async () => {
  const lms = serviceOf('lms') as NonNullable<ReturnType<typeof serviceOf>>;
  await fc.assert(
    fc.asyncProperty(anyGraded, fc.nat(63), async (item, n) => {
      const [piece] = piecesOf({ title: 'T', items: [item] }, lms).pieces;
      if (!piece) return;
      const { content } = piece;
      const [stored] = readPackage(writeQtiPackage({ title: 'T', items: [content] }, '2.1').bytes).items;
      if (!stored) throw new Error('the LMS refused the item');
      for (const r of [rightResponse(content), wrongResponse(content), between(content, n)]) {
        if (!r) continue;
        const items = [{ identifier: stored.identifier, responses: responsesOf(stored, 'q.', form(content, r)), score: 0, maximum: 1 }];
        const page = { results: [{ id: 'x', at: '2026-01-01T00:00:00Z', learner: 'Ada', items }], next: '1' };
        let asked = 0;
        const call = async () => ({ status: 200, ok: true, bytes: new TextEncoder().encode(JSON.stringify(asked++ ? { results: [], next: '1' } : page)) });
        const pulled = await lms.pullResponses?.(call, 'c', [{ key: piece.key, remote: stored.identifier, content }], null, noMeans);
        expect(mark(content, pulled?.responses[0]?.responses[piece.key] ?? null).points).toBeCloseTo(mark(content, r).points, 6);
      }
    }),
    { numRuns: runs(300) },
  );
});
