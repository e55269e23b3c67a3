// Writes the server's OpenAPI document and the web application's client types from it. Run it after a route changed.
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { root } from './install.mjs';
import { up } from './pg.mjs';
import { startAll } from './services.mjs';

const all = await startAll({ databaseUrl: up('zakuska_openapi'), port: 3700, lmsPort: 3750, env: { LOG_LEVEL: 'warn', ROLE: 'web' } });
try {
  const document = await (await fetch(`${all.url}/api/openapi.json`)).json();
  const file = path.join(root, 'apps/server/openapi.json');
  fs.writeFileSync(file, `${JSON.stringify(document, null, 2)}\n`);
  execFileSync(path.join(root, 'node_modules/.bin/openapi-typescript'), [file, '-o', path.join(root, 'apps/web/src/api/generated.ts')], { stdio: 'inherit' });
} finally {
  await all.stop();
}
