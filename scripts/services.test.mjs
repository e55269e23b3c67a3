/** A process that ends is started again, from the spare where one waits; none is left behind. */
import { spawn } from 'node:child_process';
import { keep } from './services.mjs';

// says what it is, and exits at a message "exit" or when it is told to
const SCRIPT = `
const spare = process.argv[1] === 'spare';
const begin = () => { process.send?.('began'); console.log('began'); };
if (spare) { console.log('waiting'); process.once('message', begin); process.once('disconnect', () => process.exit(0)); } else begin();
setInterval(() => {}, 1000);`;

function watched() {
  const made = [];
  const make = (spare) => {
    const child = spawn(process.execPath, ['-e', SCRIPT, spare ? 'spare' : 'first'], { stdio: ['ignore', 'pipe', 'inherit', 'ipc'] });
    const one = { spare, child, lines: [] };
    child.stdout.on('data', (d) => one.lines.push(...String(d).trim().split('\n')));
    made.push(one);
    return child;
  };
  return { made, make };
}
const until = async (is) => {
  for (let i = 0; i < 400 && !is(); i++) await new Promise((r) => setTimeout(r, 25));
  if (!is()) throw new Error('it never came to be');
};
const alive = (one) => one.child.exitCode === null && one.child.signalCode === null;

test('the spare takes over, another is made ready, and stopping ends both', async () => {
  const { made, make } = watched();
  const told = [];
  const kept = keep('it', make, (t) => told.push(t), { spare: true });
  await until(() => made.length === 2 && made[0].lines.includes('began') && made[1].lines.includes('waiting'));
  expect(made.map((m) => m.spare)).toEqual([false, true]);
  made[0].child.kill('SIGKILL');
  await until(() => made[1].lines.includes('began') && made[2]?.lines.includes('waiting'));
  expect(kept.child).toBe(made[1].child);
  expect(told).toEqual(['it ended (SIGKILL); starting it again']);
  // a spare that dies is no loss
  made[2].child.kill('SIGKILL');
  await until(() => !alive(made[2]));
  made[1].child.kill('SIGKILL');
  await until(() => made[3]?.lines.includes('began'));
  await until(() => made[4]?.lines.includes('waiting'));
  await kept.stop();
  await until(() => made.every((m) => !alive(m)));
  expect(made).toHaveLength(5);
});

test('what ends again and again is given time', async () => {
  const told = [];
  const kept = keep(
    'it',
    () => spawn(process.execPath, ['-e', 'process.exit(3)'], { stdio: 'ignore' }),
    (t) => told.push(t),
  );
  await until(() => told.length === 4);
  await kept.stop();
  expect(told).toEqual([
    'it ended (code 3); starting it again',
    'it ended (code 3); starting it again',
    'it ended (code 3); starting it again in 0.5 s',
    'it ended (code 3); starting it again in 1 s',
  ]);
});
