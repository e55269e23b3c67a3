// npm run secret: a new secret for the installation. What is encrypted with the one before (tokens of services, codes of second factors, mails that
// wait) is encrypted anew in one transaction; then the file holds the new one. Broken off at any point, it is run again. Servers have to stand still.
// Where the environment holds the secret: ZAKUSKA_SECRET is the new one, ZAKUSKA_SECRET_BEFORE the one before.
import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import { connected, databaseUrl, program, Refusal, secretFile, standsStill } from './backupFile.mjs';
import { finish, start } from './services.mjs';

const renew = (url, env) => finish(start('apps/server/dist/newSecret.js', [], { DATABASE_URL: url, ...env }));

await program(async () => {
  const file = secretFile();
  const before = process.env.ZAKUSKA_SECRET_BEFORE;
  if (file === null && !before)
    throw new Refusal('the environment holds the secret: set ZAKUSKA_SECRET to a new one and ZAKUSKA_SECRET_BEFORE to the one before');
  if (file !== null && !fs.existsSync(file)) throw new Refusal(`there is no secret yet in ${file}: the first start makes one`);
  const url = databaseUrl();
  await connected(url, standsStill);
  if (file === null) {
    await renew(url, {});
    console.log('zakuska: done. Take ZAKUSKA_SECRET_BEFORE out of the environment and start the servers.');
    return;
  }
  // a run that was broken off goes on with the secret that it had made
  const next = `${file}.new`;
  if (!fs.existsSync(next)) fs.writeFileSync(next, `${randomBytes(32).toString('base64url')}\n`, { flag: 'wx', mode: 0o600 });
  await renew(url, { ZAKUSKA_SECRET_FILE: next, ZAKUSKA_SECRET_BEFORE: fs.readFileSync(file, 'utf8').trim() });
  fs.renameSync(next, file);
  console.log(`zakuska: ${file} holds the new secret. Bring it to all machines, make a backup (older ones hold the secret before), and start the servers.`);
});
