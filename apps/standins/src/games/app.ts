/**
 * A small game service that stands in for a real one: takes the rounds of a game as a spreadsheet, has a page on which a class plays
 * them together, and gives a report of who got what. It shares nothing with the product.
 */
import { EventEmitter } from 'node:events';
import express, { type NextFunction, type Request, type Response } from 'express';
import { accountOf, type OAuthOptions, signedIn } from '../oauth.js';
import { type Once, Refused } from '../once.js';
import { escape, one, pagesOf } from '../pages.js';
import { serviceApp } from '../serviceApp.js';
import { LIMITS, readSheet, type Round, writeReport, writeSheet } from './sheet.js';
import { type Game, type Play, type Player, Store } from './store.js';

const ACCOUNTS: OAuthOptions['accounts'] = {
  'm.okafor': { password: 'ladle', name: 'M. Okafor, Galley Rounds', hint: 'Demo account: user name m.okafor, password ladle' },
};
const SHEET = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const page = pagesOf(
  'Galley Rounds',
  'a simulated game service',
  'body{background:#eef3f1;font-family:system-ui,sans-serif}header{color:#14453d;border-bottom:2px solid #a9c9bf}section{border-radius:10px}button{background:#14453d;border-radius:8px}td,th{border-bottom:1px solid #a9c9bf}.code{font-size:2.4rem;letter-spacing:.2em}.ask{font-size:1.35rem;font-weight:650}.choices{display:grid;gap:.5rem;padding:0;list-style:none}.choices button,.choices label{width:100%;text-align:left;background:#fff;color:#1c2733;border:2px solid #14453d;padding:.7rem 1rem;border-radius:8px;box-sizing:border-box}.choices .is-right{background:#d9efdf}.left{font-variant-numeric:tabular-nums}',
);

/** What a right answer earns; who is quicker gets more of the half above. */
const POINTS = 100;
const earned = (right: boolean, after: number, seconds: number, quick: boolean): number =>
  right ? Math.round(quick ? POINTS * (1 - 0.5 * Math.min(1, after / seconds)) : POINTS) : 0;
/** Seconds that an answer may be late for the way it has. */
const GRACE = 0.5;

export function gamesApp(store: Store, publicUrl: string): express.Express {
  const { app, rawBody } = serviceApp(
    { type: SHEET, limit: '4mb' },
    { publicUrl, accounts: ACCOUNTS, scope: 'games', asks: 'Zakuska asks to make games and to read their reports.', page, tokens: store.tokens },
  );
  const shown = (g: Game): object => ({ id: g.id, title: g.title, link: `${publicUrl}/g/${g.id}`, hostLink: `${publicUrl}/g/${g.id}?host=${g.host}` });

  // --- the interface ---
  app.use('/v1', signedIn(store.tokens));
  const mine = async (q: Request, r: Response): Promise<Game> => {
    const game = await store.game(one(q.params['game']));
    if (game?.account !== accountOf(r)) throw new Refused(404, 'There is no such game.');
    return game;
  };
  const once = async (q: Request, r: Response, work: Parameters<Once['do']>[3]): Promise<void> => {
    const key = q.headers['idempotency-key'];
    const request = `${q.method} ${q.originalUrl} ${rawBody(q)?.toString('base64') ?? ''}`;
    const done = await store.once.do(accountOf(r), typeof key === 'string' ? key : undefined, request, work);
    r.status(done.status).json(done.body);
  };
  /** Puts the rounds of a sheet into a game: those that it has are changed, others come behind. */
  const take = async (rows: Store['rows'], game: string, sheet: Awaited<ReturnType<typeof readSheet>>): Promise<object[]> => {
    const printOf = (x: Round): string => JSON.stringify([x.question, x.choices, x.right, x.seconds, x.picture]);
    const there = new Map((await store.rounds(game, rows)).map((x) => [x.ref, printOf(x)]));
    const out: object[] = [];
    for (const row of sheet) {
      if ('message' in row) {
        out.push({ ref: row.ref, status: 'refused', message: row.message });
        continue;
      }
      const before = there.get(row.ref);
      const same = before === printOf(row.round);
      if (before === undefined && there.size >= LIMITS.rounds) {
        out.push({ ref: row.ref, status: 'refused', message: `A game has at most ${LIMITS.rounds} rounds.` });
        continue;
      }
      there.set(row.ref, printOf(row.round));
      if (!same) await store.putRound(rows, game, row.round);
      out.push({ ref: row.ref, status: same ? 'same' : before === undefined ? 'arrived' : 'changed' });
    }
    return out;
  };
  const sheetIn = (q: Request): Buffer => {
    if (!Buffer.isBuffer(q.body)) throw new Refused(415, 'Rounds come as a workbook (XLSX).');
    return q.body;
  };
  app.get('/v1/me', (_q, r) => void r.json({ name: ACCOUNTS[accountOf(r)]?.name }));
  app.get('/v1/games', async (_q, r) => {
    const games = (await store.games(accountOf(r))).map((g) => ({ ...shown(g), rounds: g.rounds, plays: g.plays }));
    r.json({ games });
  });
  app.post('/v1/games', async (q, r) => {
    const title = one(q.query['title']).trim().slice(0, 200);
    if (!title) throw new Refused(422, 'A game has a title.');
    const sheet = await readSheet(sheetIn(q));
    const settings = { quick: one(q.query['quick']) !== 'false', shuffle: one(q.query['shuffle']) === 'true' };
    await once(q, r, async (rows) => {
      const id = await store.makeGame(rows, accountOf(r), title, settings);
      const told = await take(rows, id, sheet);
      return { status: 201, body: { ...shown((await store.game(id, rows)) as Game), rows: told } };
    });
  });
  app.post('/v1/games/:game/sheet', async (q, r) => {
    const game = await mine(q, r);
    const sheet = await readSheet(sheetIn(q));
    await once(q, r, async (rows) => {
      await rows('select 1 from standin_games.game where id = $1 for update', [game.id]);
      return { status: 200, body: { ...shown(game), rows: await take(rows, game.id, sheet) } };
    });
  });
  app.get('/v1/games/:game/sheet', async (q, r) => {
    const game = await mine(q, r);
    r.type(SHEET).send(await writeSheet(await store.rounds(game.id)));
  });
  app.delete('/v1/games/:game/rounds/:ref', async (q, r) => {
    const game = await mine(q, r);
    if (!(await store.removeRound(game.id, one(q.params['ref'])))) throw new Refused(404, 'There is no such round.');
    r.status(204).end();
  });
  app.get('/v1/games/:game/plays', async (q, r) => {
    const game = await mine(q, r);
    const after = Number(one(q.query['after'])) || 0;
    const list = await store.ended(game.id, after);
    r.json({ plays: list.map(({ id, at, players }) => ({ id, at: at.toISOString(), players })), next: String(list.at(-1)?.place ?? after) });
  });
  app.get('/v1/plays/:play/report', async (q, r) => {
    const play = await store.play(one(q.params['play']));
    if (!play || (await store.game(play.game))?.account !== accountOf(r)) throw new Refused(404, 'There is no such play.');
    r.type(SHEET).send(await writeReport(await store.given(play)));
  });

  // --- pages ---
  const fields = express.urlencoded({ extended: false, limit: '20kb' });
  /** Says that a play has moved on, to all who look at it. */
  const moves = new EventEmitter().setMaxListeners(0);
  const there = async (q: Request): Promise<Play> => {
    const play = await store.play(one(q.params['play']));
    if (!play) throw new Refused(404, 'There is no such play.');
    return play;
  };
  const leads = async (q: Request, play: { game: string }): Promise<Game> => {
    const game = await store.game(play.game);
    if (!game || one(q.query['host']) !== game.host) throw new Refused(403, 'Only who leads the game sees this.');
    return game;
  };
  /** Seconds since the time of the question was out; below 0 while it is not. */
  const late = (p: Play): number => (p.asked ? (Date.now() - p.asked.getTime()) / 1000 - (p.rounds[p.round]?.seconds ?? 0) : 0);
  /** The play as it is now: a question whose time is out is over. */
  const current = async (p: Play): Promise<Play> => {
    if (!p.asked || late(p) <= GRACE) return p;
    await store.step(p);
    moves.emit(p.id);
    return (await store.play(p.id)) ?? p;
  };

  app.get('/', async (_q, r) => {
    const lists = await Promise.all(Object.keys(ACCOUNTS).map((a) => store.games(a)));
    const rows = lists.flat().map((g) => `<li><a href="/g/${g.id}">${escape(g.title)}</a>, ${g.rounds} rounds</li>`);
    r.send(page('Games', `<p><a href="/join">Join a game</a></p>${rows.length ? `<ul>${rows.join('')}</ul>` : '<p>There is no game yet.</p>'}`));
  });
  app.get('/g/:game', async (q, r) => {
    const game = await store.game(one(q.params['game']));
    if (!game) throw new Refused(404, 'There is no such game.');
    const rounds = await store.rounds(game.id);
    const hosts = one(q.query['host']) === game.host;
    const plays = hosts ? await store.ended(game.id, 0) : [];
    r.send(
      page(
        game.title,
        `${hosts ? `<form method="post" action="/g/${game.id}/plays?host=${game.host}"><button${rounds.length ? '' : ' disabled'}>Play it now</button></form>` : '<p><a href="/join">Join a play of it</a></p>'}
        <ol>${rounds.map((x) => `<li>${escape(x.question)} <small>${x.seconds} s</small></li>`).join('')}</ol>
        ${plays.length ? `<h2>Played</h2><ul>${plays.map((p) => `<li>${p.at.toISOString().slice(0, 16).replace('T', ' ')}, ${p.players} players · <a href="/play/${p.id}/report.xlsx?host=${game.host}">report</a></li>`).join('')}</ul>` : ''}`,
      ),
    );
  });
  app.post('/g/:game/plays', fields, async (q, r) => {
    const game = await leads(q, { game: one(q.params['game']) });
    r.redirect(303, `/play/${await store.beginPlay(game)}/lead?host=${game.host}`);
  });
  app.get('/join', (q, r) => void r.send(page('Join a game', joinForm(one(q.query['code'])))));
  app.post('/join', fields, async (q, r) => {
    const b = q.body as Record<string, unknown>;
    const name = one(b['name']).trim().slice(0, 60);
    const play = await store.playByCode(one(b['code']).trim());
    if (!play || !name)
      return void r.status(422).send(page('Join a game', joinForm(one(b['code']), play ? 'Say your name.' : 'No game with this code is on.')));
    const player = await store.join(play.id, name);
    moves.emit(play.id);
    r.redirect(303, `/play/${play.id}/as/${player.id}`);
  });

  const stateOf = (p: Play): string => (p.round < 0 ? 'waiting' : p.round >= p.rounds.length ? 'over' : p.asked ? 'asking' : 'solved');
  /** What is seen of a play now: by who leads it, or by a player. */
  const viewOf = async (p: Play, player?: Player): Promise<object> => {
    const players = await store.players(p.id);
    const round = p.rounds[p.round];
    const answers = (await store.answers(p.id)).filter((a) => a.round === p.round);
    const solved = round && !p.asked;
    const own = player && answers.find((a) => a.player === player.id);
    return {
      state: stateOf(p),
      title: p.title,
      code: p.code,
      round: p.round + 1,
      rounds: p.rounds.length,
      players: players.map(({ name, points }) => ({ name, points })),
      ...(round && {
        question: round.question,
        picture: round.picture,
        several: round.right.length > 1,
        seconds: Math.ceil(Math.max(0, -late(p))),
        choices: orderOf(p, player).map((n) => ({ n, text: round.choices[n - 1], ...(solved && { right: round.right.includes(n) }) })),
        answered: answers.length,
      }),
      ...(own && { mine: { chosen: own.chosen, ...(solved && { right: own.is_right, points: own.points }) } }),
    };
  };
  /** A stream of what is seen, anew whenever something moves. */
  const stream = async (q: Request, r: Response, p: Play, player?: Player): Promise<void> => {
    r.setHeader('content-type', 'text/event-stream').setHeader('cache-control', 'no-store').flushHeaders();
    let busy = false;
    const tell = async (): Promise<void> => {
      if (busy) return;
      busy = true;
      try {
        const now = await store.play(p.id);
        if (now) r.write(`data: ${JSON.stringify(await viewOf(await current(now), player))}\n\n`);
      } catch (e) {
        console.error(`games: ${(e as Error).message}`);
      } finally {
        busy = false;
      }
    };
    const moved = (): void => void setImmediate(() => void tell());
    moves.on(p.id, moved);
    const timer = setInterval(() => void tell(), 1000);
    q.on('close', () => {
      clearInterval(timer);
      moves.off(p.id, moved);
    });
    await tell();
  };
  app.get('/play/:play/lead', async (q, r) => {
    const play = await there(q);
    const game = await leads(q, play);
    r.send(page(play.title, playPage(`/play/${play.id}/lead/events?host=${game.host}`, `/play/${play.id}/next?host=${game.host}`)));
  });
  app.get('/play/:play/lead/events', async (q, r) => {
    const play = await there(q);
    await leads(q, play);
    await stream(q, r, play);
  });
  app.post('/play/:play/next', async (q, r) => {
    const play = await there(q);
    await leads(q, play);
    // pressed twice, it is one step
    const { round, state } = q.body as { round?: unknown; state?: unknown };
    if (round === play.round + 1 && state === stateOf(play)) await store.step(play);
    moves.emit(play.id);
    r.status(204).end();
  });
  app.get('/play/:play/report.xlsx', async (q, r) => {
    const play = await there(q);
    await leads(q, play);
    r.type(SHEET)
      .attachment('report.xlsx')
      .send(await writeReport(await store.given(play)));
  });
  const as = async (q: Request): Promise<{ play: Play; player: Player }> => {
    const play = await there(q);
    const player = await store.player(play.id, one(q.params['player']));
    if (!player) throw new Refused(404, 'There is no such player.');
    return { play, player };
  };
  app.get('/play/:play/as/:player', async (q, r) => {
    const { play, player } = await as(q);
    const at = `/play/${play.id}/as/${player.id}`;
    r.send(page(play.title, `<p>You play as <strong>${escape(player.name)}</strong>.</p>${playPage(`${at}/events`, undefined, `${at}/answer`)}`));
  });
  app.get('/play/:play/as/:player/events', async (q, r) => {
    const { play, player } = await as(q);
    await stream(q, r, play, player);
  });
  app.post('/play/:play/as/:player/answer', async (q, r) => {
    const { play, player } = await as(q);
    const { round, chosen } = q.body as { round?: unknown; chosen?: unknown };
    const asked: Round | undefined = play.rounds[play.round];
    if (!asked || !play.asked || round !== play.round + 1 || late(play) > GRACE) throw new Refused(409, 'The time for this question is out.');
    const numbers = Array.isArray(chosen) ? [...new Set(chosen.map(Number))].filter((n) => n >= 1 && n <= asked.choices.length).sort((a, b) => a - b) : [];
    if (!numbers.length || (asked.right.length === 1 && numbers.length > 1)) throw new Refused(422, 'Choose one of the choices.');
    const right = JSON.stringify(numbers) === JSON.stringify(asked.right);
    const after = Math.max(0, (Date.now() - play.asked.getTime()) / 1000);
    await store.answer(player.id, play.round, { chosen: numbers, is_right: right, points: earned(right, after, asked.seconds, play.settings.quick), after });
    // all have answered: nobody waits for the clock
    const [all, answers] = [await store.players(play.id), await store.answers(play.id)];
    if (answers.filter((a) => a.round === play.round).length >= all.length) await store.step(play);
    moves.emit(play.id);
    r.status(204).end();
  });

  app.use((e: unknown, q: Request, r: Response, _next: NextFunction) => {
    const status = e instanceof Refused ? e.status : ((e as { status?: number }).status ?? 500);
    if (status >= 500) console.error(e);
    const detail = status < 500 ? (e as Error).message : 'The game service could not do this.';
    if (q.path.startsWith('/v1') || q.method === 'POST') return void r.status(status).json({ detail });
    r.status(status).send(page('This did not work', `<p class="error" role="alert">${escape(detail)}</p>`));
  });
  return app;
}

/** Numbers of the choices in the order in which they are shown: one of its own for each player, where the game is set so. */
function orderOf(p: Play, player: Player | undefined): number[] {
  const numbers = (p.rounds[p.round]?.choices ?? []).map((_, i) => i + 1);
  if (!p.settings.shuffle || !player) return numbers;
  const mixed = (n: number): number => Math.imul((player.number * 7919 + p.round * 104729 + n * 1299709) | 0, 0x45d9f3b) >>> 7;
  return numbers.sort((a, b) => mixed(a) - mixed(b));
}

const joinForm = (code: string, problem = ''): string =>
  `${problem ? `<p class="error" role="alert">${escape(problem)}</p>` : ''}<form method="post" action="/join"><section><label>Code <input name="code" required inputmode="numeric" autocomplete="off" value="${escape(code)}"></label><label>Your name <input name="name" required maxlength="60" autocomplete="off"></label></section><button>Join</button></form>`;

/** A page that follows a play: with a button for the next step, or with answers that can be given. */
const playPage = (events: string, next?: string, answer?: string): string => `<div id="game" aria-live="polite"></div>
<script>
const at = ${JSON.stringify({ events, next, answer })};
const box = document.getElementById('game');
const el = (tag, props = {}, ...kids) => { const e = Object.assign(document.createElement(tag), props); e.append(...kids); return e; };
const post = (url, body) => fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body ?? {}) });
let seen = '';
let ticked = new Set();
function board(v) { return el('table', {}, ...v.players.map((p) => el('tr', {}, el('td', { textContent: p.name }), el('td', { textContent: p.points + ' points' })))); }
function show(v) {
  const { seconds, ...rest } = v;
  const now = JSON.stringify(rest);
  if (now === seen) { const left = document.querySelector('.left'); if (left) left.textContent = seconds + ' s'; return; }
  if (JSON.parse(seen || '{}').round !== v.round) ticked = new Set();
  seen = now;
  const kids = [];
  const add = (...x) => kids.push(...x);
  if (v.state === 'waiting') {
    if (at.next) add(el('p', {}, 'Go to ' + location.host + '/join and enter'), el('p', { className: 'code', textContent: v.code }));
    else add(el('p', { textContent: 'It begins soon.' }));
    add(el('p', { textContent: v.players.length + (v.players.length === 1 ? ' player' : ' players') + ': ' + v.players.map((p) => p.name).join(', ') }));
  } else if (v.state === 'over') add(el('h2', { textContent: 'It is over' }), board(v));
  else {
    add(el('p', {}, 'Round ' + v.round + ' of ' + v.rounds + ' · ', el('span', { className: 'left', textContent: v.state === 'asking' ? seconds + ' s' : 'solved' }), ' · ' + v.answered + ' answered'));
    add(el('p', { className: 'ask', textContent: v.question }));
    if (v.picture) add(el('img', { src: v.picture, alt: '' }));
    const open = at.answer && v.state === 'asking' && !v.mine;
    const list = el('ul', { className: 'choices' }, ...v.choices.map((c) => {
      if (open && v.several) {
        const tick = el('input', { type: 'checkbox', checked: ticked.has(c.n), onchange: () => (tick.checked ? ticked.add(c.n) : ticked.delete(c.n)) });
        return el('li', {}, el('label', {}, tick, ' ' + c.text));
      }
      const mine = v.mine && v.mine.chosen.includes(c.n) ? ' (your answer)' : '';
      return el('li', {}, el('button', { type: 'button', disabled: !open, className: c.right ? 'is-right' : '', textContent: c.text + (c.right ? ' ✓' : '') + mine, onclick: () => post(at.answer, { round: v.round, chosen: [c.n] }) }));
    }));
    add(list);
    if (open && v.several) add(el('button', { type: 'button', textContent: 'Send', onclick: () => post(at.answer, { round: v.round, chosen: [...ticked] }) }));
    if (v.mine && v.state === 'asking') add(el('p', { textContent: 'Your answer has arrived.' }));
    if (v.mine && v.state === 'solved') add(el('p', { textContent: v.mine.right ? 'Right: ' + v.mine.points + ' points.' : 'Not right.' }));
    if (v.state === 'solved') add(board(v));
  }
  if (at.next && v.state !== 'over')
    add(el('p', {}, el('button', { type: 'button', textContent: v.state === 'waiting' ? 'Begin' : v.state === 'asking' ? 'End the question' : v.round < v.rounds ? 'Next question' : 'End the game', onclick: () => post(at.next, { round: v.round, state: v.state }) })));
  box.replaceChildren(...kids);
}
new EventSource(at.events).onmessage = (e) => show(JSON.parse(e.data));
</script>`;
