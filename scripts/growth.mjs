// What becomes of a school that has been at it for years: 5,000 sets, 500,000 items, 2,000,000 answers, its history and its log. Every route that
// gives something is asked when little is there and again when all is there; statements that take long are kept with their plans; then an hour's
// worth of requests, with the memory of the server beside.   npm run growth [-- --quick] [-- --again]
// On a database of its own, which stays; with --again it is asked once more as it is, so that a change of the program is seen in it. Figures go to .bench/growth.json, plans to .bench/plans.txt; what they were is in docs/reliability.md.
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import http from 'node:http';
import { createRequire } from 'node:module';
import path from 'node:path';
import { root } from './install.mjs';
import { logFile, recreate, up } from './pg.mjs';
import { finish, start, startAll } from './services.mjs';

const quick = process.argv.includes('--quick');
const again = process.argv.includes('--again');
const { nearKeys, ownFindings } = await import(path.join(root, 'packages/core/dist/index.js'));
const pg = createRequire(path.join(root, 'apps/standins/package.json'))('pg');

const FEW = 50;
const SETS = quick ? 500 : 5000;
const ITEMS = 100;
/** One set in so many is published, to so many people, with so many items. */
const PUBLISHED = 5;
const PEOPLE = 100;
const ASKED = 20;
const REQUESTS = quick ? 4000 : 36_000;
/** Milliseconds from which a statement is kept with its plan. */
const LONG = 60;

const NAME = 'zakuska_growth';
const databaseUrl = again ? up(NAME) : recreate(NAME);
if (!again) await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databaseUrl }, 'ignore'));
const pool = new pg.Pool({ connectionString: databaseUrl, max: 8 });
const q = async (text, params) => (await pool.query(text, params)).rows;
const [{ id: workspace }] = await q('select id from workspace limit 1');
const [{ id: owner }] = await q("select a.id from account a join membership m on m.account_id = a.id where m.role = 'owner' limit 1");

// ---- what grows ----
/** Words as they are in a language: a few stand everywhere, most seldom (Zipf; as 1 over the rank). */
const syllables = 'ba ke ri to mu sa len dor fi pan ole ver gra hu nis cot'.split(' ');
const vocabulary = Array.from({ length: 6000 }, (_, n) => {
  const at = n + 17;
  return syllables[at % 16] + syllables[(at >> 4) % 16] + (at > 255 ? syllables[(at >> 8) % 16] : '') + (at > 4095 ? 's' : '');
});
const word = () => vocabulary[Math.floor(vocabulary.length ** Math.random()) - 1];
const phrase = (n) => Array.from({ length: n }, word).join(' ');
const sleep = (ms) => new Promise((r) => setTimeout(r, ms));
let count = 0;
/** An item of a set, which is about a week and a few outcomes. */
const madeItem = (set) => {
  const n = count++;
  const common = {
    id: randomUUID(),
    stem: `Which ${phrase(9)}?`,
    points: 1 + (n % 3),
    outcomes: [`Outcome ${(set * 4 + (n % 4)) % 300}`],
    tags: [`week ${set % 40}`, ...(n % 5 ? [] : ['exam'])],
  };
  const level = { difficulty: ((n * 37) % 100) / 100 };
  if (n % 7 === 0) return { ...common, level, kind: 'true-false', answer: n % 2 === 0 };
  if (n % 11 === 0) return { ...common, level, kind: 'short-answer', answers: [{ text: phrase(2), credit: 1 }] };
  return { ...common, level, kind: 'multiple-choice', options: [0, 1, 2, 3].map((o) => ({ id: `o${o}`, content: phrase(3), credit: o === n % 4 ? 1 : 0 })) };
};
const answerTo = (item, right) =>
  item.kind === 'true-false'
    ? { truth: item.answer === right }
    : item.kind === 'short-answer'
      ? { text: right ? item.answers[0].text : word() }
      : { options: [`o${right ? item.options.findIndex((o) => o.credit) : 3}`] };
const rules = (await q('select rules from delivery limit 1'))[0].rules;
const folders = [];
const classes = [];

async function oneSet(n) {
  const id = randomUUID();
  const items = Array.from({ length: ITEMS }, () => madeItem(n));
  const title = `${phrase(3)} ${n}`;
  await q(
    `insert into quiz_set (id, workspace_id, title, folder_id, owner_id, head, item_order, draft, version, summary, updated_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, 20, $9, now() - $10 * interval '1 hour')`,
    [
      id,
      workspace,
      title,
      folders[n % folders.length],
      owner,
      { set: { title, language: 'en' } },
      JSON.stringify(items.map((i) => i.id)),
      { text: phrase(3000), overrides: [] },
      { items: ITEMS, points: 200, checked: 0, leftOut: 0, withoutKey: 0 },
      n,
    ],
  );
  await q(
    `insert into set_item (set_id, id, item, language, near_keys, findings)
     select $1, x->'item'->>'id', x->'item', 'en', array(select jsonb_array_elements_text(x->'near')::int), array(select jsonb_array_elements_text(x->'findings'))
     from jsonb_array_elements($2::jsonb) x`,
    [id, JSON.stringify(items.map((item) => ({ item, near: nearKeys(item), findings: ownFindings(item, 'en') })))],
  );
  await q(
    `insert into set_operation (id, set_id, version, account_id, operation, inverse, at)
     select gen_random_uuid(), $1, v, $2, $3, $3, now() - v * interval '1 minute' from generate_series(1, 20) v`,
    [id, owner, { type: 'change', id: items[0].id, set: { points: 2 } }],
  );
  if (n % PUBLISHED === 0) await published(id, title, items.slice(0, ASKED), n);
}

async function published(set, title, items, n) {
  const id = randomUUID();
  const of = classes[n % classes.length];
  await q(
    `insert into delivery (id, set_id, code, title, snapshot, rules, class_list_id, responses, created_at) values ($1, $2, $3, $4, $5, $6, $7, $8, now() - $9 * interval '1 hour')`,
    [id, set, id.replaceAll('-', '').slice(0, 10).toUpperCase(), title, { title, language: 'en', items }, rules, of.id, PEOPLE, n],
  );
  const people = Array.from({ length: PEOPLE }, (_, p) => {
    const right = items.map(() => Math.random() < 0.7);
    return {
      name: of.members[p]?.name ?? `${word()} ${word()}`,
      member: of.members[p]?.id ?? null,
      responses: Object.fromEntries(items.map((i, k) => [i.id, answerTo(i, right[k])])),
      marks: Object.fromEntries(
        items.map((i, k) => [
          i.id,
          { state: right[k] ? 'right' : 'wrong', credit: right[k] ? 1 : 0, points: right[k] ? i.points : 0, reason: 'As the key says.' },
        ]),
      ),
      points: items.reduce((sum, i, k) => sum + (right[k] ? i.points : 0), 0),
    };
  });
  await q(
    `insert into attempt (id, delivery_id, token_hash, name, person, member_id, responses, marks, points, started_at, submitted_at)
     select gen_random_uuid(), $1, md5(random()::text), x->>'name', lower(x->>'name'), (x->>'member')::uuid, x->'responses', x->'marks', (x->>'points')::float8, now() - interval '1 hour', now()
     from jsonb_array_elements($2::jsonb) x`,
    [id, JSON.stringify(people)],
  );
}

async function grow(from, to) {
  while (folders.length < to / 50) {
    const id = randomUUID();
    await q('insert into folder (id, workspace_id, name, trail, names) values ($1, $2, $3, array[$1::uuid], array[$3::text])', [
      id,
      workspace,
      `Course ${folders.length}`,
    ]);
    folders.push(id);
  }
  while (classes.length < to / 50) {
    const list = { id: randomUUID(), members: Array.from({ length: 30 }, (_, p) => ({ id: randomUUID(), name: `${word()} ${word()} ${p}` })) };
    await q('insert into class_list (id, workspace_id, name) values ($1, $2, $3)', [list.id, workspace, `Class ${classes.length}`]);
    await q(
      `insert into class_member (id, list_id, place, name) select (x->>'id')::uuid, $1, p, x->>'name' from jsonb_array_elements($2::jsonb) with ordinality l(x, p)`,
      [list.id, JSON.stringify(list.members)],
    );
    classes.push(list);
  }
  let next = from;
  await Promise.all(
    Array.from({ length: 4 }, async () => {
      while (next < to) await oneSet(next++);
    }),
  );
  await q(
    `insert into audit_event (workspace_id, account_id, what, about, at)
     select $1, $2, (array['signed in', 'quiz published', 'file taken'])[1 + n % 3], jsonb_build_object('who', 'somebody ' || n), now() - n * interval '1 minute' from generate_series(1, $3::int) n`,
    [workspace, owner, (to - from) * 40],
  );
  await q('vacuum analyze');
}

// ---- every route ----
/** By parameter of a route: ids of what is there. */
const IDS = {
  workspace: 'select id from workspace',
  set: "select id from quiz_set where deleted_at is null and head->'set'->>'language' is not null order by random() limit 100",
  delivery: 'select id from delivery where class_list_id is not null order by random() limit 100',
  folder: 'select id from folder order by random() limit 100',
  class: 'select id from class_list order by random() limit 100',
  code: 'select code as id from delivery order by random() limit 100',
};
/** What is asked of a route, by what stands behind its path; streams and what leads elsewhere are left out. */
const QUERIES = {
  '/workspaces/{workspace}/sets': ['', '?q={word}', '?sort=title'],
  '/workspaces/{workspace}/bank': ['', '?q={word}', '?q={word}%20{word}', '?outcome=Outcome%207', '?kind=true-false&sort=difficulty', '?tag=week%203&q={word}'],
  '/workspaces/{workspace}/bank/counts': ['', '?q={word}', '?outcome=Outcome%207'],
  '/workspaces/{workspace}/people': ['?words={word}'],
  '/workspaces/{workspace}/audit': ['', '?words=4711', '?what=file%20taken'],
  '/sets/{set}/operations': ['?since=10'],
};
const LEFT_OUT = /\/events$|\/callback$|\/provider$|\.csv$|\/bank\/near$/;

const agent = new http.Agent({ keepAlive: true, maxSockets: 16 });
let base = '';
let cookie = '';
const get = (url) =>
  new Promise((resolve, reject) => {
    const begun = performance.now();
    const request = http.request(base + url, { agent, headers: { cookie } }, (r) => {
      let bytes = 0;
      r.on('data', (piece) => (bytes += piece.length));
      r.on('end', () => resolve({ status: r.statusCode, ms: performance.now() - begun, bytes }));
    });
    request.on('error', reject);
    request.end();
  });
const percentile = (list, p) => {
  const sorted = [...list].sort((a, b) => a - b);
  return Math.round((sorted[Math.min(sorted.length - 1, Math.floor((p / 100) * sorted.length))] ?? Number.NaN) * 10) / 10;
};
const pick = (list) => list[Math.floor(Math.random() * list.length)];

/** The ways to ask a server, each as a function that makes an address of ids that are there now. */
async function asked() {
  const document = await (await fetch(`${base.replace('/api/v1', '')}/api/openapi.json`)).json();
  const ids = Object.fromEntries(await Promise.all(Object.entries(IDS).map(async ([name, sql]) => [name, (await q(sql)).map((r) => r.id)])));
  const out = [];
  for (const [whole, { get: route }] of Object.entries(document.paths)) {
    const url = whole.replace('/api/v1', '');
    const names = [...url.matchAll(/\{(\w+)\}/g)].map((m) => m[1]);
    if (!route || LEFT_OUT.test(url) || names.some((n) => !IDS[n])) continue;
    for (const query of QUERIES[url] ?? [''])
      out.push({ what: url + query, address: () => (url + query).replace(/\{(\w+)\}/g, (_, n) => (n === 'word' ? word() : pick(ids[n]))) });
  }
  return out;
}
async function measured(ways) {
  const out = {};
  for (const { what, address } of ways) {
    const times = [];
    let bytes = 0;
    for (let n = 0; n < (quick ? 20 : 60); n++) {
      const r = await get(address());
      if (r.status >= 500) throw new Error(`${what}: ${r.status}`);
      times.push(r.ms);
      bytes = Math.max(bytes, r.bytes);
    }
    out[what] = { p50: percentile(times, 50), p95: percentile(times, 95), p99: percentile(times, 99), bytes };
  }
  return out;
}

const started = async () => {
  const all = await startAll({
    databaseUrl,
    port: 3800,
    lmsPort: 3850,
    env: { LOG_LEVEL: 'error', METRICS_TOKEN: 'growth' },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  base = `${all.url}/api/v1`;
  const demo = await (await fetch(`${base}/session/demo`)).json();
  const session = await fetch(`${base}/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(demo) });
  cookie = session.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  return all;
};
/** Megabytes that the server holds. */
const memory = async () => {
  const text = await (await fetch(`${base.replace('/api/v1', '')}/metrics`, { headers: { authorization: 'Bearer growth' } })).text();
  return Math.round(Number(/^process_resident_memory_bytes (\S+)/m.exec(text)?.[1]) / 1e6);
};

const file = path.join(root, '.bench/growth.json');
const figures = again ? JSON.parse(fs.readFileSync(file, 'utf8')) : { sets: SETS };
let before = again ? Object.fromEntries(Object.entries(figures.routes).map(([what, r]) => [what, r.before])) : {};
let all;
try {
  if (!again) {
    await grow(0, FEW);
    all = await started();
    before = await measured(await asked());
    await all.stop();
    const from = performance.now();
    await grow(FEW, SETS);
    const [rows] = await q(
      'select (select count(*) from quiz_set)::int as sets, (select count(*) from set_item)::int as items, (select count(*) from attempt)::int as attempts, pg_database_size(current_database()) / 1000000 as mb',
    );
    figures.rows = { ...rows, answers: rows.attempts * ASKED, seconds: Math.round((performance.now() - from) / 1000) };
  }
  console.log(JSON.stringify(figures.rows));
  await q(`alter database ${NAME} set session_preload_libraries = 'auto_explain'`);
  await q(`alter database ${NAME} set auto_explain.log_min_duration = ${LONG}`);
  await q(`alter database ${NAME} set auto_explain.log_analyze = on`);
  await q(`alter database ${NAME} set auto_explain.log_timing = off`);
  const logged = fs.statSync(logFile).size;
  all = await started();
  const ways = await asked();
  // what is done behind what was written: counts of the sets
  for (let n = 0; (await q('select 1 from quiz_set where item_counts is null limit 1')).length; n++) {
    if (n > 600) throw new Error('the upkeep does not come to an end');
    await sleep(500);
  }
  // what is read for the first time comes from the disk
  for (const { address } of ways) await get(address());
  const after = await measured(ways);
  figures.routes = Object.fromEntries(Object.entries(after).map(([what, now]) => [what, { before: before[what], now }]));
  console.log(`${'milliseconds: 50, 95, 99 of 100'.padEnd(70)} ${`${FEW} sets`.padStart(20)} ${`${SETS} sets`.padStart(22)}`);
  const three = (f) => (f ? [f.p50, f.p95, f.p99].map((x) => String(x).padStart(6)).join(' ') : '');
  for (const [what, { before: b, now }] of Object.entries(figures.routes).sort((a, b) => b[1].now.p95 - a[1].now.p95))
    console.log(`${what.padEnd(70)} ${three(b).padStart(20)} ${three(now).padStart(22)} ${Math.round(now.bytes / 1000)} kB`);
  fs.mkdirSync(path.dirname(file), { recursive: true });
  fs.writeFileSync(path.join(root, '.bench/plans.txt'), fs.readFileSync(logFile).subarray(logged));

  fs.writeFileSync(file, `${JSON.stringify(figures, null, 1)}\n`);

  const held = [];
  let done = 0;
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      while (done < REQUESTS) {
        if (done % (REQUESTS / 12) === 0) held.push(await memory());
        done++;
        await get(pick(ways).address());
      }
    }),
  );
  held.push(await memory());
  figures.memory = held;
  console.log(`memory of the server over ${REQUESTS} requests, MB: ${held.join(' ')}`);
} finally {
  await pool.end();
  await all?.stop();
}
fs.writeFileSync(file, `${JSON.stringify(figures, null, 1)}\n`);
