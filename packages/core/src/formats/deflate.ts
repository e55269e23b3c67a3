/**
 * DEFLATE (RFC 1951), made for thousands of small files: all tables are kept from one file to the next, so that packing a file costs
 * what its bytes cost, and files of one archive that are alike share their codes. The output hangs on nothing but the input: same files
 * in the same order, same result, on every machine.
 */

/** How far back a match may lie and how long it may be (RFC 1951, 2). Matches of three bytes are allowed, but seldom shorter than their bytes. */
const WINDOW = 32_768;
const LONGEST = 258;
const SHORTEST = 4;
/** How many earlier places with the same four bytes are tried; what is long enough is taken at once. */
const CHAIN = 8;
const GOOD = 16;
/** The places within a match as long as this are not noted: others hold the same. */
const LONG = 16;
/** Symbols of a block at most: each block has codes of its own. */
const BLOCK = 1 << 15;
const HASH_BITS = 12;
/** What mixes four bytes: 2^32 over the golden ratio, signed (Knuth, The Art of Computer Programming 3, 6.4). */
const MIX = -1_640_531_535;

/** The code and extra bits of a length from 3 to 258, and of a distance from 1 to 32,768 (RFC 1951, 3.2.5). */
const LENGTH_BASE = [3, 4, 5, 6, 7, 8, 9, 10, 11, 13, 15, 17, 19, 23, 27, 31, 35, 43, 51, 59, 67, 83, 99, 115, 131, 163, 195, 227, 258];
const LENGTH_EXTRA = [0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3, 4, 4, 4, 4, 5, 5, 5, 5, 0];
const DISTANCE_EXTRA = Array.from({ length: 30 }, (_, i) => (i < 4 ? 0 : (i >> 1) - 1));
const DISTANCE_BASE = DISTANCE_EXTRA.map((_, i) => 1 + DISTANCE_EXTRA.slice(0, i).reduce((sum, bits) => sum + (1 << bits), 0));
/** The order in which lengths of codes for lengths of codes are written (RFC 1951, 3.2.7). */
const ORDER = [16, 17, 18, 0, 8, 7, 9, 6, 10, 5, 11, 4, 12, 3, 13, 2, 14, 1, 15];

const lengthCode = new Uint8Array(LONGEST + 1);
LENGTH_BASE.forEach((base, code) => lengthCode.fill(code, base));
/** Codes of distances: of those up to 256 each, of greater ones by their upper bits. */
const nearCode = new Uint8Array(257);
const farCode = new Uint8Array((WINDOW >> 7) + 1);
DISTANCE_BASE.forEach((base, code) => {
  if (base <= 256) nearCode.fill(code, base);
  if (base > 256) farCode.fill(code, (base - 1) >> 7);
});
const distanceCode = (distance: number): number => (distance <= 256 ? (nearCode[distance] as number) : (farCode[(distance - 1) >> 7] as number));

// the last place where four bytes of a hash stand, and the one before each place; small, so that they stay near the processor
const head = new Int32Array(1 << HASH_BITS);
const before = new Int32Array(WINDOW);
const NOWHERE = -1;
const symbols = new Uint32Array(BLOCK);
const literals = new Uint32Array(286);
const distances = new Uint32Array(30);

/** Memory is taken in pieces of this size, for many packed files: an ArrayBuffer for each costs more than packing a small one. */
const SLAB = 1 << 20;
/** Bits put one after the other, the lowest first (RFC 1951, 3.1.1); at most 24 at once. */
class BitWriter {
  private held = 0;
  private count = 0;
  private from = 0;
  private at = 0;
  private bytes = new Uint8Array();

  put(value: number, bits: number): void {
    this.held |= value << this.count;
    this.count += bits;
    while (this.count >= 8) {
      this.bytes[this.at++] = this.held & 0xff;
      this.held >>>= 8;
      this.count -= 8;
    }
  }
  /** All that was put, the last byte filled, and begins anew. */
  take(): Uint8Array {
    if (this.count > 0) this.bytes[this.at++] = this.held & 0xff;
    const all = this.bytes.subarray(this.from, this.at);
    this.from = this.at;
    this.held = this.count = 0;
    return all;
  }
  /** Room for so many bytes more. */
  room(more: number): void {
    if (this.at + more <= this.bytes.length) return;
    const begun = this.bytes.subarray(this.from, this.at);
    this.bytes = new Uint8Array(Math.max(2 * (begun.length + more), SLAB));
    this.bytes.set(begun);
    this.from = 0;
    this.at = begun.length;
  }
}

/** Symbols with how often they occur in the upper bits: numbers are sorted by themselves, without a function to compare them. */
const order = new Uint32Array(286);
const SYMBOL_BITS = 9;
const SYMBOL = (1 << SYMBOL_BITS) - 1;
const weight = new Float64Array(2 * 286);
const parent = new Uint16Array(2 * 286);
const depth = new Uint16Array(2 * 286);
const perLength = new Uint16Array(16);

/**
 * Lengths of Huffman codes for symbols that occur so often, at most `most` bits each: a tree built from two queues of weights, codes that
 * would be too long shortened at the cost of others (Kraft's sum stays one).
 * @returns how many symbols are used
 */
function codeLengths(counts: Uint32Array, most: number, lengths: Uint8Array): number {
  lengths.fill(0);
  let used = 0;
  for (let s = 0; s < counts.length; s++) if (counts[s]) order[used++] = ((counts[s] as number) << SYMBOL_BITS) | s;
  if (used === 0) return 0;
  if (used === 1) {
    lengths[(order[0] as number) & SYMBOL] = 1;
    return 1;
  }
  const sorted = order.subarray(0, used).sort();
  for (let i = 0; i < used; i++) weight[i] = (sorted[i] as number) >>> SYMBOL_BITS;
  let leaf = 0;
  let node = used;
  for (let next = used; next < 2 * used - 1; next++) {
    let sum = 0;
    for (let two = 0; two < 2; two++) {
      const one = leaf < used && (node >= next || (weight[leaf] as number) <= (weight[node] as number)) ? leaf++ : node++;
      sum += weight[one] as number;
      parent[one] = next;
    }
    weight[next] = sum;
  }
  perLength.fill(0);
  depth[2 * used - 2] = 0;
  for (let i = 2 * used - 3; i >= 0; i--) {
    const d = (depth[parent[i] as number] as number) + 1;
    depth[i] = d;
    if (i < used) (perLength[Math.min(d, most)] as number)++;
  }
  // what was cut to the most takes more than all codes: a shorter one becomes two, one of which takes in one of the longest, until all fit
  let over = -(1 << most);
  for (let l = 1; l <= most; l++) over += (perLength[l] as number) << (most - l);
  for (; over > 0; over--) {
    let l = most - 1;
    while (!perLength[l]) l--;
    (perLength[l] as number)--;
    (perLength[l + 1] as number) += 2;
    (perLength[most] as number)--;
  }
  // the rarest have the longest codes
  let at = 0;
  for (let l = most; l > 0; l--) for (let n = perLength[l] as number; n > 0; n--) lengths[(sorted[at++] as number) & SYMBOL] = l;
  return used;
}

const nextCode = new Uint16Array(16);
/** Codes by their lengths (RFC 1951, 3.2.2), their bits turned round, as they are written. */
function codesOf(lengths: Uint8Array, codes: Uint16Array): void {
  perLength.fill(0);
  for (const l of lengths) if (l) (perLength[l] as number)++;
  let code = 0;
  for (let l = 1; l <= 15; l++) {
    code = (code + (l > 1 ? (perLength[l - 1] as number) : 0)) << 1;
    nextCode[l] = code;
  }
  for (let s = 0; s < lengths.length; s++) {
    const l = lengths[s] as number;
    if (!l) continue;
    let value = (nextCode[l] as number)++;
    let turned = 0;
    for (let i = 0; i < l; i++) {
      turned = (turned << 1) | (value & 1);
      value >>= 1;
    }
    codes[s] = turned;
  }
}

/** Some programs that unpack want two codes at least. */
function twoAtLeast(lengths: Uint8Array, used: number): void {
  if (used > 1) return;
  lengths[lengths[0] ? 1 : 0] = 1;
  if (used === 0) lengths[1] = 1;
}

const runCounts = new Uint32Array(19);
/** Lengths of codes as symbols: a length, or 16, 17, 18 for what stands again, with how often in the upper bits (RFC 1951, 3.2.7). */
function runsOf(lengths: Uint8Array, runs: Uint16Array): number {
  let written = 0;
  const put = (symbol: number, extra = 0): void => {
    runs[written++] = symbol | (extra << 5);
  };
  for (let i = 0; i < lengths.length; ) {
    const l = lengths[i] as number;
    let n = 1;
    while (i + n < lengths.length && lengths[i + n] === l) n++;
    i += n;
    if (l !== 0) {
      put(l);
      n--;
    }
    while (n >= 3) {
      const most = l === 0 ? 138 : 6;
      const some = Math.min(n, most);
      if (l !== 0) put(16, some - 3);
      else if (some > 10) put(18, some - 11);
      else put(17, some - 3);
      n -= some;
    }
    for (; n > 0; n--) put(l);
  }
  return written;
}
const RUN_EXTRA = [2, 3, 7];

const both = new Uint8Array(286 + 30);
const out = new BitWriter();
/** How many bits symbols take that occur so often, with codes of these lengths; without end where one of them has no code. */
function bitsOf(counts: Uint32Array, lengths: Uint8Array): number {
  let sum = 0;
  for (let s = 0; s < counts.length; s++) {
    const n = counts[s] as number;
    if (n) sum += n * ((lengths[s] as number) || Number.POSITIVE_INFINITY);
  }
  return sum;
}
/** How many times as many bits a symbol may take with codes that were made for another block. */
const NEARLY = 1.03;

/**
 * The codes of a block (RFC 1951, 3.2.7), and with which symbols they are written. Blocks that follow take them too where they do nearly as
 * well, as they do for files of one archive that are alike: making codes costs as much as packing a small file does otherwise.
 */
export class Codes {
  readonly literalBits = new Uint8Array(286);
  readonly literalCodes = new Uint16Array(286);
  readonly distanceBits = new Uint8Array(30);
  readonly distanceCodes = new Uint16Array(30);
  private readonly runs = new Uint16Array(286 + 30);
  private readonly runBits = new Uint8Array(19);
  private readonly runCodes = new Uint16Array(19);
  private written = 0;
  private literalsUsed = 0;
  private distancesUsed = 0;
  private lengthsUsed = 0;
  /** Bits for each symbol of the block that they were made for; none is made yet. */
  private bitsEach = 0;

  /** Codes for a block of so many symbols, whose counts are noted. */
  fit(count: number): void {
    if (this.bitsEach && this.bits() <= count * this.bitsEach * NEARLY) return;
    this.make();
    this.bitsEach = this.bits() / count;
  }

  /** How many bits the symbols noted take. */
  private bits(): number {
    return bitsOf(literals, this.literalBits) + bitsOf(distances, this.distanceBits);
  }

  private make(): void {
    const { literalBits, distanceBits, runs, runBits } = this;
    twoAtLeast(literalBits, codeLengths(literals, 15, literalBits));
    twoAtLeast(distanceBits, codeLengths(distances, 15, distanceBits));
    codesOf(literalBits, this.literalCodes);
    codesOf(distanceBits, this.distanceCodes);
    this.literalsUsed = 286;
    while (this.literalsUsed > 257 && !literalBits[this.literalsUsed - 1]) this.literalsUsed--;
    this.distancesUsed = 30;
    while (this.distancesUsed > 1 && !distanceBits[this.distancesUsed - 1]) this.distancesUsed--;
    both.set(literalBits.subarray(0, this.literalsUsed));
    both.set(distanceBits.subarray(0, this.distancesUsed), this.literalsUsed);
    this.written = runsOf(both.subarray(0, this.literalsUsed + this.distancesUsed), runs);
    runCounts.fill(0);
    for (let i = 0; i < this.written; i++) (runCounts[(runs[i] as number) & 31] as number)++;
    twoAtLeast(runBits, codeLengths(runCounts, 7, runBits));
    codesOf(runBits, this.runCodes);
    this.lengthsUsed = 19;
    while (this.lengthsUsed > 4 && !runBits[ORDER[this.lengthsUsed - 1] as number]) this.lengthsUsed--;
  }

  /** The head of a block, with the codes. */
  write(last: boolean): void {
    const { runs, written, runBits, runCodes, lengthsUsed } = this;
    out.put((last ? 1 : 0) | (2 << 1), 3);
    out.put(this.literalsUsed - 257, 5);
    out.put(this.distancesUsed - 1, 5);
    out.put(lengthsUsed - 4, 4);
    for (let i = 0; i < lengthsUsed; i++) out.put(runBits[ORDER[i] as number] as number, 3);
    for (let i = 0; i < written; i++) {
      const symbol = (runs[i] as number) & 31;
      out.put(runCodes[symbol] as number, runBits[symbol] as number);
      if (symbol > 15) out.put((runs[i] as number) >> 5, RUN_EXTRA[symbol - 16] as number);
    }
  }
}

/** One block with codes of its own, or with those of an earlier one (RFC 1951, 3.2.7). */
function writeBlock(count: number, last: boolean, codes: Codes): void {
  literals[256] = 1;
  codes.fit(count + 1);
  // at most 15 + 5 bits for a length and 15 + 13 for a distance
  out.room(count * 6 + 1024);
  codes.write(last);
  const { literalBits, literalCodes, distanceBits, distanceCodes } = codes;
  for (let i = 0; i < count; i++) {
    const symbol = symbols[i] as number;
    const distance = symbol >>> 9;
    const value = symbol & 511;
    if (distance === 0) {
      out.put(literalCodes[value] as number, literalBits[value] as number);
      continue;
    }
    const l = lengthCode[value] as number;
    const bits = literalBits[257 + l] as number;
    out.put((literalCodes[257 + l] as number) | ((value - (LENGTH_BASE[l] as number)) << bits), bits + (LENGTH_EXTRA[l] as number));
    const d = distanceCode(distance);
    out.put(distanceCodes[d] as number, distanceBits[d] as number);
    out.put(distance - (DISTANCE_BASE[d] as number), DISTANCE_EXTRA[d] as number);
  }
  out.put(literalCodes[256] as number, literalBits[256] as number);
  literals.fill(0);
  distances.fill(0);
}

/** How long the bytes at two places are the same, 258 at most. */
function sameFrom(data: Uint8Array, a: number, b: number): number {
  const most = Math.min(LONGEST, data.length - b);
  let n = 0;
  while (n < most && data[a + n] === data[b + n]) n++;
  return n;
}

/** Notes that four bytes stand at a place. @returns the last place before where they may stand too */
function note(data: Uint8Array, i: number): number {
  const four = (data[i] as number) | ((data[i + 1] as number) << 8) | ((data[i + 2] as number) << 16) | ((data[i + 3] as number) << 24);
  const hash = Math.imul(four, MIX) >>> (32 - HASH_BITS);
  const last = head[hash] as number;
  before[i & (WINDOW - 1)] = last;
  head[hash] = i;
  return last;
}

/** The longest match of what stands at `i` that is longer than `better`, as its symbol: distance and length; 0 where there is none. */
function longestMatch(data: Uint8Array, i: number, last: number, better: number): number {
  const first = Math.max(0, i - WINDOW + 1);
  let best = Math.max(better, SHORTEST - 1);
  let symbol = 0;
  for (let j = last, n = CHAIN; n > 0 && j >= first; n--, j = before[j & (WINDOW - 1)] as number) {
    if (data[j + best] !== data[i + best]) continue;
    const length = sameFrom(data, j, i);
    if (length <= best) continue;
    best = length;
    symbol = ((i - j) << 9) | length;
    if (length >= GOOD) break;
  }
  return symbol;
}

/**
 * Packed bytes of a file, as a raw DEFLATE stream (no header, no checksum).
 * @param data any bytes, none as well
 * @param codes those of the files before it in the same archive
 */
export function deflate(data: Uint8Array, codes: Codes = new Codes()): Uint8Array {
  head.fill(NOWHERE);
  // behind these there are no four bytes to find again
  const searched = data.length - SHORTEST + 1;
  let count = 0;
  let i = 0;
  while (i < data.length) {
    let symbol = i < searched ? longestMatch(data, i, note(data, i), 0) : 0;
    let noted = i + 1;
    // a longer match one byte on is worth a byte
    while (symbol && (symbol & 511) < GOOD && noted < searched) {
      const longer = longestMatch(data, noted, note(data, noted), symbol & 511);
      noted++;
      if (!longer) break;
      const byte = data[i++] as number;
      (literals[byte] as number)++;
      symbols[count++] = byte;
      symbol = longer;
    }
    if (symbol) {
      (literals[257 + (lengthCode[symbol & 511] as number)] as number)++;
      (distances[distanceCode(symbol >>> 9)] as number)++;
      symbols[count++] = symbol;
      i += symbol & 511;
      if ((symbol & 511) < LONG) for (; noted < i && noted < searched; noted++) note(data, noted);
    } else {
      const byte = data[i++] as number;
      (literals[byte] as number)++;
      symbols[count++] = byte;
    }
    // one turn may give as many symbols as a match is long that grows byte by byte
    if (count > BLOCK - LONGEST) {
      writeBlock(count, false, codes);
      count = 0;
    }
  }
  writeBlock(count, true, codes);
  return out.take();
}

const crcTable = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let bit = 0; bit < 8; bit++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
  return c;
});
/** The CRC-32 of bytes as zip, gzip and PNG have it (RFC 1952, 8). */
export function crc32(data: Uint8Array): number {
  let c = 0xffffffff;
  for (let i = 0; i < data.length; i++) c = (crcTable[(c ^ (data[i] as number)) & 255] as number) ^ (c >>> 8);
  return ~c >>> 0;
}
