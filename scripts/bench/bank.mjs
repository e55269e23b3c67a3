// The bank with 50,000 items: search at the server against a plain count(*), near-duplicates, versions of 1,000.
//   npm run bench:bank     on a database of its own, filled here; figures are printed as ratios in one run
import { randomUUID } from 'node:crypto';
import { createRequire } from 'node:module';
import path from 'node:path';
import { root } from '../install.mjs';
import { recreate } from '../pg.mjs';
import { finish, start, startAll } from '../services.mjs';
import { againstPlan, draw, drawPlan, loadSolver, nearGroups, nearKeys, poolOf } from '../../packages/core/dist/index.js';

const MANY = 50_000;
const PER_SET = 100;
const words =
  'flour water salt yeast starter dough crumb crust oven steam knife board pan pot lid broth stock brine jar acid sugar butter milk egg rice bean lentil onion leek carrot fennel herb thyme basil saffron pepper'.split(
    ' ',
  );
const verbs = 'kneads bakes boils cools salts stirs rests proves folds slices weighs ferments drains roasts'.split(' ');
const made = (n) => {
  const w = (k) => words[(n * 7 + k * 13 + ((n / 37) | 0)) % words.length];
  return {
    id: randomUUID(),
    kind: n % 5 === 4 ? 'true-false' : 'multiple-choice',
    stem: `Which ${w(1)} ${verbs[n % verbs.length]} best with ${w(2)} and ${w(3)} in recipe ${n} of book ${(n * 31) % 977}?`,
    points: 1 + (n % 3),
    outcomes: [`Outcome ${n % 25}`],
    tags: [`week ${n % 40}`],
    level: { difficulty: ((n * 37) % 100) / 100 },
    ...(n % 5 === 4
      ? { answer: n % 2 === 0 }
      : { options: [0, 1, 2, 3].map((j) => ({ id: `o${j}`, content: `${w(j + 4)} ${(n * 11 + j * 17) % 5003}`, credit: j === n % 4 ? 1 : 0 })) }),
  };
};
const items = Array.from({ length: MANY }, (_, n) => made(n));
// one in fifty stands there again in other words
for (let n = 0; n < MANY; n += 50) items[n + 1] = { ...items[n], id: randomUUID(), stem: items[n].stem.replace('Which', 'What') };

const median = (xs) => [...xs].sort((a, b) => a - b)[xs.length >> 1];
const say = (what, figure, ratio) => console.log(`${what.padEnd(62)} ${figure.padStart(10)}  ${ratio}`);

// ── near-duplicates, in the core ──
const timed = (run) => {
  const t = performance.now();
  run();
  return performance.now() - t;
};
timed(() => nearGroups(items.slice(0, 2000)));
const half = timed(() => nearGroups(items.slice(0, MANY / 2)));
const whole = timed(() => nearGroups(items));
say(`near-duplicates among ${MANY}`, `${Math.round(whole)} ms`, `${(whole / half).toFixed(2)} × the time for half of them (linear: 2)`);

// ── versions ──
const pool = poolOf([{ title: 'Pool', items: items.slice(0, 1000) }]);
const plan = drawPlan.parse({
  versions: Array.from({ length: 8 }, (_, i) => ({ name: 'ABCDEFGH'[i], count: 40 })),
  rows: Array.from({ length: 5 }, (_, i) => ({ tag: `week ${i * 8}`, count: 2 })),
});
const highs = await loadSolver();
let drawn;
const drawing = timed(() => (drawn = draw(pool, plan, { highs })));
say(
  '8 versions of 40 from 1,000, by a blueprint',
  `${Math.round(drawing)} ms`,
  `gap ${((drawn.gap ?? 1) * 100).toFixed(1)} %; against the plan: ${againstPlan(pool, plan).length}`,
);

// ── search, at the server ──
const databaseUrl = recreate('zakuska_bench_bank');
await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databaseUrl }, 'ignore'));
const all = await startAll({ databaseUrl, port: 3900, lmsPort: 3950, env: { LOG_LEVEL: 'error', ROLE: 'web' }, stdio: ['ignore', 'ignore', 'inherit'] });
const pg = createRequire(path.join(root, 'apps/standins/package.json'))('pg');
const db = new pg.Pool({ connectionString: databaseUrl });
try {
  const [{ id: workspace }] = (await db.query('select id from workspace limit 1')).rows;
  const folders = Array.from({ length: 20 }, () => randomUUID());
  for (const [i, id] of folders.entries())
    await db.query(`insert into folder (id, workspace_id, name, trail, names) values ($1, $2, $3, array[$1::uuid], array[$3::text])`, [
      id,
      workspace,
      `Course ${i}`,
    ]);
  for (let from = 0; from < MANY; from += PER_SET) {
    const part = items.slice(from, from + PER_SET);
    const set = randomUUID();
    await db.query(
      `insert into quiz_set (id, workspace_id, title, folder_id, head, item_order, draft) values ($1, $2, $3, $4, '{"set":{"title":"x","language":"en"}}', $5, '{"text":"","overrides":[]}')`,
      [set, workspace, `Set ${from / PER_SET}`, folders[(from / PER_SET) % 20], JSON.stringify(part.map((i) => i.id))],
    );
    await db.query(
      `insert into set_item (set_id, id, item, language, near_keys) select $1, x->'item'->>'id', x->'item', 'en', array(select jsonb_array_elements_text(x->'near')::int) from jsonb_array_elements($2::jsonb) x`,
      [set, JSON.stringify(part.map((item) => ({ item, near: nearKeys(item) })))],
    );
  }
  await db.query('analyze');
  const demo = await (await fetch(`${all.url}/api/v1/session/demo`)).json();
  const session = await fetch(`${all.url}/api/v1/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(demo) });
  const cookie = session.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  const ask = async (query) => {
    const t = performance.now();
    const r = await fetch(`${all.url}/api/v1/workspaces/${workspace}/bank${query}`, { headers: { cookie } });
    const body = await r.json();
    if (!r.ok) throw new Error(JSON.stringify(body));
    return { ms: performance.now() - t, body };
  };
  const count = [];
  for (let i = 0; i < 9; i++) {
    const t = performance.now();
    await db.query('select count(*) from set_item');
    count.push(performance.now() - t);
  }
  const plain = median(count);
  say('count(*) over all items', `${plain.toFixed(1)} ms`, '');
  for (const [what, query] of [
    ['two words', '?q=kneads%20saffron'],
    ['a part of a word', '?q=ferm'],
    ['a word and three filters', '?q=oven&kind=multiple-choice&outcome=Outcome%203&folder=' + folders[2]],
    ['an outcome, by difficulty', '?outcome=Outcome%207&sort=difficulty'],
    ['everything, the first page', ''],
  ]) {
    const times = [];
    let total = 0;
    for (let i = 0; i < 9; i++) {
      const { ms, body } = await ask(query);
      times.push(ms);
      total = body.total;
    }
    say(`search: ${what} (${total} found)`, `${median(times).toFixed(0)} ms`, `${(median(times) / plain).toFixed(1)} × count(*)`);
  }
  const counts = [];
  for (let i = 0; i < 5; i++) counts.push((await ask('/counts?q=oven')).ms);
  const near = [];
  for (let i = 0; i < 2; i++) near.push((await ask('/near')).ms);
  say('near-duplicates at the server, first and again', `${near.map((t) => t.toFixed(0)).join(', ')} ms`, '');
  say('counts beside the filters, with a word', `${median(counts).toFixed(0)} ms`, `${(median(counts) / plain).toFixed(1)} × count(*)`);
} finally {
  await db.end();
  await all.stop();
}
process.exit(0);
