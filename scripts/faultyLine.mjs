// A line to a server on loopback that can be made slow, stopped and cut, as one to a database on another machine can be.
import net from 'node:net';

/**
 * @param port of the server behind it
 * @returns its own port and what can go wrong on it
 */
export async function faultyLine(port) {
  const pairs = new Set();
  let delay = 0;
  let halted = false;
  let refused = false;
  const waiting = [];
  /** Each side's pieces in their order, late by the delay of the moment. */
  const carry = (from, to) => {
    let last = Promise.resolve();
    from.on('data', (piece) => {
      const due = performance.now() + delay;
      last = last.then(async () => {
        if (halted) await new Promise((go) => waiting.push(go));
        const wait = due - performance.now();
        if (wait > 1) await new Promise((go) => setTimeout(go, wait));
        if (to.writable) to.write(piece);
      });
    });
    from.on('end', () => void last.then(() => to.end()));
    from.on('error', () => to.destroy());
    from.on('close', () => to.destroy());
  };
  const server = net.createServer((near) => {
    if (refused) return near.destroy();
    const far = net.connect(port, '127.0.0.1');
    const pair = [near, far];
    pairs.add(pair);
    near.on('close', () => pairs.delete(pair));
    carry(near, far);
    carry(far, near);
  });
  await new Promise((go) => server.listen(0, '127.0.0.1', go));
  return {
    port: server.address().port,
    /** Ends all connections at once, in the middle of whatever they carry; new ones are refused for so long. */
    cut(ms = 0) {
      for (const pair of pairs) for (const s of pair) s.resetAndDestroy();
      refused = ms > 0;
      setTimeout(() => (refused = false), ms);
    },
    /** Carries nothing for so long, and says nothing of it. */
    halt(ms) {
      halted = true;
      setTimeout(() => {
        halted = false;
        for (const go of waiting.splice(0)) go();
      }, ms);
    },
    /** Every piece is late by so much, for so long. */
    slow(by, ms) {
      delay = by;
      setTimeout(() => (delay = 0), ms);
    },
    close() {
      for (const pair of pairs) for (const s of pair) s.destroy();
      server.close();
    },
  };
}
