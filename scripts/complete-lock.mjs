// A registry mirror that lacks other platforms' binaries makes npm leave them out of package-lock.json, and then `npm ci`
// refuses the lock ("Missing: @swc/core-darwin-x64@ from lock file"). Write those optional entries down; npm skips them by os/cpu/libc.
import fs from 'node:fs';
const lock = JSON.parse(fs.readFileSync('package-lock.json', 'utf8'));
const OS = ['android', 'darwin', 'win32', 'freebsd', 'linux', 'openharmony', 'openbsd', 'netbsd', 'sunos', 'aix'];
const CPU = ['arm64', 'x64', 'ia32', 'arm', 'ppc64', 's390x', 'riscv64', 'loong64'];
let added = 0;
for (const [where, pkg] of Object.entries(lock.packages)) {
  for (const [name, range] of Object.entries(pkg.optionalDependencies ?? {})) {
    const found = [where ? `${where}/node_modules/${name}` : '', `node_modules/${name}`].some((k) => lock.packages[k]);
    if (found || !/^\d/.test(range)) continue;
    const words = name.split(/[/-]/);
    const os = OS.find((o) => words.includes(o));
    if (!os) {
      console.error(`skipped ${name}: no platform in its name`);
      continue;
    }
    const cpu = CPU.find((c) => words.includes(c)) ?? (words.some((w) => w.startsWith('arm')) ? 'arm' : undefined);
    lock.packages[`node_modules/${name}`] = {
      version: range,
      ...(cpu && { cpu: [cpu] }),
      ...(pkg.dev && { dev: true }),
      ...(words.some((w) => w.startsWith('musl')) && { libc: ['musl'] }),
      optional: true,
      os: [os],
    };
    added++;
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
fs.writeFileSync('package-lock.json', JSON.stringify(lock, null, 2) + '\n');
console.log(`${added} optional entries added`);
