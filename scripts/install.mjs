// Installs what is missing: npm packages by the lockfile, Debian packages when root. Needs nothing but Node.js itself.
import { spawn, spawnSync } from 'node:child_process';
import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
export const say = (text) => console.log(`zakuska: ${text}`);

const must = (command, args, options = {}) =>
  new Promise((done, failed) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'ignore', 'inherit'], ...options });
    const no = (why) => failed(new Error(`${command} ${args.join(' ')} failed${why}`));
    child.once('error', (e) => no(`: ${e.message}`));
    child.once('exit', (code) => (code === 0 ? done() : no('')));
  });

/** What is missing of both, side by side: each waits most of the time for what it fetches. */
export async function install(debian) {
  const both = await Promise.allSettled([debianPackages(debian), npmPackages()]);
  for (const { reason } of both) if (reason) throw reason;
}

/** npm ci, where node_modules is not what the lockfile says. */
async function npmPackages() {
  const stamp = path.join(root, 'node_modules/.zakuska-lock');
  const lock = crypto
    .createHash('sha256')
    .update(fs.readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex');
  if (fs.existsSync(stamp) && fs.readFileSync(stamp, 'utf8') === lock) return;
  say('installing npm packages (about a minute) …');
  await must('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  fs.writeFileSync(stamp, lock);
}

/** Debian packages, each with a test of whether it is there. */
async function debianPackages(wanted) {
  const missing = wanted.filter((w) => !w.there()).map((w) => w.name);
  if (!missing.length) return;
  if (process.getuid?.() !== 0)
    throw new Error(`please install ${missing.join(' and ')} (apt-get install ${missing.join(' ')}) and start again; only root can do it from here`);
  say(`installing ${missing.join(', ')} from Debian …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await must('apt-get', ['update', '-qq'], { env });
  await must('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], { env });
  // A package that is marked as installed and whose files are gone comes back only by a reinstall.
  for (const w of wanted.filter((x) => !x.there()))
    await must('apt-get', ['install', '-y', '-qq', '--reinstall', '--no-install-recommends', ...(w.holders?.() ?? [w.name])], { env });
  const still = wanted.filter((w) => !w.there()).map((w) => w.name);
  if (still.length) throw new Error(`${still.join(' and ')} could not be installed; see what apt-get said above`);
}
const hasBinary = (name) => ['/usr/bin', '/usr/local/bin', '/bin'].some((d) => fs.existsSync(path.join(d, name)));
export const postgresql = {
  name: 'postgresql',
  /** The packages that hold the server's binaries; `postgresql` itself only names one of them. */
  holders: () =>
    spawnSync('dpkg-query', ['-W', '-f', '${Package}\\n', 'postgresql-[0-9]*'], { encoding: 'utf8' })
      .stdout.split('\n')
      .filter((p) => /^postgresql-\d+$/.test(p)),
  there: () =>
    Boolean(process.env.PG_BIN) ||
    (fs.existsSync('/usr/lib/postgresql') && fs.readdirSync('/usr/lib/postgresql').some((v) => fs.existsSync(`/usr/lib/postgresql/${v}/bin/initdb`))),
};
export const chromium = { name: 'chromium', there: () => Boolean(process.env.CHROMIUM) || hasBinary('chromium') };
export const openpyxl = { name: 'python3-openpyxl', there: () => fs.existsSync('/usr/lib/python3/dist-packages/openpyxl') };
export const poppler = { name: 'poppler-utils', there: () => hasBinary('pdftotext') };
export const xmllint = { name: 'libxml2-utils', there: () => hasBinary('xmllint') };

/** Builds, where a source is newer than the last build. */
export async function build() {
  const stamp = path.join(root, '.cache/built');
  const newest = (dir) =>
    fs.readdirSync(dir, { withFileTypes: true }).reduce((t, e) => {
      if (/^(node_modules|dist|\.out)$/.test(e.name)) return t;
      const p = path.join(dir, e.name);
      return Math.max(t, e.isDirectory() ? newest(p) : fs.statSync(p).mtimeMs);
    }, 0);
  const sources = Math.max(
    ...['packages', 'apps', 'scripts/build.mjs', 'package-lock.json'].map((p) =>
      fs.statSync(path.join(root, p)).isDirectory() ? newest(path.join(root, p)) : fs.statSync(path.join(root, p)).mtimeMs,
    ),
  );
  const outputs = ['packages/core/dist', 'packages/documents/dist', 'apps/server/dist', 'apps/standins/dist', 'apps/cli/dist', 'apps/web/dist'];
  if (fs.existsSync(stamp) && fs.statSync(stamp).mtimeMs > sources && outputs.every((o) => fs.existsSync(path.join(root, o)))) return;
  say('building …');
  await must(process.execPath, ['scripts/build.mjs']);
  fs.mkdirSync(path.dirname(stamp), { recursive: true });
  fs.writeFileSync(stamp, '');
}
