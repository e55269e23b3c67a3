/** `zakuska versions`: what it prints, counted anew by a script that shares nothing with it; what it writes, read back. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const bin = path.join(path.dirname(fileURLToPath(import.meta.url)), '../bin/zakuska.mjs');
const dir = mkdtempSync(path.join(tmpdir(), 'zakuska-versions-'));
const run = (...args: string[]): { status: number | null; stdout: string; stderr: string } =>
  spawnSync(process.execPath, [bin, 'versions', ...args], { cwd: dir, encoding: 'utf8' });

const OUTCOMES = ['Yeast', 'Heat', 'Safety'];
const items = Array.from({ length: 24 }, (_, n) => ({
  id: `q${n}`,
  kind: 'multiple-choice',
  stem: `What does step ${n * 3} of recipe ${n * 7} in book ${n * 13} ask for?`,
  points: 1 + (n % 3),
  outcomes: [OUTCOMES[n % 3]],
  level: { difficulty: (n % 10) / 10 },
  options: ['rye', 'oat', 'rice'].map((content, k) => ({ id: `o${k}`, content: `${content} ${n * 17}`, credit: k === n % 3 ? 1 : 0 })),
}));
const set = path.join(dir, 'pool.zak.json');
writeFileSync(set, JSON.stringify({ zakuska: 1, title: 'Pool', items }));
writeFileSync(path.join(dir, 'rows.json'), JSON.stringify(OUTCOMES.map((outcome) => ({ outcome, count: 2 }))));

/** Counts anew, from the pool and what was printed. */
const RECOUNT = `
import json, sys
pool = {i["id"]: i for i in json.load(open(sys.argv[1]))["items"]}
drawn = json.load(open(sys.argv[2]))
vs = drawn["versions"]
print(json.dumps({
  "points": [sum(pool[i]["points"] for i in v["items"]) for v in vs],
  "difficulty": [round(sum(pool[i]["level"]["difficulty"] for i in v["items"]) / len(v["items"]), 4) for v in vs],
  "overlap": [[len(set(a["items"]) & set(b["items"])) for b in vs] for a in vs],
  "outcomes": [sorted(pool[i]["outcomes"][0] for i in v["items"]) for v in vs],
}))`;

test('points, difficulty and overlap are what another script counts; the blueprint is met; the same seed prints the same', () => {
  const args = [set, '--versions', '5', '--items', '6', '--seed', '7', '--blueprint', 'rows.json', '--json'];
  const { stdout, status } = run(...args);
  expect(status).toBe(0);
  expect(run(...args).stdout).toBe(stdout);
  const drawn = JSON.parse(stdout) as { seed: number; versions: { name: string; points: number; difficulty: number }[]; overlap: number[][]; unmet: unknown[] };
  writeFileSync(path.join(dir, 'drawn.json'), stdout);
  const python = spawnSync('python3', ['-c', RECOUNT, set, path.join(dir, 'drawn.json')], { encoding: 'utf8' });
  const counted = JSON.parse(python.stdout) as Record<string, unknown>;
  expect(counted['points']).toEqual(drawn.versions.map((v) => v.points));
  expect(counted['difficulty']).toEqual(drawn.versions.map((v) => v.difficulty));
  expect(counted['overlap']).toEqual(drawn.overlap);
  expect(counted['outcomes']).toEqual(Array.from({ length: 5 }, () => ['Heat', 'Heat', 'Safety', 'Safety', 'Yeast', 'Yeast']));
  // thirty places, twenty-four items: six have to come twice, none three times
  expect(drawn.overlap.flatMap((row, i) => row.slice(i + 1)).reduce((a, b) => a + b, 0)).toBe(6);
  expect(drawn.versions.map((v) => v.name)).toEqual(['A', 'B', 'C', 'D', 'E']);
  expect(drawn.unmet).toEqual([]);
});

test('each version is written as a set file with its own key, which other formats take', () => {
  const { stdout } = run(set, '--versions', '2', '--items', '5', '--out', 'versions');
  const files = stdout.split('\n').filter((l) => l.endsWith('.zak.json'));
  expect(files.length).toBe(2);
  for (const file of files) {
    const written = JSON.parse(readFileSync(path.join(dir, file), 'utf8')) as { items: { id: string; options: { content: string; credit: number }[] }[] };
    for (const item of written.items) {
      const before = items.find((i) => i.id === item.id);
      const key = (list: { content: string; credit: number }[] | undefined): string | undefined => list?.find((o) => o.credit === 1)?.content;
      expect(key(item.options)).toBe(key(before?.options));
    }
    const gift = spawnSync(process.execPath, [bin, 'convert', file, '--to', 'gift', '-o', `${file}.gift`], { cwd: dir, encoding: 'utf8' });
    expect(gift.status).toBe(0);
    expect(spawnSync(process.execPath, [bin, 'rehearse', `${file}.gift`, '--against', file], { cwd: dir, encoding: 'utf8' }).stdout).toContain(
      'every key marks as it should',
    );
  }
});

test.each([
  [['nothing.json', '--items', '3'], 2, 'there is no such file'],
  [[set], 2, 'how many items should a version hold'],
  [[set, '--items', 'x'], 2, '--items needs a whole number'],
  [[set, '--items', '3', '--overlap', 'much'], 2, '--overlap needs one of none, little, any'],
  [[set, '--items', '30'], 1, 'A version of 30 items was asked for, and the pool offers 24 different items.'],
])('what cannot be is said: %s', (args, status, message) => {
  const r = run(...args);
  expect(r.status).toBe(status);
  expect(r.stderr).toContain(message);
});
