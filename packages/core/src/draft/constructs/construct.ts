import type { Line } from '../lines.js';
import type { Outliner } from '../outline.js';

/** One way in which people write: knows its lines, and tells the outline what they are. */
export interface Construct {
  /** What it reads, in a few words. */
  name: string;
  /** Reads a line, or leaves it (false) to the constructs behind it in the table. */
  read(o: Outliner, line: Line): boolean;
}
