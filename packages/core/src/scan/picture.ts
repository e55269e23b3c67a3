/** Pictures in grey: made of what a camera gives, made smaller, looked at between their pixels. */

/** Rows of grey from 0 (black) to 255 (white). */
export interface Grey {
  width: number;
  height: number;
  data: Uint8Array;
}
/** A place: of a picture in pixels, of a page in millimetres. */
export interface Point {
  x: number;
  y: number;
}

/**
 * What a canvas holds, as grey.
 * @param rgba four bytes a pixel: red, green, blue and how much of the pixel covers what is below, which is taken as white
 */
export function greyOf(width: number, height: number, rgba: Uint8ClampedArray | Uint8Array): Grey {
  const data = new Uint8Array(width * height);
  for (let i = 0, p = 0; i < data.length; i++, p += 4) {
    // luma of ITU-R BT.601, in 1/256
    const luma = ((rgba[p] as number) * 77 + (rgba[p + 1] as number) * 150 + (rgba[p + 2] as number) * 29) >> 8;
    const alpha = rgba[p + 3] as number;
    data[i] = alpha === 255 ? luma : 255 - (((255 - luma) * alpha) >> 8);
  }
  return { width, height, data };
}

/** Grey as a canvas holds it: four bytes a pixel. */
export function rgbaOf({ data }: Grey): Uint8ClampedArray<ArrayBuffer> {
  const rgba = new Uint8ClampedArray(data.length * 4).fill(255);
  for (let i = 0; i < data.length; i++) rgba.fill(data[i] as number, i * 4, i * 4 + 3);
  return rgba;
}

/** A picture made so many times smaller (a whole number), each pixel the mean of those that it stands for. */
export function shrunk(g: Grey, times: number): Grey {
  if (times <= 1) return g;
  const width = Math.floor(g.width / times);
  const height = Math.floor(g.height / times);
  const data = new Uint8Array(width * height);
  const area = times * times;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = area >> 1;
      for (let r = 0; r < times; r++) {
        let at = (y * times + r) * g.width + x * times;
        for (let c = 0; c < times; c++) sum += g.data[at++] as number;
      }
      data[y * width + x] = sum / area;
    }
  return { width, height, data };
}

/** The grey at a place between pixels, whose centres are at halves; outside of the picture it is that of the edge. */
export function greyAt(g: Grey, x: number, y: number): number {
  const fx = Math.min(Math.max(x - 0.5, 0), g.width - 1.001);
  const fy = Math.min(Math.max(y - 0.5, 0), g.height - 1.001);
  const c = fx | 0;
  const r = fy | 0;
  const dx = fx - c;
  const dy = fy - r;
  const at = r * g.width + c;
  const upper = (g.data[at] as number) * (1 - dx) + (g.data[at + 1] as number) * dx;
  const lower = (g.data[at + g.width] as number) * (1 - dx) + (g.data[at + g.width + 1] as number) * dx;
  return upper * (1 - dy) + lower * dy;
}

/** A part of a picture, cut at its edges. */
export function cutOut(g: Grey, left: number, top: number, width: number, height: number): Grey {
  const x0 = Math.min(Math.max(Math.round(left), 0), g.width - 1);
  const y0 = Math.min(Math.max(Math.round(top), 0), g.height - 1);
  const w = Math.max(1, Math.min(Math.round(width), g.width - x0));
  const h = Math.max(1, Math.min(Math.round(height), g.height - y0));
  const data = new Uint8Array(w * h);
  for (let r = 0; r < h; r++) data.set(g.data.subarray((y0 + r) * g.width + x0, (y0 + r) * g.width + x0 + w), r * w);
  return { width: w, height: h, data };
}

/**
 * Which pixels are ink: clearly darker than the mean around them, so that shadows do not matter.
 * (Bradley and Roth 2007, "Adaptive thresholding using the integral image", from memory.)
 * @param window side of the square that the mean is taken over, in pixels
 * @param share  ink is at most this share of the mean
 */
export function inkOf(g: Grey, window: number, share: number): Uint8Array {
  const { width, height } = g;
  const row = width + 1;
  const sums = new Float64Array(row * (height + 1));
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = 0; x < width; x++) {
      sum += g.data[y * width + x] as number;
      sums[(y + 1) * row + x + 1] = (sums[y * row + x + 1] as number) + sum;
    }
  }
  const ink = new Uint8Array(width * height);
  const half = window >> 1;
  for (let y = 0; y < height; y++) {
    const y0 = Math.max(0, y - half);
    const y1 = Math.min(height, y + half + 1);
    for (let x = 0; x < width; x++) {
      const x0 = Math.max(0, x - half);
      const x1 = Math.min(width, x + half + 1);
      const sum = (sums[y1 * row + x1] as number) - (sums[y0 * row + x1] as number) - (sums[y1 * row + x0] as number) + (sums[y0 * row + x0] as number);
      if ((g.data[y * width + x] as number) * (x1 - x0) * (y1 - y0) < sum * share) ink[y * width + x] = 1;
    }
  }
  return ink;
}

/** Pixels of one sort that hang together. */
export interface Blob {
  ink: boolean;
  area: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
  /** Its centre of gravity, in pixels whose centres are at halves. */
  x: number;
  y: number;
  /** Root of the determinant of its second moments about the centre, in square pixels: how far it spreads. */
  spread: number;
  /** How much longer than wide, from 1. */
  stretch: number;
}

/** What hangs together: ink over edges and corners of pixels, the white between over edges only. */
export function blobsOf(ink: Uint8Array, width: number, height: number): Blob[] {
  const label = new Int32Array(width * height);
  // the lowest label that each hangs together with
  const parent = new Int32Array((width * height) / 2 + 2);
  let labels = 0;
  const find = (a: number): number => {
    let r = a;
    while (parent[r] !== r) r = parent[r] as number;
    for (let n = a; n !== r; ) {
      const next = parent[n] as number;
      parent[n] = r;
      n = next;
    }
    return r;
  };
  const join = (a: number, b: number): number => {
    if (a === b) return a;
    const x = find(a);
    const y = find(b);
    if (x < y) return (parent[y] = x);
    return (parent[x] = y);
  };
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const is = ink[i];
      let l = x && ink[i - 1] === is ? (label[i - 1] as number) : 0;
      if (y) {
        if (ink[i - width] === is) l = l ? join(l, label[i - width] as number) : (label[i - width] as number);
        if (is) {
          if (x && ink[i - width - 1]) l = l ? join(l, label[i - width - 1] as number) : (label[i - width - 1] as number);
          if (x < width - 1 && ink[i - width + 1]) l = l ? join(l, label[i - width + 1] as number) : (label[i - width + 1] as number);
        }
      }
      if (!l) {
        l = ++labels;
        parent[l] = l;
      }
      label[i] = l;
    }
  const n = labels + 1;
  const [area, sx, sy, xx, yy, xy] = Array.from({ length: 6 }, () => new Float64Array(n)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const [left, top, right, bottom] = [width, height, 0, 0].map((v) => new Int32Array(n).fill(v)) as [Int32Array, Int32Array, Int32Array, Int32Array];
  const dark = new Uint8Array(n);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const l = find(label[i] as number);
      dark[l] = ink[i] as number;
      area[l] = (area[l] as number) + 1;
      sx[l] = (sx[l] as number) + x;
      sy[l] = (sy[l] as number) + y;
      xx[l] = (xx[l] as number) + x * x;
      yy[l] = (yy[l] as number) + y * y;
      xy[l] = (xy[l] as number) + x * y;
      if (x < (left[l] as number)) left[l] = x;
      if (x > (right[l] as number)) right[l] = x;
      if (y < (top[l] as number)) top[l] = y;
      bottom[l] = y;
    }
  const out: Blob[] = [];
  for (let l = 1; l < n; l++) {
    const count = area[l] as number;
    if (!count) continue;
    const mx = (sx[l] as number) / count;
    const my = (sy[l] as number) / count;
    const vx = (xx[l] as number) / count - mx * mx;
    const vy = (yy[l] as number) / count - my * my;
    const c = (xy[l] as number) / count - mx * my;
    const mean = (vx + vy) / 2;
    const off = Math.hypot((vx - vy) / 2, c);
    out.push({
      ink: dark[l] === 1,
      area: count,
      left: left[l] as number,
      top: top[l] as number,
      right: (right[l] as number) + 1,
      bottom: (bottom[l] as number) + 1,
      x: mx + 0.5,
      y: my + 0.5,
      spread: Math.sqrt(Math.max(vx * vy - c * c, 0)),
      stretch: Math.sqrt((mean + off + 1 / 12) / Math.max(mean - off + 1 / 12, 1e-9)),
    });
  }
  return out;
}
