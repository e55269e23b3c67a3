/** The mark in front of a text that says how it is written: `[html]`, `[plain]` (GIFT format description, from memory). */
export const FORMAT_MARK = /^\[(html|plain|markdown|mo+dle)\]/i;
