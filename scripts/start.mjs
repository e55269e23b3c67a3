// npm start: installs what is missing, builds, starts PostgreSQL, migrates, loads the demo once, starts everything.
import { build, install, postgresql, say } from './install.mjs';

try {
  await install([postgresql]);
  await build();
  const { running, up } = await import('./pg.mjs');
  const { finish, start, startAll } = await import('./services.mjs');
  say('starting PostgreSQL on loopback …');
  const databaseUrl = up();
  await finish(start('apps/server/dist/demo/main.js', [], { DATABASE_URL: databaseUrl }));
  const all = await startAll({
    databaseUrl,
    told: say,
    port: Number(process.env.PORT ?? 3000),
    env: { LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn', ...(process.env.PUBLIC_URL && { PUBLIC_URL: process.env.PUBLIC_URL }) },
  });
  console.log(
    `\n  Zakuska is ready:      ${all.url}\n  Demo account:          m.okafor@saltmarsh.example  password: sourdough\n  Simulated course LMS:  ${all.lmsUrl}\n  Simulated forms:       ${all.formsUrl}\n  Simulated games:       ${all.gamesUrl}\n  Simulated assistant:   ${all.assistantUrl}\n  Simulated mail:        ${all.mailUrl}\n  Stop with Ctrl+C.\n`,
  );
  // PostgreSQL runs on its own: it is looked after, too. The server waits for it meanwhile.
  const watch = setInterval(() => {
    if (running()) return;
    say('PostgreSQL ended; starting it again …');
    try {
      up();
    } catch (e) {
      say(`PostgreSQL does not start yet: ${e.message}`);
    }
  }, 500);
  let stopping = false;
  const stop = async (code) => {
    if (stopping) return;
    stopping = true;
    clearInterval(watch);
    await all.stop();
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void stop(0));
} catch (e) {
  console.error(`zakuska: ${e.message}`);
  process.exit(1);
}
