/** Runs `cases/*.md`: each holds a command, its input, and exactly what it prints. A bug report becomes a test by being pasted. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../..');
const bin = path.join(root, 'apps/cli/bin/zakuska.mjs');
const cases = readdirSync(path.join(root, 'cases')).filter((f) => f.endsWith('.md'));

/** The fenced block behind a line that starts so; undefined where there is none. */
const block = (text: string, lead: RegExp): string | undefined => new RegExp(`${lead.source}[^\\n]*\\n+\`\`\`\\n([\\s\\S]*?)\`\`\``, 'm').exec(text)?.[1];

const run = (args: string[], cwd: string): { status: number | null; stdout: string; stderr: string } =>
  spawnSync(process.execPath, [bin, ...args], { cwd, encoding: 'utf8' });

test.each(cases)('%s', (file) => {
  const text = readFileSync(path.join(root, 'cases', file), 'utf8');
  const cwd = mkdtempSync(path.join(tmpdir(), 'zakuska-case-'));
  const input = block(text, /^input\.txt/) ?? '';
  const binary = /^input\.txt is binary/m.test(text);
  writeFileSync(
    path.join(cwd, 'input.txt'),
    binary
      ? Buffer.from(
          input.trim().replace(/\\x([0-9a-f]{2})/g, (_, h: string) => String.fromCharCode(Number.parseInt(h, 16))),
          'latin1',
        )
      : input,
  );
  for (const [, name = ''] of text.matchAll(/^(\S+) is:$/gm))
    if (name !== 'input.txt') writeFileSync(path.join(cwd, name), block(text, new RegExp(`^${name} is`)) ?? '');
  const args = (block(text, /^#/) ?? '').trim().split(/\s+/).slice(1);
  const r = run(args, cwd);
  expect(r.stdout.replace(/\[id:[0-9a-f-]+\]/g, '[id:ID]')).toBe(block(text, /^prints/) ?? '');
  expect(r.stderr).toBe(block(text, /^says/) ?? '');
  expect(r.status).toBe(Number(/^exit code (\d)/m.exec(text)?.[1] ?? 0));
});

test('several inputs: one set file each, and one bad file does not stop the others', () => {
  const cwd = mkdtempSync(path.join(tmpdir(), 'zakuska-case-'));
  writeFileSync(path.join(cwd, 'a.txt'), '1. Q?\na) x *\nb) y');
  writeFileSync(path.join(cwd, 'b.gift.txt'), '::T:: Q {=x ~y}');
  const r = run(['read', 'a.txt', 'gone.txt', 'b.gift.txt', '--out', 'sets'], cwd);
  expect(r.status).toBe(2);
  expect(r.stderr).toBe('zakuska: gone.txt: there is no such file\n');
  expect(readdirSync(path.join(cwd, 'sets'))).toEqual(['a.zak.json', 'b.zak.json']);
  const again = run(['read', 'sets/a.zak.json', '--json'], cwd);
  expect(JSON.parse(again.stdout)).toMatchObject({ zakuska: 1, title: 'a', items: [{ kind: 'multiple-choice', stem: 'Q?' }], diagnostics: [], asides: [] });
});

test('no command, a wrong command and a missing value say what to do', () => {
  expect(run([], root)).toMatchObject({ status: 2, stdout: expect.stringContaining('zakuska read FILE...') as string });
  expect(run(['bake'], root)).toMatchObject({ status: 2, stderr: 'zakuska: there is no command bake; see zakuska --help\n' });
  expect(run(['read', 'x', '--out'], root)).toMatchObject({ status: 2, stderr: 'zakuska: --out needs a value; see zakuska --help\n' });
});

// found by `npm run fuzz`: the library of PDF leaves a rejected promise behind that nobody waits for
test('a broken PDF does not end the program', () => {
  const r = run(['read', path.join(root, 'packages/documents/corpus/broken/object-not-where-it-is-said.pdf'), '--json'], tmpdir());
  expect(r.status).toBe(0);
  expect(JSON.parse(r.stdout).items).toHaveLength(7);
});
