/** HiGHS, fetched when a draw needs it. */
import type * as HighsModule from 'highs';

/** The solver: HiGHS as WebAssembly. */
export type Solver = HighsModule.Highs;

type Load = (options?: { locateFile?: (file: string) => string }) => Promise<Solver>;

/**
 * Fetches the solver.
 * @param wasm where the WebAssembly file lies, for browsers; beside the package where nothing is said
 */
export async function loadSolver(wasm?: string): Promise<Solver> {
  // the package's types are those of CommonJS, what is loaded is its ES module
  const { default: load } = (await import('highs')) as unknown as { default: Load };
  return load(wasm === undefined ? {} : { locateFile: () => wasm });
}
