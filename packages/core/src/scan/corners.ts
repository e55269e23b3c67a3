/** Finds the four corner marks of an answer sheet in a picture, whichever way up it lies. */
import { SHEET } from '../formats/paper/sheet.js';
import { type Blob, blobsOf, type Grey, greyAt, inkOf, type Point, shrunk } from './picture.js';
import { enlarged, projected, type Projection, projectionOf, toward } from './projection.js';

/** A picture is looked at about as large as this, in pixels along its longer side: a mark is still some twenty wide. */
const LOOK = 1100;
/** Sides of the squares that ink is told from paper by, as shares of the longer side: a sheet may fill the picture or half of it. */
const WINDOWS = [1 / 12, 1 / 28];
const INK_SHARE = 0.72;
/** So many candidates are tried, the squarest. */
const MOST_SOLID = 36;
const MOST_RINGS = 16;

/** What may be a corner mark: its centre, and the area that its outline holds. */
interface Mark extends Point {
  area: number;
  /** How far from a square its pixels lie: 0 for one. */
  off: number;
}

/** Of a square, however slanted, the root of the determinant of its second moments is a twelfth of its area; of a disc it is 1 / 4π of it. */
const squareness = (b: Blob, times = 1): number => Math.abs(Math.log((b.spread * 12) / (b.area * times)));
/** The same of a square ring, of the outer side R and the hole h: (R⁴ − h⁴) / (R² − h²)², by which it is more. */
const hole = SHEET.cornerSize - 2 * SHEET.ring;
const RING = (SHEET.cornerSize ** 2 + hole ** 2) / (SHEET.cornerSize ** 2 - hole ** 2);
/** The hole's share of the area within the outline. */
const HOLE = hole ** 2 / SHEET.cornerSize ** 2;

const squarest = (list: Mark[], n: number): Mark[] => list.sort((a, b) => a.off - b.off).slice(0, n);

function marksIn(g: Grey): { solid: Mark[]; rings: Mark[] } {
  const solid: Mark[] = [];
  const rings: Mark[] = [];
  const add = (list: Mark[], m: Mark): void => {
    const twin = list.findIndex((o) => Math.hypot(o.x - m.x, o.y - m.y) < Math.sqrt(m.area) / 3);
    if (twin < 0) list.push(m);
    else if (m.off < (list[twin]?.off ?? 0)) list[twin] = m;
  };
  const long = Math.max(g.width, g.height);
  for (const w of WINDOWS) {
    const ink = inkOf(g, Math.round(long * w), INK_SHARE);
    const blobs = blobsOf(ink, g.width, g.height).filter((b) => b.area > 12 && b.stretch < 1.8 && b.right - b.left < long / 10);
    const holes = blobs.filter((b) => !b.ink);
    for (const b of blobs) {
      if (!b.ink || b.area < 40) continue;
      const off = squareness(b);
      if (off < 0.09) add(solid, { x: b.x, y: b.y, area: b.area, off });
      if (squareness(b, RING) > 0.35) continue;
      for (const h of holes) {
        if (h.left <= b.left || h.right >= b.right || h.top <= b.top || h.bottom >= b.bottom) continue;
        const area = b.area + h.area;
        if (Math.hypot(h.x - b.x, h.y - b.y) > Math.sqrt(area) / 8 || squareness(h) > 0.2) continue;
        const share = Math.abs(Math.log(h.area / area / HOLE));
        if (share < 0.55) add(rings, { x: b.x, y: b.y, area, off: share });
      }
    }
  }
  return { solid, rings: squarest(rings, MOST_RINGS) };
}

/** The area that a square millimetre of the page takes in the picture, at a place. */
function scaleAt(m: Projection, at: Point): number {
  const [o, a, b] = [at, { x: at.x + 1, y: at.y }, { x: at.x, y: at.y + 1 }].map((p) => projected(m, p)) as [Point, Point, Point];
  return (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x);
}

const [upperLeft, upperRight, lowerLeft, lowerRight] = SHEET.corners;
const CORNERS = [upperLeft, upperRight, lowerLeft, lowerRight];
/** How far a mark may be from the size that the map gives it, as a logarithm of areas. */
const SIZE_OFF = 0.8;
/** So many ways in which marks may belong together are looked at closely. */
const MOST_WAYS = 40;
/** Marks and the paper around them differ by this share of the paper at least. */
const CONTRAST = 0.25;

/** Points of the outline of a square around the middle. */
const outline = (half: number): Point[] =>
  [-1, -0.5, 0, 0.5, 1].flatMap((k) => [
    { x: k * half, y: -half },
    { x: k * half, y: half },
    { x: -half, y: k * half },
    { x: half, y: k * half },
  ]);
const PAPER_AROUND = outline(SHEET.cornerSize / 2 + 1);
const INK_OF_RING = outline((SHEET.cornerSize - SHEET.ring) / 2);
/** Where a disc has none. */
const INK_OF_SQUARE = [-2.6, 2.6].flatMap((x) => [-2.6, 2.6].map((y) => ({ x, y })));
const PAPER_IN_RING = outline(0.8);

/** How well the marks look like what they should be, under a map: the least of the four. */
function looksLike(g: Grey, map: Projection): number {
  const seen = toward(map);
  const mean = (c: Point, points: readonly Point[]): number => {
    let sum = 0;
    for (const p of points) {
      const { x, y } = seen(c.x + p.x, c.y + p.y);
      // what lies outside of the picture is no paper
      if (x < 0 || y < 0 || x >= g.width || y >= g.height) return 0;
      sum += greyAt(g, x, y);
    }
    return sum / points.length;
  };
  const contrasts = CORNERS.map((c, i) => {
    const paper = mean(c, PAPER_AROUND);
    const ring = i === 3;
    const inside = ring ? mean(c, PAPER_IN_RING) : paper;
    const ink = mean(c, ring ? INK_OF_RING : INK_OF_SQUARE);
    return (Math.min(paper, inside) - ink) / Math.max(paper, 1);
  });
  return Math.min(...contrasts);
}

/**
 * How a sheet lies in a picture.
 * @returns the map from the page, in millimetres, to the picture, in pixels; null where there are no four marks that belong together
 */
export function findCorners(picture: Grey): Projection | null {
  const times = Math.max(1, Math.round(Math.max(picture.width, picture.height) / LOOK));
  const g = shrunk(picture, times);
  const { solid, rings } = marksIn(g);
  const ways: { off: number; map: Projection }[] = [];
  for (const lr of rings) {
    const size = Math.sqrt(lr.area);
    const mm = size / SHEET.cornerSize;
    const near = squarest(
      solid.filter((s) => Math.abs(Math.log(s.area / lr.area)) < 1.6),
      MOST_SOLID,
    );
    /** Whether two marks are as far from one another as on the page, seen from where the camera may stand. */
    const apart = (a: Point, b: Point, length: number): boolean => {
      const d = Math.hypot(a.x - b.x, a.y - b.y) / (length * mm);
      return d > 0.5 && d < 2;
    };
    const wide = upperRight.x - upperLeft.x;
    const high = lowerLeft.y - upperLeft.y;
    for (const ur of near) {
      if (!apart(ur, lr, high)) continue;
      for (const ll of near) {
        if (ll === ur || !apart(ll, lr, wide)) continue;
        // not seen from behind
        if ((ur.x - lr.x) * (ll.y - lr.y) - (ur.y - lr.y) * (ll.x - lr.x) > 0) continue;
        for (const ul of near) {
          if (ul === ur || ul === ll || !apart(ul, ur, wide) || !apart(ul, ll, high)) continue;
          const marks = [ul, ur, ll, lr];
          const map = projectionOf(CORNERS, marks);
          if (!map) continue;
          let off = 0;
          marks.forEach((m, i) => {
            const area = scaleAt(map, CORNERS[i] as Point) * SHEET.cornerSize ** 2;
            off = area > 0 ? Math.max(off, Math.abs(Math.log(m.area / area))) : Infinity;
          });
          off += marks.reduce((sum, m) => sum + m.off, 0) / 4;
          if (off < SIZE_OFF) ways.push({ off, map });
        }
      }
    }
  }
  let best: { clear: number; map: Projection } | null = null;
  for (const { map } of ways.sort((a, b) => a.off - b.off).slice(0, MOST_WAYS)) {
    const clear = looksLike(g, map);
    if (clear > CONTRAST && (!best || clear > best.clear)) best = { clear, map };
  }
  // from the smaller picture to the one that was given
  return best && enlarged(best.map, times);
}
