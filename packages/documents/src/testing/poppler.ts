/** Pages as poppler draws them: what is printed, seen by a program that is not ours. Development only. */
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Paper } from '@zakuska/core/testing';

/** Whether poppler is there; a run of all tests has installed it, so there it is used whatever happens. */
export function popplerIsThere(): boolean {
  if (process.env['ZAKUSKA_WHOLE']) return true;
  try {
    execFileSync('pdftoppm', ['-v'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

/** The pages of a PDF in grey. @param dpi dots to an inch */
export function drawnPages(bytes: Uint8Array, dpi: number): Paper[] {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'pages-'));
  try {
    fs.writeFileSync(path.join(folder, 'a.pdf'), bytes);
    execFileSync('pdftoppm', ['-gray', '-r', String(dpi), path.join(folder, 'a.pdf'), path.join(folder, 'a')]);
    const files = fs.readdirSync(folder).filter((f) => f.endsWith('.pgm'));
    return files.sort().map((f) => {
      const pgm = fs.readFileSync(path.join(folder, f));
      const [head = '', width, height] = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(pgm.subarray(0, 60).toString('latin1')) ?? [];
      return { scale: dpi / 25.4, width: Number(width), height: Number(height), data: new Uint8Array(pgm.subarray(head.length)) };
    });
  } finally {
    fs.rmSync(folder, { recursive: true });
  }
}
