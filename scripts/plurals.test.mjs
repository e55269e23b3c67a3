/** Counts are said by `counted` alone, and each thing that is counted has its plural: "1 entry", "2 entries". */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { counted } from '../packages/core/src/language/counted.ts';
import { root } from './install.mjs';

const files = execFileSync('git', ['ls-files', 'apps', 'packages'], { cwd: root, encoding: 'utf8' })
  .split('\n')
  // the stand-ins share nothing with the product
  .filter((f) => /\.tsx?$/.test(f) && !/\.test\.|generated|^apps\/standins/.test(f));
const sources = files.map((f) => [f, readFileSync(join(root, f), 'utf8')]);

test('no text makes a plural of its own beside a number', () => {
  const own = /\{([\w.[\]()?]+)\} \$?\{\1 === 1 \? '/g;
  expect(sources.flatMap(([f, text]) => Array.from(text.matchAll(own), (m) => `${f}: ${m[0]}`))).toEqual([]);
});

/** Plurals that the rules of spelling ask for (y behind a consonant, hissing sounds); a common rule of English, from memory. */
const due = (noun) => (/(?:[^aeiou]y|s|x|z|ch|sh)$/.test(noun.split(' ')[0] ?? '') ? 'its own' : `${noun}s`);
const calls = sources.flatMap(([f, text]) =>
  Array.from(text.matchAll(/\bcounted\(\s*(?:[^()]|\([^()]*\))*?,\s*'([^']+)'(?:,\s*'([^']+)')?,?\s*\)/g), (m) => [f, m[1], m[2]]),
);

test('there are many', () => expect(calls.length).toBeGreaterThan(25));
test.each([...new Map(calls.map((c) => [`${c[1]} ${c[2] ?? ''}`, c])).values()])('%s: 0, 1 and 2 × %s', (_, one, many) => {
  expect(counted(1, one, many)).toBe(`1 ${one}`);
  const plural = counted(2, one, many).slice(2);
  expect(plural).not.toBe(one);
  expect(counted(0, one, many)).toBe(`0 ${plural}`);
  if (many === undefined) expect(plural).toBe(due(one));
});
