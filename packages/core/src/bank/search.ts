/** A first draw at once: greedily, then by exchanges that make it better. Seeded, and counted in steps, so that it is the same on every machine. */
import { COSTS, OVERLAP_STEPS, type Program, type Selection } from './program.js';
import { hash32 } from '../item/ids.js';
import { numbersFrom } from '../item/shuffle.js';

/** A selection with its sums, so that what a change costs is known without counting all anew. */
class Draft {
  readonly held: Selection;
  private readonly count: number[];
  private readonly rows: Float64Array[];
  private readonly truth: number[];
  private readonly difficulty: number[];
  private readonly points: number[];
  private readonly blocked: Uint16Array[];
  private readonly times: Float64Array;
  private readonly most: Float64Array;
  private readonly classOf: Int32Array;
  private readonly groupsOf: number[][];
  private readonly even: boolean;

  constructor(readonly p: Program) {
    const V = p.counts.length;
    this.held = Array.from({ length: V }, () => new Uint8Array(p.units.length));
    this.count = Array.from({ length: V }, () => 0);
    this.rows = Array.from({ length: V }, () => new Float64Array(p.rows.length));
    this.truth = this.count.slice();
    this.difficulty = this.count.slice();
    this.points = this.count.slice();
    this.blocked = Array.from({ length: V }, () => new Uint16Array(p.exclusive.length));
    this.classOf = new Int32Array(p.units.length).fill(-1);
    p.classes.forEach((c, k) => c.forEach((i) => (this.classOf[i] = k)));
    this.times = new Float64Array(p.classes.length);
    this.most = Float64Array.from(p.classes, (c) => Math.max(...c.map((i) => p.units[i]?.count ?? 0)));
    this.groupsOf = p.units.map(() => []);
    p.exclusive.forEach((g, k) => g.forEach((i) => this.groupsOf[i]?.push(k)));
    this.even = new Set(p.counts).size === 1;
  }
  /** Whether a unit may come into a version: nothing that excludes it is there, and it does not make the version too long. */
  mayAdd(v: number, i: number, without = -1): boolean {
    const held = this.held[v] as Uint8Array;
    if (held[i]) return false;
    const room = (this.p.counts[v] ?? 0) - (this.count[v] ?? 0) + (without >= 0 ? (this.p.units[without]?.count ?? 0) : 0);
    if ((this.p.units[i]?.count ?? 0) > room) return false;
    return (this.groupsOf[i] ?? []).every(
      (g) => (this.blocked[v]?.[g] ?? 0) === 0 || (without >= 0 && this.p.exclusive[g]?.includes(without) && this.blocked[v]?.[g] === 1),
    );
  }
  /** Puts a unit into a version (1) or takes it out (−1). */
  put(v: number, i: number, sign: 1 | -1): void {
    const u = this.p.units[i];
    if (!u) return;
    (this.held[v] as Uint8Array)[i] = sign > 0 ? 1 : 0;
    this.count[v] = (this.count[v] ?? 0) + sign * u.count;
    this.truth[v] = (this.truth[v] ?? 0) + sign * u.truth;
    this.difficulty[v] = (this.difficulty[v] ?? 0) + sign * u.difficulty;
    this.points[v] = (this.points[v] ?? 0) + sign * u.points;
    const rows = this.rows[v] as Float64Array;
    for (let r = 0; r < rows.length; r++) rows[r] = (rows[r] ?? 0) + sign * (u.rows[r] ?? 0);
    for (const g of this.groupsOf[i] ?? []) (this.blocked[v] as Uint16Array)[g] = (this.blocked[v]?.[g] ?? 0) + sign;
    const k = this.classOf[i] ?? -1;
    if (k >= 0) this.times[k] = (this.times[k] ?? 0) + sign * u.count;
  }
  /** What a version costs by itself. */
  own(v: number): number {
    const { p } = this;
    let cost = COSTS.short * Math.max(0, (p.counts[v] ?? 0) - (this.count[v] ?? 0)) + COSTS.truth * Math.abs(this.truth[v] ?? 0);
    const rows = this.rows[v] as Float64Array;
    for (let r = 0; r < rows.length; r++) {
      const d = (rows[r] ?? 0) - (p.quotas[r] ?? 0);
      cost += d < 0 ? -d * COSTS.under : d * COSTS.over;
    }
    return cost;
  }
  /** What versions cost beside each other: how unlike they are in difficulty and points. */
  between(): number {
    const { p } = this;
    if (this.held.length < 2) return 0;
    let [lowD, highD, lowP, highP] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let v = 0; v < this.held.length; v++) {
      const d = (this.difficulty[v] ?? 0) / (p.counts[v] ?? 1);
      const q = this.points[v] ?? 0;
      if (d < lowD) lowD = d;
      if (d > highD) highD = d;
      if (q < lowP) lowP = q;
      if (q > highP) highP = q;
    }
    return COSTS.difficulty * p.plan.weights.difficulty * (highD - lowD) + (this.even ? COSTS.points * p.plan.weights.points * (highP - lowP) : 0);
  }
  /** What a unit costs in a version by itself, and by coming twice. */
  single(v: number, i: number): number {
    const k = this.classOf[i] ?? -1;
    const count = this.p.units[i]?.count ?? 0;
    let again = 0;
    if (k >= 0 && this.held.length > 1)
      for (let n = 1; n <= OVERLAP_STEPS; n++) again += Math.max(0, Math.min(count, (this.times[k] ?? 0) - n * (this.most[k] ?? 0)));
    return (this.p.cost[i] ?? 0) + (this.p.chance[v]?.[i] ?? 0) + again * COSTS.overlap[this.p.plan.overlap];
  }
  /** What changes add to the whole cost; they are not made. Without `beside`, how unlike the versions are is left out. */
  delta(changes: readonly Change[], beside = true): number {
    const versions = new Set(changes.map(([v]) => v));
    const whole = (): number => {
      let sum = beside ? this.between() : 0;
      for (const v of versions) sum += this.own(v);
      return sum;
    };
    let [before, after] = [whole(), 0];
    for (const [v, i, sign] of changes) {
      if (sign < 0) before += this.single(v, i);
      this.put(v, i, sign);
      if (sign > 0) after += this.single(v, i);
    }
    after += whole();
    for (const [v, i, sign] of [...changes].reverse()) this.put(v, i, sign > 0 ? -1 : 1);
    return after - before;
  }
}
/** A unit that comes into a version (1) or goes out of it (−1). */
type Change = readonly [version: number, unit: number, sign: 1 | -1];

/** So many exchanges are tried for each place of a version. */
const TRIES = 600;
const MOST_TRIES = 120_000;

/**
 * Draws by taking what is best next, and exchanging.
 * @param progress is told the share of the work that is done, 0 to 1
 */
export function firstDraw(p: Program, progress?: (share: number) => void): Selection {
  const d = new Draft(p);
  const V = p.counts.length;
  const random = numbersFrom(hash32(`search ${p.plan.seed}`));
  for (let v = 0; v < V; v++) p.units.forEach((u, i) => u.pinned && d.put(v, i, 1));
  const free = p.units.flatMap((u, i) => (u.pinned ? [] : [i]));
  /** The free units that each version holds. */
  const inside: number[][] = p.counts.map(() => []);
  const fill = (): void => {
    // versions take turns, so that none is left with what the others did not want
    for (let going = true; going; ) {
      going = false;
      for (let v = 0; v < V; v++) {
        let best = -1;
        let least = 0;
        for (const i of free) {
          if (!d.mayAdd(v, i)) continue;
          // while they fill, versions are alike where they hold what is easy and gives little: that would be no fair draw of the pool
          const cost = d.delta([[v, i, 1]], false);
          if (cost < least) [best, least] = [i, cost];
        }
        if (best < 0) continue;
        d.put(v, best, 1);
        inside[v]?.push(best);
        going = true;
      }
    }
  };
  fill();
  const tries = Math.min(MOST_TRIES, TRIES * p.counts.reduce((a, b) => a + b, 0));
  const pick = (list: readonly number[]): number => Math.floor(random() * list.length);
  for (let t = 0; t < tries && free.length; t++) {
    if (progress && t % 1024 === 0) progress(t / tries);
    const v = Math.floor(random() * V);
    const own = inside[v] as number[];
    if (!own.length) continue;
    const at = pick(own);
    const out = own[at] as number;
    // an item that is free, or one that another version gives for it
    const w = V > 1 && random() < 0.4 ? (v + 1 + Math.floor(random() * (V - 1))) % V : -1;
    const other = inside[w];
    const there = other?.length ? pick(other) : -1;
    const into = other ? (other[there] ?? -1) : (free[pick(free)] as number);
    if (into < 0 || into === out || !d.mayAdd(v, into, out) || (other && !d.mayAdd(w, out, into))) continue;
    const changes: Change[] = [[v, out, -1], ...(other ? [[w, into, -1] as const, [w, out, 1] as const] : []), [v, into, 1]];
    // early on a little worse is taken, so that it does not stay in the first hollow
    const heat = 0.3 * (1 - t / tries) ** 3;
    const change = d.delta(changes);
    if (change >= -1e-9 && !(change < 10 && random() < Math.exp(-change / heat))) continue;
    for (const [x, i, sign] of changes) d.put(x, i, sign);
    own[at] = into;
    if (other) other[there] = out;
  }
  fill();
  return d.held;
}
