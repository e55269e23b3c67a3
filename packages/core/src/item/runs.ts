/** How often properties are tried. Development only. */
declare const process: { env: Record<string, string | undefined> };

/** So many random runs, times ZAKUSKA_TIMES: few by default so that all tests take minutes, many by command (`ZAKUSKA_TIMES=20 npm run unit -- …`). */
export const runs = (usual: number): number => Math.max(1, Math.round(usual * Number(process.env['ZAKUSKA_TIMES'] ?? 1)));
