// node --import ./scripts/jumpingClock.mjs …: the clock of the day jumps to and fro by up to ZAKUSKA_JUMPS seconds every few seconds, as one that is set anew.
// What measures time that passes (performance.now, timers) goes on as it does on a machine.
const most = Number(process.env.ZAKUSKA_JUMPS ?? 3600) * 1000;
const Real = globalThis.Date;
let shift = 0;
setInterval(() => (shift = Math.round((Math.random() * 2 - 1) * most)), 4000).unref();
globalThis.Date = class extends Real {
  constructor(...when) {
    if (when.length) super(...when);
    else super(Real.now() + shift);
  }
  static now() {
    return Real.now() + shift;
  }
};
