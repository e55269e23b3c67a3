// Which folder may use which: arrows inside each package. Part of `npm run lint`; prints every import that the table does not allow.
//   node scripts/layers.mjs
// A row names a folder and those it may use, all of them in rows above: so no circle can be written down. Files at the top of a
// package (index, main, app, pages) put the folders together and may use all; no folder may use them. Circles of files: .oxlintrc.json.
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

const table = {
  'packages/core/src': {
    language: '',
    people: '',
    item: 'language',
    mark: 'language item',
    source: 'language item',
    'draft/surface': 'language item',
    'draft/model': 'language item draft/surface',
    'draft/signatures': 'language item draft/surface draft/model',
    'draft/series': 'language item draft/surface draft/model draft/signatures',
    'draft/signs': 'language item draft/surface draft/model draft/signatures draft/series',
    'draft/search': 'language item draft/surface draft/model draft/signatures draft/series draft/signs',
    'draft/links': 'language item draft/surface draft/model draft/signatures draft/series draft/signs draft/search',
    'draft/items': 'language item draft/surface draft/model draft/signatures',
    'draft/doubt': 'language item draft/surface draft/model draft/signatures draft/series draft/signs draft/search draft/items',
    draft: 'language item draft/surface draft/model draft/signatures draft/series draft/signs draft/search draft/links draft/items draft/doubt',
    incoming: 'language item',
    fit: 'language item',
    rehearse: 'language item mark fit',
    formats: 'language item incoming draft draft/surface draft/model draft/signatures draft/items fit rehearse',
    services: 'language people item mark fit formats rehearse',
    destinations: 'fit formats services',
    stats: '',
    check: 'language item mark source stats',
    edit: 'language item source check',
    translate: 'language item mark formats',
    bank: 'language item check translate',
    take: 'language item mark bank',
    responses: 'language item mark bank',
    scan: 'language item mark fit formats bank responses stats',
    analysis: 'language item mark stats',
    handover: 'language people item mark take formats responses analysis',
    rework: 'language item',
    compose: 'language item mark source check draft formats rework translate',
    assist: '',
    lexicon: '',
    drafter: 'language item source lexicon',
  },
  'packages/documents/src': { lexicon: '', pdf: '.', docx: '.', odt: '.', workbook: '. odt', paper: '. docx', print: '. pdf paper' },
  'apps/server/src': {
    platform: '',
    mail: 'platform',
    accounts: 'platform mail',
    sets: 'platform accounts',
    bank: 'platform accounts sets',
    sources: 'platform accounts sets',
    requests: 'platform accounts sets',
    assistant: 'platform accounts sets requests',
    lexicon: 'platform accounts',
    print: 'platform accounts',
    classes: 'platform accounts',
    deliveries: 'platform accounts sets classes mail',
    connections: 'platform accounts sets deliveries',
    lti: 'platform accounts sets deliveries',
    people: 'platform accounts deliveries',
    administration: 'platform accounts',
    migrations: '',
  },
  'apps/web/src': {
    worker: '',
    words: '',
    ui: 'words',
    api: 'words',
    signin: 'api ui words',
    help: 'ui words',
    frame: 'api help signin ui words',
    accounts: 'api frame signin ui words',
    item: 'ui words',
    edit: 'item ui words',
    take: 'ui words',
    files: 'ui worker words',
    set: 'api words',
    together: 'api item set ui words',
    sources: 'api files frame signin ui words',
    open: 'api files item set signin sources ui words',
    sets: 'api frame help open signin ui words',
    draft: 'api frame item open set sources ui worker words',
    text: 'draft frame set ui worker words',
    check: 'api edit frame item set signin sources take ui worker words',
    ask: 'api check draft frame item set sources ui worker words',
    languages: 'frame set signin ui words',
    arrange: 'api edit frame item set ui worker words',
    bank: 'api frame item signin ui words',
    assistant: 'api frame set signin ui words',
    people: 'api frame signin ui words',
    course: 'api frame signin ui words',
    quiz: 'api frame ui words',
    show: 'ui words',
    deliver: 'api course frame item quiz set show ui worker words',
    results: 'api frame item quiz set show signin ui worker words',
  },
};
/** Development only: cases, generators and servers of tests may use whatever they test, and nothing of the product uses them. */
const TESTS = /(?:\.test\.tsx?$)|(?:^|\/)(?:testing|generate|demo)\/|(?:^|\/)(?:arbitrary|runs|testing|fuzz|roundTrip|brief|camera)\.ts$/;

/**
 * Imports that the table does not allow.
 * @param files path inside the package → its text
 * @returns "from → to" with the reason, one for each import
 */
export function forbidden(files, rows) {
  const out = [];
  const names = Object.keys(rows);
  names.forEach((name, i) => {
    for (const used of rows[name].split(' ').filter((u) => u && u !== '.'))
      if (names.indexOf(used) < 0 || names.indexOf(used) >= i) out.push(`the row “${name}” uses “${used}”, which is no row above it`);
  });
  /** The longest row that a file lies under; '.' for files at the top. */
  const folderOf = (file) => {
    if (!file.includes('/')) return '.';
    const folder = path.posix.dirname(file);
    return names.filter((n) => folder === n || folder.startsWith(`${n}/`)).sort((a, b) => b.length - a.length)[0] ?? null;
  };
  for (const [file, text] of files) {
    if (TESTS.test(file)) continue;
    const from = folderOf(file);
    if (from === null) out.push(`${file}: its folder is in no row of scripts/layers.mjs`);
    if (from === null || from === '.') continue;
    for (const [, spec] of text.matchAll(/(?:from|import|import\()\s*'(\.[^']+)'/g)) {
      const target = path.posix.normalize(path.posix.join(path.posix.dirname(file), spec)).replace(/\.js$/, '.ts');
      if (TESTS.test(target)) out.push(`${file} uses ${target}, which is for tests only`);
      const to = folderOf(target);
      if (to !== from && !rows[from].split(' ').includes(to)) out.push(`${file} (${from}) uses ${target} (${to})`);
    }
  }
  return out;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  let count = 0;
  for (const [folder, rows] of Object.entries(table)) {
    const at = path.join(root, folder);
    const files = fs
      .readdirSync(at, { recursive: true })
      .filter((f) => /\.tsx?$/.test(f) && !f.endsWith('.d.ts'))
      .map((f) => [f.split(path.sep).join('/'), fs.readFileSync(path.join(at, f), 'utf8')]);
    for (const line of forbidden(files, rows)) {
      console.log(`${folder}: ${line}`);
      count++;
    }
  }
  console.log(count ? `${count} arrows against the table of scripts/layers.mjs` : 'layers: all arrows as the table says');
  process.exit(count ? 1 : 0);
}
