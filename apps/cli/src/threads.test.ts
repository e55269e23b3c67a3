/** A large package is packed by threads, and is the file that one makes. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { coreFormats, writeQtiPackage } from '@zakuska/core';

const bin = path.join(path.dirname(fileURLToPath(import.meta.url)), '../bin/zakuska.mjs');

test('eleven hundred items by the command are the same bytes as by one thread, and the process ends', async () => {
  const dir = mkdtempSync(path.join(tmpdir(), 'zakuska-threads-'));
  const items = Array.from({ length: 1100 }, (_, n) => ({
    id: `q${n}`,
    kind: 'true-false',
    stem: `Loaf ${n} is baked on day ${n % 7}.`,
    points: 1,
    answer: n % 2 === 0,
  }));
  const file = path.join(dir, 'loaves.zak.json');
  writeFileSync(file, JSON.stringify({ zakuska: 1, title: 'Loaves', items }));
  const { status, stdout } = spawnSync(process.execPath, [bin, 'convert', file, '--to', 'qti30', '-o', path.join(dir, 'a.zip')], {
    encoding: 'utf8',
    timeout: 120_000,
  });
  expect([status, stdout.trim()]).toEqual([0, path.join(dir, 'a.zip')]);
  const { set } = await coreFormats.read(readFileSync(file), file);
  expect(Buffer.compare(readFileSync(path.join(dir, 'a.zip')), writeQtiPackage(set, '3.0').bytes)).toBe(0);
});
