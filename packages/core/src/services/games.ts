/**
 * A game service: takes rounds as a spreadsheet in its own columns, players answer against the clock, who got what comes back as a
 * workbook. A round is a short question with a few short choices.
 */
import { fitSet } from '../fit/fit.js';
import { type Profile, holding } from '../fit/profile.js';
import { choiceGapsApart, matchingAsChoices, orderingAsMatching, trueFalseAsChoice } from '../fit/recast.js';
import { allowedTime } from '../fit/steps.js';
import { pictureIn } from '../formats/pictures.js';
import type { Row } from '../formats/table/grid.js';
import type { Item, QuizSet } from '../item/model.js';
import { richFromPlain, richToPlain } from '../item/richText.js';
import { counted } from '../language/counted.js';
import { playSet } from '../rehearse/play.js';
import { showsSame } from '../rehearse/shows.js';
import { allPages, type Container, good, jsonOf, type Pulled, ServiceRefusal, type Service, takeOutRest, wholeKey } from './service.js';
import { GAME_TIMES, serviceRows } from './table.js';

interface Game {
  id: string;
  title: string;
  link: string;
  hostLink: string;
}
interface Imported extends Game {
  rows: { ref: string; status: 'arrived' | 'changed' | 'same' | 'refused'; message?: string }[];
}
interface Play {
  id: string;
  at: string;
}

const MOST = { options: 5, question: 160, option: 60 };
/** The columns of the sheet, in their order. */
export const GAME_COLUMNS: readonly string[] = ['Ref', 'Question', 'Choice 1', 'Choice 2', 'Choice 3', 'Choice 4', 'Choice 5', 'Right', 'Seconds', 'Picture'];
const CHOICES = GAME_COLUMNS.filter((c) => c.startsWith('Choice'));

type Choice = Extract<Item, { kind: 'multiple-choice' | 'multiple-response' }>;
const isChoice = (item: Item): item is Choice => item.kind === 'multiple-choice' || item.kind === 'multiple-response';

function refuses(item: Item): string | null {
  if (!isChoice(item)) return null;
  if (!words(item.stem)) return 'it has no text';
  if (item.options.length < 2) return 'a round has at least two choices there';
  const texts = item.options.map((o) => words(o.content));
  if (texts.some((t) => !t)) return 'an option has no text';
  return new Set(texts).size < texts.length ? 'two of its options read the same' : null;
}

const profile: Profile = {
  kinds: ['multiple-choice', 'multiple-response'],
  recast: { 'true-false': trueFalseAsChoice, matching: matchingAsChoices, ordering: orderingAsMatching, cloze: choiceGapsApart },
  holds: holding(['timeLimit']),
  ofSet: ['title'],
  passageInFront: true,
  scoring: ['all-or-nothing'],
  credits: 'whole',
  match: [],
  rich: false,
  pictures: 'question',
  most: MOST,
  refuses,
  furtherSteps: [allowedTime(GAME_TIMES)],
};

/** In one line, as a cell of the sheet holds it. */
const words = (rich: string): string =>
  richToPlain(rich.replace(/<img\b[^<>]*>/g, ''))
    .replace(/\s+/g, ' ')
    .trim();

/**
 * Seconds to read and answer a question by its length: a reader of 150 words of six characters a minute, and ten seconds to decide;
 * the next of the times that may be given. Common practice, no source; silent reading of adults is about 240 words a minute (from memory).
 */
export function timeByLength(item: Item): number {
  const options = 'options' in item ? item.options.map((o) => o.content) : [];
  const length = [item.stem, ...options].reduce((n, t) => n + richToPlain(t).length, 0);
  const wanted = 10 + length / 15;
  return GAME_TIMES.find((t) => t >= wanted) ?? (GAME_TIMES.at(-1) as number);
}

/** The sheet of a set that fits, and the items it holds in its rows. */
export const sheetOf = (set: QuizSet, pictureAddress: (hash: string) => string): Row[] => [
  [...GAME_COLUMNS],
  ...set.items.filter(isChoice).map((item) => {
    const picture = pictureIn(item.stem);
    return [
      item.id,
      words(item.stem),
      ...CHOICES.map((_, i) => words(item.options[i]?.content ?? '')),
      item.options.flatMap((o, i) => (o.credit > 0 ? [String(i + 1)] : [])).join(', '),
      String(item.timeLimit ?? timeByLength(item)),
      picture ? pictureAddress(picture) : '',
    ];
  }),
];

/** Cells of a sheet by the headings of its first row. */
function byHeading(rows: readonly Row[]): ((heading: string) => string)[] {
  const [headings = [], ...rest] = rows;
  return rest.map((row) => (heading) => row[headings.indexOf(heading)]?.trim() ?? '');
}

/** A row of the sheet as an item: what it asks, and what the service takes for right. */
function itemOf(cell: (heading: string) => string, id: string): Item {
  const right = new Set(cell('Right').split(/\D+/));
  const options = CHOICES.flatMap((heading, i) => {
    const text = cell(heading);
    return text ? [{ id: String(i + 1), content: richFromPlain(text), credit: right.has(String(i + 1)) ? 1 : 0 }] : [];
  });
  const base = { id, stem: richFromPlain(cell('Question')), points: 1, options, ...(cell('Seconds') && { timeLimit: Number(cell('Seconds')) }) };
  return options.filter((o) => o.credit).length > 1 ? { ...base, kind: 'multiple-response', scoring: 'all-or-nothing' } : { ...base, kind: 'multiple-choice' };
}

const at = (game: string): string => `/v1/games/${encodeURIComponent(game)}`;

/** The game service. */
export const games: Service = {
  ...serviceRows.games,
  scope: 'games',
  profile,
  fetchesPictures: true,

  withSettings(set, { time = 'own' }) {
    const timeOf = (item: Item): number => (time === 'length' ? timeByLength(item) : time === 'own' ? (item.timeLimit ?? timeByLength(item)) : Number(time));
    return { ...set, items: set.items.map((i) => (i.kind === 'information' ? i : { ...i, timeLimit: timeOf(i) })) };
  },

  async me(call) {
    return jsonOf<{ name: string }>(good(await call('GET', '/v1/me'))).name;
  },

  async containers(call) {
    const { games: all } = jsonOf<{ games: (Game & { rounds: number; plays: number })[] }>(good(await call('GET', '/v1/games')));
    return all.map(
      (g): Container => ({
        id: g.id,
        title: g.title,
        holds: `${counted(g.rounds, 'round')}, ${g.plays ? `played ${g.plays === 1 ? 'once' : `${g.plays} times`}` : 'not played yet'}`,
        link: g.link,
        parts: [],
      }),
    );
  },

  prepare: (set, { workbook, pictureAddress }) => workbook.write(sheetOf(fitSet(set, profile).set, pictureAddress)),

  async push(call, job) {
    const bytes = job.prepared;
    if (!bytes) throw new ServiceRefusal('There is no sheet to send.');
    await job.step('Sending the sheet');
    const { quick = true, shuffle = false } = job.settings;
    const made = `/v1/games?title=${encodeURIComponent(job.title)}&quick=${String(quick)}&shuffle=${String(shuffle)}`;
    const path = job.container === undefined ? made : `${at(job.container)}/sheet`;
    const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
    const { id, title, link, hostLink, rows } = jsonOf<Imported>(good(await call('POST', path, { bytes, type, key: wholeKey(job) })));
    await job.found({ id, title, link, links: { 'Play it with a class': hostLink } });
    const told = new Map(rows.map((r) => [r.ref, r]));
    for (const piece of job.pieces) {
      const row = told.get(piece.key);
      if (row && row.status !== 'refused') await job.keep(piece.key, { remote: piece.key, print: piece.print }, row.status);
      else await job.refused(piece.key, row?.message ?? 'the service does not name it');
    }
    await takeOutRest(job, (remote) => call('DELETE', `${at(id)}/rounds/${encodeURIComponent(remote)}`));
  },

  async fetchBack(call, container) {
    return good(await call('GET', `${at(container)}/sheet`)).bytes;
  },

  play(bytes, pieces, { workbook }) {
    const items = byHeading(workbook.read(bytes)).flatMap((cell) => {
      const key = pieces.get(cell('Ref'));
      return key === undefined ? [] : [itemOf(cell, key)];
    });
    return { played: playSet({ title: '', items }).map(({ options: _drawn, ...p }) => p) };
  },

  async pullResponses(call, container, pieces, after, { workbook }) {
    const byRef = new Map(pieces.map((p) => [p.remote, p]));
    const { rows: plays, next } = await allPages(after, async (from) => {
      const page: { plays: Play[]; next: string } = jsonOf(good(await call('GET', `${at(container)}/plays?after=${encodeURIComponent(from)}`)));
      return { rows: page.plays, next: page.next };
    });
    const responses: Pulled[] = [];
    for (const play of plays) {
      const report = byHeading(workbook.read(good(await call('GET', `/v1/plays/${encodeURIComponent(play.id)}/report`)).bytes));
      const people = new Map<string, Pulled>();
      for (const cell of report) {
        const number = cell('Player');
        const person = people.get(number) ?? { id: `${play.id} ${number}`, at: play.at, name: cell('Name'), responses: {}, points: {} };
        people.set(number, person);
        const piece = byRef.get(cell('Ref'));
        if (!piece || !isChoice(piece.content)) continue;
        // by their words: a round that was changed since may have its choices at other places
        const said = cell('Chosen').split('\n').filter(Boolean);
        const chosen = piece.content.options.filter((o) => said.some((s) => showsSame(richFromPlain(s), o.content))).map((o) => o.id);
        if (chosen.length) person.responses[piece.key] = { options: chosen };
      }
      responses.push(...people.values());
    }
    return { responses, next };
  },
};
