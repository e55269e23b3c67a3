/** The command line: `zakuska read` and `zakuska convert`. */
import { mkdir, readFile as readBytes, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { formatById, readable, readFile, ReadError, writable, writeSetFile, type Format, type QuizSet, type ReadResult } from '@zakuska/core';

const USAGE = `zakuska: drafted questions in, structured items out

  zakuska read FILE... [--from FORMAT] [--json | --out DIR]
      Reads each file. Without an option, says in a few lines what was understood.
      --json      print a set file with diagnostics and asides
      --out DIR   write one NAME.zak.json for each input
  zakuska convert FILE... --to FORMAT [--from FORMAT] [-o OUT]
      Reads each file and writes it in another format.
      -o OUT      the file to write, or a folder where several files are read

FORMAT for --from: ${readable.map((f) => f.id).join(', ')}
FORMAT for --to:   ${writable.map((f) => f.id).join(', ')}
Exit code: 0 when everything could be read, 2 when not.
`;

class UsageError extends Error {}

interface Options {
  files: string[];
  from?: string;
  to?: string;
  out?: string;
  json: boolean;
}

function parse(args: readonly string[]): Options {
  const options: Options = { files: [], json: false };
  const rest = [...args];
  const value = (flag: string): string => {
    const v = rest.shift();
    if (v === undefined) throw new UsageError(`${flag} needs a value`);
    return v;
  };
  while (rest.length) {
    const a = rest.shift() as string;
    if (a === '--json') options.json = true;
    else if (a === '--from') options.from = value(a);
    else if (a === '--to') options.to = value(a);
    else if (a === '--out' || a === '-o') options.out = value(a);
    else if (a.startsWith('-') && a !== '-') throw new UsageError(`there is no option ${a}`);
    else options.files.push(a);
  }
  if (!options.files.length) throw new UsageError('no file was given');
  return options;
}

type Read = ReadResult & { format: string };

async function open(file: string, from: string | undefined): Promise<Read> {
  let bytes: Uint8Array;
  try {
    bytes = await readBytes(file);
  } catch (e) {
    throw new ReadError((e as NodeJS.ErrnoException).code === 'ENOENT' ? 'there is no such file' : (e as Error).message);
  }
  return readFile(bytes, basename(file), from);
}

const nameWithout = (file: string): string => basename(file).replace(/(\.zak|\.gift)?\.[^.]+$/, '');

function summary(file: string, r: Read): string {
  const count = (s: string): number => r.diagnostics.filter((d) => d.severity === s).length;
  const head = `${file}: ${r.set.items.length} items, ${count('error')} errors, ${count('warning')} warnings, ${r.asides.length} lines set aside (read as ${r.format})`;
  return [head, ...r.diagnostics.filter((d) => d.severity !== 'info').map((d) => `  ${d.line}:${d.column} ${d.severity} ${d.code} ${d.message}`)].join('\n');
}

async function read(o: Options): Promise<number> {
  let failed = 0;
  if (o.out) await mkdir(o.out, { recursive: true });
  for (const file of o.files) {
    try {
      const r = await open(file, o.from);
      const { diagnostics, asides } = r;
      if (o.json) process.stdout.write(writeSetFile(r.set, { diagnostics, asides }));
      else if (o.out) {
        const path = join(o.out, `${nameWithout(file)}.zak.json`);
        await writeFile(path, writeSetFile(r.set, { diagnostics, asides }));
        process.stdout.write(`${path}\n`);
      } else process.stdout.write(`${summary(file, r)}\n`);
    } catch (e) {
      failed++;
      complain(file, e);
    }
  }
  return failed ? 2 : 0;
}

async function convert(o: Options): Promise<number> {
  const to = formatById(o.to ?? '');
  if (!to?.write) throw new UsageError(`--to needs one of ${writable.map((f) => f.id).join(', ')}`);
  const several = o.files.length > 1;
  if (several && o.out) await mkdir(o.out, { recursive: true });
  let failed = 0;
  for (const file of o.files) {
    try {
      const { set } = await open(file, o.from);
      const written = to.write(set);
      told(set, to);
      const path = several ? join(o.out ?? '.', nameWithout(file) + to.extension) : (o.out ?? nameWithout(file) + to.extension);
      if (path === '-') process.stdout.write(written.bytes);
      else {
        await writeFile(path, written.bytes);
        process.stdout.write(`${path}\n`);
      }
    } catch (e) {
      failed++;
      complain(file, e);
    }
  }
  return failed ? 2 : 0;
}

/** What is adapted, lost or left behind goes to standard error, one line each. */
function told(set: QuizSet, to: Format): void {
  set.items.forEach((item, i) => {
    for (const n of to.fit?.(item, set) ?? []) process.stderr.write(`item ${item.label ?? i + 1}: ${n.fit}: ${n.message}\n`);
  });
}

function complain(file: string, e: unknown): void {
  if (!(e instanceof ReadError)) throw e;
  process.stderr.write(`zakuska: ${file}: ${e.message}\n`);
}

/** Runs a command line and gives its exit code. */
export async function run(args: readonly string[]): Promise<number> {
  const [command, ...rest] = args;
  try {
    if (!command || command === 'help' || command === '--help' || command === '-h') {
      process.stdout.write(USAGE);
      return command ? 0 : 2;
    }
    if (command === 'read') return await read(parse(rest));
    if (command === 'convert') return await convert(parse(rest));
    throw new UsageError(`there is no command ${command}`);
  } catch (e) {
    if (!(e instanceof UsageError)) throw e;
    process.stderr.write(`zakuska: ${e.message}; see zakuska --help\n`);
    return 2;
  }
}
