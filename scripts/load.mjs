// What the server bears: lists, edits, editors at once, hand-ins, a class, and one answer that means harm. On a database of its own.
//   npm run load [-- --quick]     figures go to .bench/load.json; what they were is in docs/reliability.md
// Ratios in one run: the machine's own speed is measured beside (plain inserts of the same rows by pgbench).
import { execFileSync } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import fs from 'node:fs';
import http from 'node:http';
import { createRequire } from 'node:module';
import path from 'node:path';
import { root } from './install.mjs';
import { binaries, recreate } from './pg.mjs';
import { finish, start, startAll } from './services.mjs';

const quick = process.argv.includes('--quick');
const pg = createRequire(path.join(root, 'apps/standins/package.json'))('pg');
const databaseUrl = recreate('zakuska_load');
await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databaseUrl }, 'ignore'));
const all = await startAll({ databaseUrl, port: 3800, lmsPort: 3850, env: { LOG_LEVEL: 'error' }, stdio: ['ignore', 'ignore', 'inherit'] });
const pool = new pg.Pool({ connectionString: databaseUrl, max: 20 });
const q = async (text, params) => (await pool.query(text, params)).rows;
const base = `${all.url}/api/v1`;
const sleep = (ms) => new Promise((r) => setTimeout(r, ms));

// light on the machine, which it shares with what is measured
const agent = new http.Agent({ keepAlive: true, maxSockets: 2000 });

class Client {
  cookie = '';
  csrf = '';
  call(method, url, body, headers = {}) {
    const begun = performance.now();
    const text = body === undefined ? undefined : JSON.stringify(body);
    return new Promise((resolve, reject) => {
      const request = http.request(
        base + url,
        {
          method,
          agent,
          headers: {
            ...(this.cookie && { cookie: this.cookie, 'x-csrf-token': this.csrf }),
            ...(text !== undefined && { 'content-type': 'application/json', 'content-length': Buffer.byteLength(text) }),
            ...headers,
          },
        },
        (r) => {
          for (const c of r.headers['set-cookie'] ?? []) if (c.startsWith('zakuska_session')) this.cookie = c.split(';')[0];
          const pieces = [];
          r.on('data', (piece) => pieces.push(piece));
          r.on('end', () => {
            const ms = performance.now() - begun;
            const all = Buffer.concat(pieces).toString();
            resolve({ status: r.statusCode, json: all ? JSON.parse(all) : null, ms });
          });
        },
      );
      request.on('error', reject);
      request.end(text);
    });
  }
}
const percentile = (list, p) => {
  const sorted = [...list].sort((a, b) => a - b);
  return Math.round((sorted[Math.min(sorted.length - 1, Math.floor((p / 100) * sorted.length))] ?? Number.NaN) * 10) / 10;
};
const figures = {};
const note = (name, value, unit, goal) => {
  figures[name] = { value, unit, goal };
  console.log(`${name.padEnd(62)} ${String(value).padStart(9)} ${unit.padEnd(6)} ${goal ? `goal ${goal}` : ''}`);
};

const owner = new Client();
{
  const r = await owner.call('POST', '/session', { email: 'm.okafor@saltmarsh.example', password: 'sourdough' });
  owner.csrf = r.json.csrf;
  owner.workspace = r.json.workspaces[0].id;
}
const item = (n) => ({
  id: randomUUID(),
  kind: 'multiple-choice',
  stem: `Question number ${n}: what is right about the dough of the day ${n}?`,
  points: 1,
  options: ['a', 'b', 'c', 'd'].map((o, i) => ({ id: o, content: `the ${o} of four possible answers to number ${n}`, credit: i ? 0 : 1 })),
});
const newSet = async (title, count) => {
  const { id } = (await owner.call('POST', `/workspaces/${owner.workspace}/sets`, { title })).json;
  let version = 0;
  for (let at = 0; at < count; at += 1000) {
    const items = Array.from({ length: Math.min(1000, count - at) }, (_, n) => item(at + n));
    const r = await owner.call('POST', `/sets/${id}/operations`, {
      base: version,
      operations: [{ id: randomUUID(), operation: { type: 'insert', at, items } }],
    });
    if (r.status !== 200) throw new Error(`insert: ${r.status} ${JSON.stringify(r.json)}`);
    version = r.json.version;
  }
  return { id, version };
};
const publish = async (set) => (await owner.call('POST', `/sets/${set}/deliveries`, { shows: 'score' })).json;

// a server of before takes fewer fields: so the script can be run on it, too
const now = JSON.stringify(await (await fetch(`${all.url}/api/openapi.json`)).json()).includes('"merge"');

try {
  // ---- an answer that means harm
  {
    const s = await newSet('Harm', 0);
    const numeric = { id: randomUUID(), kind: 'numeric', stem: 'How much?', points: 1, answers: [{ min: 1, max: 1, credit: 1 }], unit: 'kg' };
    await owner.call('POST', `/sets/${s.id}/operations`, {
      base: 0,
      operations: [{ id: randomUUID(), operation: { type: 'insert', at: 0, items: [numeric] } }],
    });
    const d = await publish(s.id);
    const learner = new Client();
    const [id, token] = [randomUUID(), randomUUID() + randomUUID()];
    await learner.call('POST', `/take/${d.code}/attempts`, { id, token, name: 'x' });
    const harm = learner.call(
      'POST',
      `/take/attempts/${id}/submit`,
      { responses: { [numeric.id]: { text: `${')'.repeat(49_990)} 1` } } },
      { 'x-attempt-token': token },
    );
    await sleep(20);
    const other = await new Client().call('GET', '/health');
    note('an answer of 50,000 signs', Math.round((await harm).ms), 'ms');
    note('  somebody else waits meanwhile', Math.round(other.ms), 'ms');
  }

  // ---- edits in a large set, alone and together
  {
    const s = await newSet('Large', 5000);
    const { document } = (await owner.call('GET', `/sets/${s.id}`)).json;
    const times = [];
    let { version } = s;
    for (let n = 0; n < 40; n++) {
      const operation = { type: 'change', id: document.set.items[(n * 977) % 5000].id, set: { points: 2 + (n % 3) } };
      const r = await owner.call('POST', `/sets/${s.id}/operations`, { base: version, operations: [{ id: randomUUID(), operation }] });
      version = r.json.version;
      times.push(r.ms);
    }
    note('an edit in a set of 5,000 items, median', percentile(times, 50), 'ms', '< 60');
    note('  95 of 100', percentile(times, 95), 'ms');
    const shared = await newSet('Shared', 100);

    const items = (await owner.call('GET', `/sets/${shared.id}`)).json.document.set.items;
    const waits = [];
    await Promise.all(
      Array.from({ length: 30 }, async (_, who) => {
        let at = shared.version;
        for (let n = 0; n < 8; n++) {
          await sleep(Math.random() * 1000);
          const operation = { type: 'change', id: items[(who * 3 + n) % 100].id, set: { points: 1 + n } };
          const id = randomUUID();
          const begun = performance.now();
          for (;;) {
            const r = await owner.call('POST', `/sets/${shared.id}/operations`, { base: at, operations: [{ id, operation }], ...(now && { merge: true }) });
            at = r.json.version;
            if (r.status === 200) break;
            if (r.status !== 409) throw new Error(`edit: ${r.status}`);
          }
          waits.push(performance.now() - begun);
        }
      }),
    );
    note('30 editors in one set, until an edit is in, median', percentile(waits, 50), 'ms');
    note('  95 of 100', percentile(waits, 95), 'ms', '< 300');
  }

  // ---- learners
  const quiz = await newSet('Quiz', 20);
  const right = (i) => ({ options: [i.options[0].id] });
  const answers = (items) => Object.fromEntries(items.map((i) => [i.id, right(i)]));
  const beginOne = async (code, note) => {
    const [id, token] = [randomUUID(), randomUUID() + randomUUID()];
    const r = await new Client().call('POST', `/take/${code}/attempts`, { id, token, name: `Learner ${id.slice(0, 8)}`, ...(now && { device: id }) });
    note?.(r);
    return { id, token, items: r.json.items };
  };
  const submitOne = (a) => new Client().call('POST', `/take/attempts/${a.id}/submit`, { responses: answers(a.items) }, { 'x-attempt-token': a.token });
  {
    const d = await publish(quiz.id);
    const count = 900;
    let handIns = 0;
    // a server of a school is warm: the last of some rounds counts
    for (let round = 0; round < (quick ? 2 : 4); round++) {
      const begun = [];
      if (now) await q("delete from limit_count where key like 'attempts %'");
      for (let n = 0; n < count; n += 50) begun.push(...(await Promise.all(Array.from({ length: 50 }, () => beginOne(d.code)))));
      const from = performance.now();
      let next = 0;
      await Promise.all(
        Array.from({ length: 16 }, async () => {
          while (next < begun.length) {
            const r = await submitOne(begun[next++]);
            if (r.status !== 200) throw new Error(`hand-in: ${r.status}`);
          }
        }),
      );
      handIns = count / ((performance.now() - from) / 1000);
    }
    // what a request costs that does nothing: no hand-in can be faster
    const idle = performance.now();
    let asked = 0;
    await Promise.all(
      Array.from({ length: 16 }, async () => {
        while (asked++ < 3000) await new Client().call('GET', '/health/live');
      }),
    );
    const nothing = 3000 / ((performance.now() - idle) / 1000);
    // the same row, inserted plainly
    const [row] = await q('select name, responses, marks, points from attempt where delivery_id = $1 and submitted_at is not null limit 1', [d.id]);
    const file = path.join(root, '.bench/insert.sql');
    fs.mkdirSync(path.dirname(file), { recursive: true });
    await q(
      'create table if not exists load_row (id uuid primary key, delivery_id uuid, token_hash text, name text, responses jsonb, marks jsonb, points float8, at timestamptz)',
    );
    fs.writeFileSync(
      file,
      `insert into load_row values (gen_random_uuid(), '${d.id}', '${createHash('sha256').update('x').digest('hex')}', 'Learner', $r$${JSON.stringify(row.responses).replaceAll(':', ': ')}$r$, $r$${JSON.stringify(row.marks).replaceAll(':', ': ')}$r$, 1, now());\n`,
    );
    const url = new URL(databaseUrl);
    const out = execFileSync(
      path.join(binaries(), 'pgbench'),
      ['-n', '-M', 'simple', '-c', '16', '-j', '2', '-T', '5', '-f', file, '-h', url.hostname, '-p', url.port, '-U', url.username, url.pathname.slice(1)],
      { encoding: 'utf8', env: { ...process.env, PGPASSWORD: url.password }, stdio: ['ignore', 'pipe', 'ignore'] },
    );
    const inserts = Number(/tps = ([\d.]+)/.exec(out)?.[1]);
    note('hand-ins in a second, 16 at once', Math.round(handIns), '/s');
    note('requests in a second that do nothing, 16 at once', Math.round(nothing), '/s');
    note('hand-ins as a share of them', Math.round((handIns / nothing) * 1000) / 10, '%');
    note('plain inserts of the same rows in a second (pgbench)', Math.round(inserts), '/s');
    note('hand-ins as a share of plain inserts', Math.round((handIns / inserts) * 1000) / 10, '%', '≥ 25');
  }
  {
    const d = await publish(quiz.id);
    const times = { begin: [], keep: [], submit: [] };
    const seconds = quick ? 15 : 60;
    let failed = 0;
    await Promise.all(
      Array.from({ length: 500 }, async () => {
        await sleep(Math.random() * seconds * 250);
        const a = await beginOne(d.code, (r) => times.begin.push(r.ms));
        if (!a.items) return void failed++;
        for (let n = 0; n < 5; n++) {
          await sleep(Math.random() * seconds * 240);
          const responses = answers(a.items.slice(0, (n + 1) * 4));
          const r = await new Client().call('PUT', `/take/attempts/${a.id}`, { responses }, { 'x-attempt-token': a.token });
          if (r.status !== 200) failed++;
          times.keep.push(r.ms);
        }
        const r = await submitOne(a);
        if (r.status !== 200) failed++;
        times.submit.push(r.ms);
      }),
    );
    for (const [what, list] of Object.entries(times)) note(`500 learners in ${seconds} s: ${what}, 99 of 100`, percentile(list, 99), 'ms', '< 300');
    note('  requests that failed', failed, '');
  }
  {
    const d = await publish(quiz.id);
    const from = performance.now();
    const done = await Promise.all(Array.from({ length: 500 }, async () => (await submitOne(await beginOne(d.code))).status));
    note('500 at once, all begun and handed in after', Math.round((performance.now() - from) / 100) / 10, 's', '≤ 3');
    note('  of them done', done.filter((s) => s === 200).length, '');
  }

  // ---- many sets and attempts
  {
    const d = await publish(quiz.id);
    const columns = (
      await q(
        "select column_name as c from information_schema.columns where table_name = 'quiz_set' and table_schema = 'public' and column_name <> 'id' and is_generated = 'NEVER'",
      )
    ).map((r) => `"${r.c}"`);
    const copy = async (n) =>
      q(`insert into quiz_set (id, ${columns.join()}) select gen_random_uuid(), ${columns.join()} from quiz_set, generate_series(1, $1) where id = $2`, [
        n,
        quiz.id,
      ]);
    await q(
      `insert into attempt (id, delivery_id, token_hash, name, responses, marks, points, submitted_at)
       select gen_random_uuid(), $1, 'x', 'N', a.responses, a.marks, 1, now() from generate_series(1, $2), (select responses, marks from attempt where marks is not null limit 1) a`,
      [d.id, quick ? 50_000 : 200_000],
    );
    const list = async () => {
      const times = [];
      for (let n = 0; n < 20; n++) times.push((await owner.call('GET', `/workspaces/${owner.workspace}/sets`)).ms);
      return times;
    };
    await copy(1000);
    await q('analyze');
    note('the list of 1,000 sets (of 200 a page), median', percentile(await list(), 50), 'ms');
    await copy(4000);
    await q('analyze');
    const times = await list();
    note('the list of 5,000 sets (of 200 a page), median', percentile(times, 50), 'ms', '< 30');
  }
} finally {
  await pool.end();
  await all.stop();
}
fs.mkdirSync(path.join(root, '.bench'), { recursive: true });
fs.writeFileSync(path.join(root, '.bench/load.json'), `${JSON.stringify(figures, null, 1)}\n`);
