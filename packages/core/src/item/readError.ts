/** An input that could not be read at all. The message says in one line what it is and what to do. */
export class ReadError extends Error {
  override readonly name = 'ReadError';
}
