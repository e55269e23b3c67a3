/** The command line: `zakuska read`, `text`, `check`, `convert`, `fit`, `rehearse`, `template`, `versions`, `grade`, `request`, `draft`, `words`, `translate` and `merge`. */
import { mkdir, readFile as readBytes, writeFile } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import {
  decodeText,
  composeRequest,
  type Fit,
  fitSet,
  setLosses,
  type SetLoss,
  gradeTable,
  keyLooks,
  looksLikeSubtitles,
  type KeysFrom,
  matters,
  mergeReply,
  nameOf,
  type Profile,
  type QuizSet,
  readBlueprint,
  ReadError,
  type ReadResult,
  readSubtitles,
  type Importer,
  understandImporter,
  type Rehearsal,
  type SourceText,
  readTranslations,
  wishProblem,
  writeSetFile,
  type Format,
  type PaperLook,
  isPrinted,
} from '@zakuska/core';
import { checkReport } from './check.js';
import { gradedJson, gradedReport } from './grade.js';
import { mergedJson, mergedReport } from './merge.js';
import { requestOf } from './request.js';
import { merged, outgoing, translateOrder, translateReport, withTextIds } from './translate.js';
import { drawVersions, versionsJson, versionsReport, withStableIds, writeVersions } from './versions.js';
import { allFormats, fillTemplate } from '@zakuska/documents';
import { threads } from './threads.js';

const USAGE = `zakuska: drafted questions in, structured items out

  zakuska read FILE... [--from FORMAT] [--keys-from LOOK] [--json | --out DIR]
      Reads each file. Without an option, says in a few lines what was understood.
      --json      print a set file with diagnostics and asides
      --out DIR   write one NAME.zak.json for each input
      --keys-from auto | bold | highlight | colour | underline | italic | none
                  which look of options says the key in a draft or document; auto takes the look that marks exactly
                  one option in nearly all questions where nothing else says the key, and tells it
  zakuska text FILE...
      Prints the words of a document (DOCX, ODT, PDF, HTML) as draft text, with numbers and key marks typed out.
  zakuska check FILE... [--source FILE]... [--year N] [--from FORMAT]
      Says what could mislead learners, item by item, and where a key is missing.
      --source FILE  looks the keys up in an article, notes or a transcript; may be given several times
      --year N       the school year of the readers: items that read harder are told
  zakuska convert FILE... --to FORMAT [--part PART] [--from FORMAT] [-o OUT]
      Reads each file and writes it in another format.
      --part      of docx, pdf, html and markdown: questions, key, guide (for open questions), or questions and key where it is not said; sheet (to fill in circles; not as
                  Markdown, which has no place for them); of docx too: import, import-starred, import-bold, for services that take plain documents. What is written is read
                  again and compared.
      --look LOOK of pdf: large (print), columns (two of them), wide (spacing), or several of them: large,wide
      -o OUT      the file to write, or a folder where several files are read
  zakuska convert FILE --template TEMPLATE [-o OUT]
      Fills a service's import template (CSV, TSV, XLSX) with the items, in place of its examples, and reads it back.
  zakuska fit FILE... --to FORMAT [--from FORMAT]
      Says for each item what it becomes in a format: fits, or what is adapted, lost, or why it stays behind.
  zakuska rehearse FILE... [--against SET] [--from FORMAT]
      Answers each file from what stands in it, all right, all wrong, half right and in every way that tells
      one key from another, and compares with the marks of SET (any file with its questions), else of the file itself.

  zakuska template FILE... [--json]
      Says what a service's import template (CSV, TSV, XLSX, ODS) asks for: which column is what, how keys are said, what limits there are.

  zakuska versions SET... --versions N --items N [--seed N] [--blueprint FILE] [--overlap none|little|any] [--json] [--out DIR]
      Draws versions A, B, C … from the items of all sets. The same sets, blueprint and seed give the same versions.
      --items N[,N...]  how many items a version holds, or each of them
      --blueprint FILE  JSON: [{ "outcome": "…", "count": 3 }, { "kind": "true-false", "level": "easy", "points": 2 }];
                        a row names outcome, tag, kind, level, part, and says count or points
      --overlap none    rather an item too few than one in two versions; little (usual): as few as can be
      --out DIR         writes each version as a set file

  zakuska grade TABLE [--set SET] [--key-row NAME|N|auto] [--skip HEADING]... [--points HEADING=N]... [--attempts last|first|best] [--json]
      Marks a table of responses (CSV, TSV, XLSX, ODS): by a set, or by the row of it that holds the key.
      --key-row        the row by a name in it, or by its number; auto (usual) finds one that is named as the key
      --skip HEADING   a column that is not marked
      --points H=N     points for a question; one each where nothing is said
      --attempts       which row counts of somebody who answered several times; all, each by itself, where nothing is said

  zakuska request [SOURCE] [--topic WORDS] [--kinds KIND=N,...] [--options N] [--language L] [--level WORDS]
                  [--outcome WORDS]... [--add WHAT,...] [--most N] [--wish WORDS]
      Prints a request to any assistant for a draft, from a topic or from a source (article, notes, transcript), with the
      exact form of the reply. Nothing is sent. At most N characters of the source go along (usual: 12000).
      --kinds     such as multiple-choice=8,true-false=2 (usual)
      --add       some of feedback (usual), option-feedback, hints, tags, outcomes, difficulty, thinking, time

  zakuska draft SOURCE [--items N] [--kinds KIND[=N],...] [--options N] [--unsure] [--language L] [--seed N] [--json]
      Drafts items from an article, notes or a transcript by computation alone, and prints them in the notation. Fewer than
      asked where the source gives no more good ones; that is said on standard error.
      --items N   spread over the kinds; else as each of --kinds says
      --kinds     some of multiple-choice, true-false, short-answer, numeric, cloze, matching (usual: the first four)
      --unsure    also what needs a closer look, behind what is sure; the reason of each is said
      --json      each item with its sentence, the place of it, and how it was made

  zakuska words LIST [--ask ASKING] [--as choice|typed|matching] [--options N] [--source SOURCE] [--seed N] [--json]
      Makes an item of each word of a list, by its meaning: as the list gives it ("roux – flour cooked in fat"), else from
      the lexical database, in the sense that fits the source and the other words. Words that give none are said.
      --ask       definition (usual), example, synonym, meaning (from the word to it), mix

  zakuska translate SET --to LANGUAGE --xliff 1.2|2.1 [-o OUT]
  zakuska translate SET --to LANGUAGE --sheet [-o OUT]
      Writes the texts of a set for translators, with the translations that there are: XLIFF, or a CSV sheet.
  zakuska translate SET --from FILE [--to LANGUAGE] [-o OUT] [--json]
      Takes what came back into the set file OUT, unit by unit; says what was not taken and why. Keys cannot change.

  zakuska merge SET REPLY [--json]
      Matches the reply of an assistant, in any form that is read, with the items of a set: which is which, what changed,
      which keys mean something else than before, what is missing, what was added.

FORMAT for --from: ${allFormats.readable.map((f) => f.id).join(', ')}
FORMAT for --to:   ${allFormats.writable.map((f) => f.id).join(', ')}, pdf
Exit code: 0 when all went well, 1 when a rehearsal found a difference or a check an error, 2 when a file could not be read.
`;

class UsageError extends Error {}

interface Options {
  files: string[];
  from?: string;
  to?: string;
  out?: string;
  against?: string;
  template?: string;
  part?: string;
  look?: PaperLook;
  keysFrom?: KeysFrom;
  sources: string[];
  year?: number;
  json: boolean;
  versions?: number;
  items?: number[];
  seed?: number;
  blueprint?: string;
  overlap?: 'none' | 'little' | 'any';
  set?: string;
  keyRow?: string;
  skip: string[];
  points: { heading: string; points: number }[];
  attempts?: 'first' | 'last' | 'best';
}

function parse(args: readonly string[]): Options {
  const options: Options = { files: [], sources: [], skip: [], points: [], json: false };
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
    else if (a === '--against') options.against = value(a);
    else if (a === '--template') options.template = value(a);
    else if (a === '--part') options.part = value(a);
    else if (a === '--look') options.look = lookOfPaper(value(a));
    else if (a === '--source') options.sources.push(value(a));
    else if (a === '--year') options.year = yearOf(value(a));
    else if (a === '--keys-from') options.keysFrom = lookNamed(value(a));
    else if (a === '--versions') options.versions = wholeNumber(a, value(a), 1, 40);
    else if (a === '--items')
      options.items = value(a)
        .split(',')
        .map((n) => wholeNumber(a, n, 1, 1000));
    else if (a === '--seed') options.seed = wholeNumber(a, value(a), 0, 4_294_967_295);
    else if (a === '--blueprint') options.blueprint = value(a);
    else if (a === '--overlap') options.overlap = oneOf(a, value(a), ['none', 'little', 'any']);
    else if (a === '--set') options.set = value(a);
    else if (a === '--key-row') options.keyRow = value(a);
    else if (a === '--skip') options.skip.push(value(a));
    else if (a === '--points') options.points.push(pointsOf(value(a)));
    else if (a === '--attempts') options.attempts = oneOf(a, value(a), ['first', 'last', 'best']);
    else if (a === '--out' || a === '-o') options.out = value(a);
    else if (a.startsWith('-') && a !== '-') throw new UsageError(`there is no option ${a}`);
    else options.files.push(a);
  }
  if (!options.files.length) throw new UsageError('no file was given');
  return options;
}

function wholeNumber(flag: string, text: string, from: number, to: number): number {
  const n = Number(text.trim() || Number.NaN);
  if (!Number.isInteger(n) || n < from || n > to) throw new UsageError(`${flag} needs a whole number from ${from} to ${to}`);
  return n;
}
function oneOf<const T extends string>(flag: string, text: string, known: readonly T[]): T {
  if (!(known as readonly string[]).includes(text)) throw new UsageError(`${flag} needs one of ${known.join(', ')}`);
  return text as T;
}

function pointsOf(text: string): { heading: string; points: number } {
  const at = text.lastIndexOf('=');
  const points = Number(text.slice(at + 1).replace(',', '.'));
  if (at < 1 || !text.slice(at + 1).trim() || !(points >= 0)) throw new UsageError('--points needs HEADING=N');
  return { heading: text.slice(0, at).trim(), points };
}

function yearOf(text: string): number {
  const year = Number(text);
  if (!(year >= 1 && year <= 20)) throw new UsageError('--year needs a school year from 1 to 20');
  return year;
}

function lookNamed(name: string): KeysFrom {
  const known: readonly string[] = ['auto', 'none', ...Object.keys(keyLooks)];
  if (!known.includes(name)) throw new UsageError(`--keys-from needs one of ${known.join(', ')}`);
  return name as KeysFrom;
}

type Read = ReadResult & { format: string };

async function bytesOf(file: string): Promise<Uint8Array> {
  try {
    return await readBytes(file);
  } catch (e) {
    throw new ReadError((e as NodeJS.ErrnoException).code === 'ENOENT' ? 'there is no such file' : (e as Error).message);
  }
}
const open = async (file: string, o: Pick<Options, 'from' | 'keysFrom'>): Promise<Read> =>
  allFormats.read(await bytesOf(file), basename(file), o.from, o.keysFrom ? { keysFrom: o.keysFrom } : {});

const nameWithout = (file: string): string => basename(file).replace(/(\.zak|\.gift)?\.[^.]+$/, '');

function summary(file: string, r: Read): string {
  const count = (s: string): number => r.diagnostics.filter((d) => d.severity === s).length;
  const head = `${file}: ${r.set.items.length} items, ${count('error')} errors, ${count('warning')} warnings, ${r.asides.length} lines set aside (read as ${r.format})`;
  return [head, ...r.diagnostics.filter((d) => d.severity !== 'info').map((d) => `  ${d.line}:${d.column} ${d.severity} ${d.code} ${d.message}`)].join('\n');
}

async function read(o: Options): Promise<number> {
  const { out } = o;
  if (out) await mkdir(out, { recursive: true });
  return each(o, async (file) => {
    const r = await open(file, o);
    const { diagnostics, asides } = r;
    if (o.json) process.stdout.write(writeSetFile(r.set, { diagnostics, asides }));
    else if (out) {
      const path = join(out, `${nameWithout(file)}.zak.json`);
      await writeFile(path, writeSetFile(r.set, { diagnostics, asides }));
      process.stdout.write(`${path}\n`);
    } else process.stdout.write(`${summary(file, r)}\n`);
    return true;
  });
}

async function text(o: Options): Promise<number> {
  return each(o, async (file) => {
    const draft = await allFormats.draft(await bytesOf(file), basename(file));
    process.stdout.write(`${draft.text}\n`);
    for (const note of draft.notes) process.stderr.write(`${file}: ${note}\n`);
    return true;
  });
}

/** Fills a template with each file. Wrong where the filled file would mark otherwise than here. */
async function intoTemplate(o: Options, path: string): Promise<number> {
  if (o.files.length > 1) throw new UsageError('a template is filled with one file at a time');
  return each(o, async (file) => {
    const { set } = await open(file, o);
    const name = basename(path);
    const filled = await fillTemplate(await bytesOf(path), name, set, (bytes, of) => allFormats.tables(bytes, of)).catch((e: unknown) => {
      throw e instanceof ReadError ? new ReadError(`${path}: ${e.message}`) : e;
    });
    toldSet(filled.ofSet);
    toldFits(set, filled.fits);
    const out = o.out ?? `${nameWithout(file)}${extname(name)}`;
    if (out === '-') process.stdout.write(filled.bytes);
    else {
      await writeFile(out, filled.bytes);
      process.stdout.write(`${report(out, filled.rehearsal)}\n`);
    }
    return filled.rehearsal.ok;
  });
}

/** How a paper is set, by the words of `--look`. */
function lookOfPaper(words: string): PaperLook {
  const said = words.split(',').map((w) => oneOf('--look', w.trim(), ['large', 'columns', 'wide']));
  return { large: said.includes('large'), columns: said.includes('columns') ? 2 : 1, wide: said.includes('wide') };
}

async function convert(o: Options): Promise<number> {
  if (o.template !== undefined) return intoTemplate(o, o.template);
  const id = o.part ? `${o.to}-${o.part}` : /^(?:docx|pdf)$/.test(o.to ?? '') ? `${o.to}-paper` : (o.to ?? '');
  // its compiler starts only where it is needed
  const print = isPrinted(id) ? (await import('@zakuska/documents/print')).printFormats.find((f) => f.id === id) : undefined;
  const to: Format | undefined = print ?? allFormats.byId(id);
  if (o.look && !id.startsWith('pdf-')) throw new UsageError('--look is of pdf only');
  const write = to?.write;
  if (id === 'markdown-sheet') throw new UsageError('an answer sheet is read by where its circles stand, which Markdown cannot say; take pdf, docx or html');
  if (!to || !write) throw new UsageError(`--to needs one of ${allFormats.writable.map((f) => f.id).join(', ')}`);
  const several = o.files.length > 1;
  if (several && o.out) await mkdir(o.out, { recursive: true });
  const helpers = threads();
  const one = async (file: string): Promise<boolean> => {
    const { set } = await open(file, o);
    const written = await (print ? print.write(set, o.look) : (to.share?.(set, helpers) ?? write(set)));
    told(set, to.profile);
    const back = await to.readBack?.(written.bytes, set);
    for (const d of back?.differences ?? []) process.stderr.write(`${file}: ${d.name}: ${d.message}\n`);
    const path = several ? join(o.out ?? '.', nameWithout(file) + to.extension) : (o.out ?? nameWithout(file) + to.extension);
    if (path === '-') process.stdout.write(written.bytes);
    else {
      await writeFile(path, written.bytes);
      process.stdout.write(`${path}\n`);
    }
    return !back?.differences.length;
  };
  return each(o, one).finally(helpers.end);
}

/** What is adapted, lost or left behind goes to standard error, one line each. */
function told(set: QuizSet, profile: Profile | undefined): void {
  if (!profile) return;
  toldSet(setLosses(set, profile));
  toldFits(set, fitSet(set, profile).fits);
}
function toldSet(losses: readonly SetLoss[]): void {
  for (const l of losses) process.stderr.write(`the set: ${l.message}\n`);
}
function toldFits(set: QuizSet, fits: readonly Fit[]): void {
  fits.forEach((f, i) => {
    for (const n of f.notes) process.stderr.write(`item ${set.items[i]?.label ?? i + 1}: ${n.fit}: ${n.message}\n`);
  });
}

async function check(o: Options): Promise<number> {
  const sources: SourceText[] = [];
  for (const file of o.sources) {
    try {
      sources.push(await sourceOf(file));
    } catch (e) {
      complain(file, e);
      return 2;
    }
  }
  return each(o, async (file) => {
    const { set } = await open(file, o);
    const { text: report, ok } = checkReport(file, set, sources, { ...(o.year && { year: o.year }) });
    process.stdout.write(`${report}\n`);
    return ok;
  });
}

/** An article, notes or a transcript as a source. */
async function sourceOf(file: string): Promise<SourceText> {
  const bytes = await bytesOf(file);
  const plain = decodeText(bytes);
  const cues = looksLikeSubtitles(plain) ? readSubtitles(plain) : undefined;
  const text = /\.(docx|odt|pdf|html?)$/i.test(file) ? (await allFormats.draft(bytes, basename(file))).text : plain;
  return { id: file, name: basename(file), text, ...(cues && { cues }) };
}

/** The fit table of one destination, as text: a line for each item that does not fit as it is, and the count. */
async function fit(o: Options): Promise<number> {
  const to = allFormats.byId(o.to ?? '');
  if (!to?.profile) throw new UsageError(`--to needs one of ${allFormats.writable.map((f) => f.id).join(', ')}`);
  const { profile } = to;
  return each(o, async (file) => {
    const { set } = await open(file, o);
    const { fits } = fitSet(set, profile);
    const ofSet = setLosses(set, profile).map((l) => `  the set: ${l.message}`);
    const count = { fit: 0, changed: 0, stay: 0 };
    const lines = fits.map((f, i) => {
      const item = set.items[i];
      count[!f.items.length ? 'stay' : matters(f) ? 'changed' : 'fit']++;
      const head = `  ${String(item?.label ?? i + 1).padStart(4)}  ${item ? nameOf(item, 50) : ''}`;
      return f.notes.length ? [head, ...f.notes.map((n) => `        ${n.fit}: ${n.message}`)].join('\n') : `${head.padEnd(60)}  fits`;
    });
    process.stdout.write(`${file} as ${to.name}: ${count.fit} fit, ${count.changed} change, ${count.stay} stay behind\n${[...ofSet, ...lines].join('\n')}\n`);
    return true;
  });
}

const percent = (part: number, whole: number): string => (whole ? `${Math.round((part / whole) * 1000) / 10} %` : '–');

function report(file: string, r: Rehearsal): string {
  const marked = r.items.filter((i) => i.verdict === 'ok' || i.verdict === 'differs');
  const tried = r.items.reduce((s, i) => s + i.tried, 0);
  const head = `${file}: ${marked.length} items answered with ${tried} responses; all right ${percent(r.right, r.maximum)}, all wrong ${percent(r.wrong, r.maximum)}, half right ${r.half} of ${r.halfDue} points due: ${r.ok ? 'every key marks as it should' : 'KEYS MARK WRONGLY'}`;
  const odd = r.items.flatMap((i, n) => (i.verdict === 'ok' ? [] : [`  ${n + 1}  ${i.verdict}  ${i.name.slice(0, 50)}${i.reason ? `: ${i.reason}` : ''}`]));
  return [head, ...odd].join('\n');
}

async function rehearse(o: Options): Promise<number> {
  const against = o.against === undefined ? undefined : (await open(o.against, {})).set;
  return each(o, async (file) => {
    const r = await allFormats.rehearse(await bytesOf(file), basename(file), against, o.from);
    process.stdout.write(`${report(file, r)}\n`);
    return r.ok;
  });
}

function importerReport(file: string, t: Importer): string {
  const columns = t.columns.map((c, i) => `  ${String(i + 1).padStart(3)}  ${c.use.padEnd(18)} ${c.heading}`);
  const { question, option, time } = t.limits;
  const limits = [question && `questions up to ${question} characters`, option && `options up to ${option}`, time && `${time.join(', ')} s`].filter(Boolean);
  return [
    `${file}: headings in row ${t.headerRow}, items from row ${t.firstDataRow}, ${t.orientation === 'row-per-item' ? 'a row for each item' : 'a row for each option'}; keys by ${t.keyForm}, several parted by ${t.keySeparator}${t.maxOptions ? `; up to ${t.maxOptions} options` : ''}${limits.length ? `; ${limits.join('; ')}` : ''}`,
    ...columns,
  ].join('\n');
}

async function template(o: Options): Promise<number> {
  return each(o, async (file) => {
    const understood = understandImporter(await allFormats.tables(await bytesOf(file), basename(file)));
    process.stdout.write(o.json ? `${JSON.stringify(understood, null, 2)}\n` : `${importerReport(file, understood)}\n`);
    return true;
  });
}

async function versions(o: Options): Promise<number> {
  const sets: QuizSet[] = [];
  let file = '';
  try {
    for (file of o.files) {
      const { set, format } = await open(file, o);
      sets.push(format === 'set' ? set : withStableIds(set));
    }
    file = o.blueprint ?? o.files.join(', ');
    const rows = o.blueprint === undefined ? [] : readBlueprint(decodeText(await bytesOf(o.blueprint)));
    const { pool, drawn, figures, notes } = await drawVersions(sets, {
      versions: o.versions ?? 2,
      items: o.items ?? [],
      seed: o.seed ?? 1,
      rows,
      ...(o.overlap && { overlap: o.overlap }),
    });
    for (const n of notes) process.stderr.write(`${n}\n`);
    const written = o.out === undefined ? [] : await writeVersions(o.out, sets[0]?.title ?? 'Set', pool, drawn);
    process.stdout.write(
      o.json ? `${JSON.stringify(versionsJson(drawn, figures), null, 2)}\n` : `${[versionsReport(drawn, figures), ...written].join('\n')}\n`,
    );
    return figures.unmet.length && !o.json ? 1 : 0;
  } catch (e) {
    complain(file, e);
    return 2;
  }
}

async function grade(o: Options): Promise<number> {
  const set = o.set === undefined ? undefined : (await open(o.set, o)).set;
  return each(o, async (file) => {
    const sheets = await allFormats.tables(await bytesOf(file), basename(file));
    const sheet = sheets.toSorted((a, b) => b.rows.length - a.rows.length)[0];
    const graded = gradeTable(sheet?.rows ?? [], {
      ...(set && { set }),
      ...(o.keyRow !== undefined && { keyRow: o.keyRow }),
      skip: o.skip,
      points: o.points,
      ...(o.attempts && { attempts: o.attempts }),
    });
    for (const n of graded.notes) process.stderr.write(`${file}: ${n}\n`);
    process.stdout.write(o.json ? `${JSON.stringify(gradedJson(graded), null, 2)}\n` : `${gradedReport(file, graded)}\n`);
    return true;
  });
}

async function merge(o: Options): Promise<number> {
  const [file, replyFile] = o.files;
  if (!file || !replyFile || o.files.length > 2) throw new UsageError('merge needs a set and a reply');
  let at = file;
  try {
    const { set } = await open(file, {});
    at = replyFile;
    const reply = (await open(replyFile, o)).set;
    const merged = mergeReply(set, reply);
    process.stdout.write(o.json ? `${JSON.stringify(mergedJson(merged), null, 2)}\n` : `${mergedReport(set, reply, merged)}\n`);
    return 0;
  } catch (e) {
    complain(at, e);
    return 2;
  }
}

/** What is said, without the times of a transcript. */
const wordsOfSource = ({ text, cues }: SourceText): string => cues?.map((c) => c.text).join(' ') ?? text;
async function request(args: readonly string[]): Promise<number> {
  let said: ReturnType<typeof requestOf>;
  try {
    said = requestOf(args);
  } catch (e) {
    throw new UsageError((e as Error).message);
  }
  const { wish, source: file } = said;
  try {
    const source = file === undefined ? undefined : { title: nameWithout(file), text: wordsOfSource(await sourceOf(file)) };
    const asked = { ...wish, ...(source && { source }) };
    const problem = wishProblem(asked);
    if (problem) throw new UsageError(problem);
    const { text: out, source: kept } = composeRequest(asked);
    if (kept && kept.kept < kept.of) process.stderr.write(`${file ?? ''}: the first ${kept.kept} of ${kept.of} characters go along\n`);
    process.stdout.write(out);
    return 0;
  } catch (e) {
    complain(file ?? '', e);
    return 2;
  }
}

async function words(args: readonly string[]): Promise<number> {
  const { itemsOfWords, wordsOrder, wordsText } = await import('./words.js');
  let order: ReturnType<typeof wordsOrder>;
  try {
    order = wordsOrder(args);
  } catch (e) {
    throw new UsageError((e as Error).message);
  }
  try {
    const list = new TextDecoder().decode(await bytesOf(order.file));
    const made = itemsOfWords(list, order, order.source === undefined ? undefined : await sourceOf(order.source));
    for (const w of made.without) process.stderr.write(`${order.file}: ${w.word}: ${w.why}\n`);
    for (const line of made.unread) process.stderr.write(`${order.file}: no word: ${line}\n`);
    process.stdout.write(order.json ? `${JSON.stringify({ items: made.drafted, without: made.without, unread: made.unread }, null, 2)}\n` : wordsText(made));
    return made.drafted.length ? 0 : 1;
  } catch (e) {
    complain(order.file, e);
    return 2;
  }
}

async function draft(args: readonly string[]): Promise<number> {
  // the tagger takes a second to start, and no other command needs it
  const { draftFrom, draftJson, draftOrder, draftText } = await import('./draft.js');
  let order: ReturnType<typeof draftOrder>;
  try {
    order = draftOrder(args);
  } catch (e) {
    throw new UsageError((e as Error).message);
  }
  try {
    const drafted = draftFrom(await sourceOf(order.file), order);
    if (drafted.caution) process.stderr.write(`${order.file}: ${drafted.caution}\n`);
    for (const f of drafted.fewer) process.stderr.write(`${order.file}: ${f.message}\n`);
    for (const [i, d] of drafted.drafted.entries()) if (d.doubt) process.stderr.write(`${order.file}: item ${i + 1}: ${d.doubt}\n`);
    process.stdout.write(order.json ? `${JSON.stringify(draftJson(drafted), null, 2)}\n` : draftText(drafted));
    return drafted.drafted.length ? 0 : 1;
  } catch (e) {
    complain(order.file, e);
    return 2;
  }
}

async function translate(args: readonly string[]): Promise<number> {
  let order: ReturnType<typeof translateOrder>;
  try {
    order = translateOrder(args);
  } catch (e) {
    throw new UsageError((e as Error).message);
  }
  let at = order.file;
  try {
    // a text has no ids of its own: they come from its words, so that what goes out is known when it comes back
    const read = (await open(order.file, {})).set;
    const set = extname(order.file) === '.json' ? read : withTextIds(read);
    if (order.from === undefined) {
      const { text: out, ending } = outgoing(set, order);
      const path = order.out ?? `${nameWithout(order.file)}.${order.language}${ending}`;
      if (path === '-') process.stdout.write(out);
      else {
        await writeFile(path, out);
        process.stdout.write(`${path}\n`);
      }
      return 0;
    }
    at = order.from;
    const { set: next, taken } = merged(set, readTranslations(await bytesOf(order.from)), order);
    const path = order.out ?? `${nameWithout(order.file)}.zak.json`;
    if (path === '-') process.stdout.write(writeSetFile(next));
    else await writeFile(path, writeSetFile(next));
    const report = order.json ? JSON.stringify(taken, null, 2) : translateReport(next, taken);
    (path === '-' ? process.stderr : process.stdout).write(`${report}\n`);
    return taken.told.some((t) => !t.taken) ? 1 : 0;
  } catch (e) {
    if (e instanceof Error && e.message.startsWith('the file does not say')) throw new UsageError(e.message);
    complain(at, e);
    return 2;
  }
}

/** Runs a command for each file: one that cannot be read does not stop the others. */
async function each(o: Options, run: (file: string) => Promise<boolean>): Promise<number> {
  let unread = false;
  let wrong = false;
  for (const file of o.files) {
    try {
      if (!(await run(file))) wrong = true;
    } catch (e) {
      unread = true;
      complain(file, e);
    }
  }
  return unread ? 2 : wrong ? 1 : 0;
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
    if (command === 'text') return await text(parse(rest));
    if (command === 'check') return await check(parse(rest));
    if (command === 'convert') return await convert(parse(rest));
    if (command === 'fit') return await fit(parse(rest));
    if (command === 'rehearse') return await rehearse(parse(rest));
    if (command === 'template') return await template(parse(rest));
    if (command === 'merge') return await merge(parse(rest));
    if (command === 'request') return await request(rest);
    if (command === 'translate') return await translate(rest);
    if (command === 'draft') return await draft(rest);
    if (command === 'words') return await words(rest);
    if (command === 'grade') return await grade(parse(rest));
    if (command === 'versions') return await versions(parse(rest));
    throw new UsageError(`there is no command ${command}`);
  } catch (e) {
    if (!(e instanceof UsageError)) throw e;
    process.stderr.write(`zakuska: ${e.message}; see zakuska --help\n`);
    return 2;
  }
}
