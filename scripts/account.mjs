// npm run account -- ADDRESS [NAME OF A WORKSPACE]: a link that makes an account as the owner of a workspace, which is made where there is
// none of this name. This is how the first person comes into an installation; the others are invited from there.
import { finish, start } from './services.mjs';
import { databaseUrl, program, Refusal } from './backupFile.mjs';

await program(async () => {
  const [address, ...name] = process.argv.slice(2);
  if (!address?.includes('@')) throw new Refusal('say whose: npm run account -- ADDRESS [NAME OF A WORKSPACE]');
  await finish(start('apps/server/dist/firstOwner.js', [address, name.join(' ')], { DATABASE_URL: databaseUrl() }));
});
