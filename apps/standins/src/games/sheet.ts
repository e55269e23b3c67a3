/**
 * The sheet of the game service: one row a round, in columns of its own; and the report of a play. Written and read with exceljs.
 */
import ExcelJS from 'exceljs';
import { Refused } from '../once.js';

/** A question of a game. */
export interface Round {
  /** What whoever sent it calls it: the same again is the same round. */
  ref: string;
  question: string;
  choices: string[];
  /** Numbers of the right choices, from 1. */
  right: number[];
  seconds: number;
  /** Address of a picture; empty for none. */
  picture: string;
}

/** What a round may be. */
export const LIMITS = { question: 160, choice: 60, choices: 5, rounds: 100, times: [10, 20, 30, 45, 60, 90, 120, 180] } as const;
const HEADINGS = ['Ref', 'Question', ...[1, 2, 3, 4, 5].map((n) => `Choice ${n}`), 'Right', 'Seconds', 'Picture'];

const textOf = (v: ExcelJS.CellValue): string => {
  if (v === null || v === undefined) return '';
  if (typeof v === 'object' && 'richText' in v) return v.richText.map((r) => r.text).join('');
  if (typeof v === 'object' && 'text' in v) return String(v.text);
  if (typeof v === 'object' && 'result' in v) return String(v.result ?? '');
  return String(v as string | number);
};

/** A row that the service takes, or why it does not. */
export type RowRead = { ref: string; round: Round } | { ref: string; message: string };

function roundOf(cell: (heading: string) => string): Round | string {
  const question = cell('Question');
  const choices = [1, 2, 3, 4, 5].map((n) => cell(`Choice ${n}`));
  while (choices.length && !choices.at(-1)) choices.pop();
  const right = cell('Right')
    .split(/[,; ]+/)
    .filter(Boolean)
    .map(Number);
  const seconds = cell('Seconds') ? Number(cell('Seconds')) : 30;
  const picture = cell('Picture');
  if (!question) return 'There is no question.';
  if (question.length > LIMITS.question) return `A question has at most ${LIMITS.question} characters; this one has ${question.length}.`;
  if (choices.length < 2) return 'A round has at least two choices.';
  if (choices.some((c) => !c)) return 'A choice is empty.';
  const long = choices.find((c) => c.length > LIMITS.choice);
  if (long) return `A choice has at most ${LIMITS.choice} characters: “${long}”.`;
  if (!right.length || right.some((r) => !Number.isInteger(r) || r < 1 || r > choices.length)) return 'Right names no choice by its number.';
  if (!(LIMITS.times as readonly number[]).includes(seconds)) return `Seconds are one of ${LIMITS.times.join(', ')}.`;
  if (picture && !/^https?:\/\/\S+$/.test(picture)) return 'A picture is given by its address.';
  return { ref: cell('Ref'), question, choices, right: [...new Set(right)].sort((a, b) => a - b), seconds, picture };
}

/** The rows of a sheet. @throws Refused 422 where it is none */
export async function readSheet(bytes: Buffer): Promise<RowRead[]> {
  const book = new ExcelJS.Workbook();
  try {
    await book.xlsx.load(bytes as unknown as ArrayBuffer);
  } catch {
    throw new Refused(422, 'This is no workbook (XLSX).');
  }
  const sheet = book.worksheets[0];
  const headings = new Map<string, number>();
  sheet?.getRow(1).eachCell((c, n) => void headings.set(textOf(c.value).trim(), n));
  const missing = HEADINGS.slice(0, 4).find((h) => !headings.has(h));
  if (!sheet || missing) throw new Refused(422, `The sheet has no column “${missing ?? 'Ref'}”.`);
  const out: RowRead[] = [];
  sheet.eachRow((row, n) => {
    if (n === 1) return;
    const cell = (h: string): string => textOf(row.getCell(headings.get(h) ?? 1000).value).trim();
    const round = roundOf(cell);
    const ref = cell('Ref');
    if (!ref) out.push({ ref: `row ${n}`, message: `Row ${n} has no Ref.` });
    else out.push(typeof round === 'string' ? { ref, message: round } : { ref, round });
  });
  if (out.length > LIMITS.rounds) throw new Refused(422, `A game has at most ${LIMITS.rounds} rounds.`);
  return out;
}

async function bytesOf(name: string, rows: readonly (readonly (string | number)[])[]): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet(name);
  for (const row of rows) sheet.addRow([...row]);
  sheet.getRow(1).font = { bold: true };
  return Buffer.from(await book.xlsx.writeBuffer());
}

/** The sheet of a game, as it can be sent again. */
export const writeSheet = (rounds: readonly Round[]): Promise<Buffer> =>
  bytesOf('Rounds', [
    HEADINGS,
    ...rounds.map((r) => [r.ref, r.question, ...[0, 1, 2, 3, 4].map((i) => r.choices[i] ?? ''), r.right.join(', '), r.seconds, r.picture]),
  ]);

/** What a player did in a round. */
export interface Given {
  player: number;
  name: string;
  round: Round;
  /** Numbers of the choices, from 1; none: no answer in time. */
  chosen: number[];
  right: boolean;
  points: number;
  /** Seconds from the question to the answer. */
  after: number | null;
}
/** Who got what: a row for each player and round. */
export const writeReport = (given: readonly Given[]): Promise<Buffer> =>
  bytesOf('Answers', [
    ['Player', 'Name', 'Ref', 'Question', 'Chosen', 'Right', 'Points', 'After'],
    ...given.map((g) => [
      g.player,
      g.name,
      g.round.ref,
      g.round.question,
      g.chosen.map((c) => g.round.choices[c - 1] ?? '').join('\n'),
      g.right ? 'yes' : 'no',
      g.points,
      g.after ?? '',
    ]),
  ]);
