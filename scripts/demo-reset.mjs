// npm run demo:reset: loads the demo anew; what was changed in the demo workspace is lost.
import { up } from './pg.mjs';
import { finish, start } from './services.mjs';

await finish(start('apps/server/dist/demo/main.js', ['--reset'], { DATABASE_URL: up() }));
