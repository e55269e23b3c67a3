// node --import ./scripts/jumpingClock.mjs …: the clock of the day jumps to and fro by up to ZAKUSKA_JUMPS seconds every few seconds, as one that is set anew.
// What measures time that passes (performance.now, timers) goes on as it does on a machine.
const most = Number(process.env.ZAKUSKA_JUMPS ?? 3600) * 1000;
const Real = globalThis.Date;
const told = Real.now;
let shift = 0;
setInterval(() => (shift = Math.round((Math.random() * 2 - 1) * most)), 4000).unref();
Real.now = () => told() + shift;
globalThis.Date = new Proxy(Real, {
  construct: (date, when, as) => Reflect.construct(date, when.length ? when : [Real.now()], as === globalThis.Date ? date : as),
  apply: () => new Real(Real.now()).toString(),
});
// whoever asks a date for its class gets the one that is there
Real.prototype.constructor = globalThis.Date;
