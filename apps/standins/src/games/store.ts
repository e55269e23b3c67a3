/** What the game service keeps, in a database schema of its own. */
import { randomInt } from 'node:crypto';
import { type Database, newId } from '../database.js';
import { ServiceStore } from '../serviceStore.js';
import type { Given, Round } from './sheet.js';

export interface GameSettings {
  /** Whether who is quicker gets more for a right answer. */
  quick: boolean;
  /** Whether each player sees the choices in an order of their own. */
  shuffle: boolean;
}
export interface Game {
  id: string;
  account: string;
  title: string;
  settings: GameSettings;
  /** Whoever knows it leads a play. */
  host: string;
}
/** A game that is played: with the rounds as they were when it began. */
export interface Play {
  id: string;
  game: string;
  code: string;
  title: string;
  settings: GameSettings;
  rounds: Round[];
  /** The round that is on, from 0; -1 before the first; all of them: it is over. */
  round: number;
  /** When the question was put; null while its solution is shown. */
  asked: Date | null;
  at: Date;
}
export interface Player {
  id: string;
  number: number;
  name: string;
}
interface AnswerRow {
  player: string;
  round: number;
  chosen: number[];
  is_right: boolean;
  points: number;
  after: number;
}
type Rows = Database['rows'];
const PLAY = 'id, game, code, title, settings, rounds, round, asked, at';

const TABLES = `
      create table if not exists standin_games.game (id text primary key, account text not null, title text not null, settings jsonb not null, host text not null, at timestamptz not null default now());
      create table if not exists standin_games.round (game text not null references standin_games.game on delete cascade, ref text not null, content jsonb not null, place bigserial, primary key (game, ref));
      create table if not exists standin_games.play (id text primary key, game text not null references standin_games.game on delete cascade, code text not null, title text not null, settings jsonb not null, rounds jsonb not null, round int not null default -1, asked timestamptz, at timestamptz not null default now(), place bigint);
      create sequence if not exists standin_games.ended;
      create table if not exists standin_games.player (id text primary key, play text not null references standin_games.play on delete cascade, number int not null, name text not null, unique (play, number));
      create table if not exists standin_games.answer (player text not null references standin_games.player on delete cascade, round int not null, chosen jsonb not null, is_right boolean not null, points int not null, after double precision not null, primary key (player, round));
    `;

export class Store extends ServiceStore {
  constructor(url: string) {
    super(url, 'games', 'standin_games', TABLES);
  }

  games(account: string): Promise<(Game & { rounds: number; plays: number })[]> {
    return this.rows(
      `select g.id, account, title, settings, host, (select count(*)::int from standin_games.round r where r.game = g.id) rounds,
         (select count(*)::int from standin_games.play p where p.game = g.id and p.place is not null) plays
       from standin_games.game g where account = $1 order by at desc, id`,
      [account],
    );
  }
  async game(id: string, rows: Rows = this.rows): Promise<Game | undefined> {
    return (await rows<Game>('select id, account, title, settings, host from standin_games.game where id = $1', [id]))[0];
  }
  async rounds(game: string, rows: Rows = this.rows): Promise<Round[]> {
    return (await rows<{ content: Round }>('select content from standin_games.round where game = $1 order by place', [game])).map((r) => r.content);
  }
  async makeGame(rows: Rows, account: string, title: string, settings: GameSettings): Promise<string> {
    const id = newId();
    await rows('insert into standin_games.game (id, account, title, settings, host) values ($1, $2, $3, $4, $5)', [id, account, title, settings, newId()]);
    return id;
  }
  async putRound(rows: Rows, game: string, round: Round): Promise<void> {
    await rows('insert into standin_games.round (game, ref, content) values ($1, $2, $3) on conflict (game, ref) do update set content = $3', [
      game,
      round.ref,
      round,
    ]);
  }
  async removeRound(game: string, ref: string): Promise<boolean> {
    return (await this.rows('delete from standin_games.round where game = $1 and ref = $2 returning ref', [game, ref])).length > 0;
  }

  async beginPlay(game: Game): Promise<string> {
    const id = newId();
    const rounds = await this.rounds(game.id);
    // a code that no play has that is not over
    for (;;) {
      const code = String(randomInt(10_000, 100_000));
      const made = await this.rows(
        `insert into standin_games.play (id, game, code, title, settings, rounds) select $1, $2, $3, $4, $5, $6
         where not exists (select 1 from standin_games.play where code = $3 and place is null) returning id`,
        [id, game.id, code, game.title, game.settings, JSON.stringify(rounds)],
      );
      if (made.length) return id;
    }
  }
  async play(id: string): Promise<Play | undefined> {
    return (await this.rows<Play>(`select ${PLAY} from standin_games.play where id = $1`, [id]))[0];
  }
  async playByCode(code: string): Promise<Play | undefined> {
    return (await this.rows<Play>(`select ${PLAY} from standin_games.play where code = $1 and place is null`, [code]))[0];
  }
  /** The next step, if the play still is where the host saw it: a question, its solution, the end. */
  async step(p: Play): Promise<void> {
    if (p.asked) await this.rows('update standin_games.play set asked = null where id = $1 and round = $2', [p.id, p.round]);
    else if (p.round + 1 < p.rounds.length)
      await this.rows('update standin_games.play set round = $2 + 1, asked = now() where id = $1 and round = $2', [p.id, p.round]);
    else
      await this.rows(`update standin_games.play set round = $2 + 1, place = nextval('standin_games.ended') where id = $1 and round = $2 and place is null`, [
        p.id,
        p.round,
      ]);
  }
  /** Plays of a game that are over, behind a place in the order of ending. */
  ended(game: string, after: number): Promise<{ id: string; at: Date; place: number; players: number }[]> {
    return this.rows(
      `select id, at, place::int, (select count(*)::int from standin_games.player x where x.play = p.id) players
       from standin_games.play p where game = $1 and place > $2 order by p.place limit 50`,
      [game, after],
    );
  }
  async join(play: string, name: string): Promise<Player> {
    return this.db.together(async (rows) => {
      await rows('select 1 from standin_games.play where id = $1 for update', [play]);
      const [made] = await rows<Player>(
        `insert into standin_games.player (id, play, number, name) select $1, $2, coalesce(max(number), 0) + 1, $3 from standin_games.player where play = $2 returning id, number, name`,
        [newId(), play, name],
      );
      return made as Player;
    });
  }
  async player(play: string, id: string): Promise<Player | undefined> {
    return (await this.rows<Player>('select id, number, name from standin_games.player where play = $1 and id = $2', [play, id]))[0];
  }
  /** Keeps the first answer of a player to a round. */
  async answer(player: string, round: number, a: Omit<AnswerRow, 'player' | 'round'>): Promise<void> {
    await this.rows('insert into standin_games.answer values ($1, $2, $3, $4, $5, $6) on conflict do nothing', [
      player,
      round,
      JSON.stringify(a.chosen),
      a.is_right,
      a.points,
      a.after,
    ]);
  }
  players(play: string): Promise<(Player & { points: number })[]> {
    return this.rows(
      `select p.id, p.number, p.name, coalesce((select sum(points)::int from standin_games.answer a where a.player = p.id), 0) points
       from standin_games.player p where play = $1 order by points desc, number`,
      [play],
    );
  }
  answers(play: string): Promise<AnswerRow[]> {
    return this.rows(
      'select player, round, chosen, is_right, points, after from standin_games.answer a where player in (select id from standin_games.player where play = $1)',
      [play],
    );
  }
  /** What every player did in every round that was asked. */
  async given(play: Play): Promise<Given[]> {
    const [players, answers] = [await this.players(play.id), await this.answers(play.id)];
    const asked = play.rounds.slice(0, play.round + 1);
    return [...players]
      .sort((a, b) => a.number - b.number)
      .flatMap((p) =>
        asked.map((round, n): Given => {
          const a = answers.find((x) => x.player === p.id && x.round === n);
          return {
            player: p.number,
            name: p.name,
            round,
            chosen: a?.chosen ?? [],
            right: a?.is_right ?? false,
            points: a?.points ?? 0,
            after: a ? Math.round(a.after * 10) / 10 : null,
          };
        }),
      );
  }
}
