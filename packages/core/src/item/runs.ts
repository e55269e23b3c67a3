/** How often properties are tried. Development only. */
declare const process: { env: Record<string, string | undefined> };

/** So many random runs, times ZAKUSKA_TIMES: few by default so that all tests take minutes, many by command (`ZAKUSKA_TIMES=20 npm run unit -- …`). */
export const runs = (usual: number): number => Math.max(1, Math.round(usual * Number(process.env['ZAKUSKA_TIMES'] ?? 1)));

/** What is tried of a list: all of it by default and by command, a share at random, one at least, where all tests run together; over many runs they see all. */
export function sampled<T>(all: readonly T[], share: number): readonly T[] {
  if (Number(process.env['ZAKUSKA_TIMES'] ?? 1) >= 1) return all;
  const some = all.filter(() => Math.random() < share);
  const at = Math.floor(Math.random() * all.length);
  return some.length ? some : all.slice(at, at + 1);
}
