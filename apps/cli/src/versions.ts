/** `zakuska versions`: versions drawn from sets by a blueprint, said in words, as JSON, or written as set files. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  againstPlan,
  type BlueprintRow,
  type Drawn,
  draw,
  type DrawFigures,
  drawPlan,
  figuresOf,
  loadSolver,
  type PoolItem,
  poolOf,
  type QuizSet,
  ReadError,
  stableId,
  versionName,
  versionSet,
  withoutKey,
  writeSetFile,
} from '@zakuska/core';

/** What is asked on the command line. */
export interface VersionsAsked {
  versions: number;
  /** One number for all, or one for each version; without any, what the blueprint asks for. */
  items: readonly number[];
  seed: number;
  rows: readonly BlueprintRow[];
  overlap?: 'none' | 'little' | 'any';
}

/** Items of files that keep no ids get such as depend on their text alone: the same draft gives the same versions. */
export function withStableIds(set: QuizSet): QuizSet {
  const seen = new Map<string, number>();
  return {
    ...set,
    items: set.items.map((item) => {
      const { id: _, source: __, ...rest } = item;
      const text = JSON.stringify(rest, (k, v: unknown) => (k === 'id' ? undefined : v));
      const n = (seen.get(text) ?? 0) + 1;
      seen.set(text, n);
      return { ...item, id: stableId(`${text} ${n}`) };
    }),
  };
}

/**
 * Draws from the pool of the sets.
 * @throws ReadError where nothing can be drawn
 */
export async function drawVersions(
  sets: readonly QuizSet[],
  asked: VersionsAsked,
): Promise<{ pool: PoolItem[]; drawn: Drawn; figures: DrawFigures; notes: string[] }> {
  const pool = poolOf(sets);
  if (!pool.length) throw new ReadError('the pool holds no items');
  const byRows = asked.rows.reduce((n, r) => n + (r.count ?? 0), 0);
  const sizes = asked.items.length ? asked.items : byRows ? [byRows] : [];
  if (!sizes.length) throw new ReadError('how many items should a version hold? Say --items N, or give a blueprint');
  const plan = drawPlan.parse({
    versions: Array.from({ length: asked.versions }, (_, i) => ({ name: versionName(i), count: sizes[Math.min(i, sizes.length - 1)] })),
    rows: [...asked.rows],
    seed: asked.seed,
    ...(asked.overlap && { overlap: asked.overlap }),
  });
  const against = againstPlan(pool, plan).map((u) => u.message);
  const bare = withoutKey(pool).length;
  const drawn = draw(pool, plan, { highs: await loadSolver() });
  const notes = [...against, ...(bare ? [`${bare} of the pool's items have no key; they are drawn last.`] : [])];
  return { pool, drawn, figures: figuresOf(pool, drawn), notes };
}

/** What is printed for `--json`. */
export const versionsJson = (drawn: Drawn, figures: DrawFigures): unknown => ({
  seed: drawn.plan.seed,
  versions: figures.versions.map((v, i) => ({ name: v.name, items: drawn.versions[i]?.items ?? [], points: v.points, difficulty: v.difficulty })),
  overlap: figures.overlap,
  unmet: figures.unmet,
  ...(drawn.gap !== undefined && { gap: drawn.gap }),
});

/** What is printed without `--json`. */
export function versionsReport(drawn: Drawn, figures: DrawFigures): string {
  const lines = figures.versions.map(
    (v) =>
      `  ${v.name}  ${v.questions} items, ${v.points} points${v.difficulty === null ? '' : `, difficulty ${v.difficulty}`}${v.rows.length ? `, rows ${v.rows.join(' ')}` : ''}`,
  );
  const shared = figures.overlap.flatMap((row, i) =>
    row.flatMap((n, j) => (j > i && n > 0 ? [`  ${figures.versions[i]?.name ?? ''} and ${figures.versions[j]?.name ?? ''} have ${n} in common`] : [])),
  );
  const near = drawn.gap === undefined ? '' : drawn.gap === 0 ? ', as good as can be' : `, within ${Math.ceil(drawn.gap * 1000) / 10} % of the best`;
  return [`${figures.versions.length} versions, seed ${drawn.plan.seed}${near}`, ...lines, ...shared, ...figures.unmet.map((u) => `  ${u.message}`)].join('\n');
}

/** Writes each version as a set file and gives their paths. */
export async function writeVersions(dir: string, title: string, pool: readonly PoolItem[], drawn: Drawn): Promise<string[]> {
  await mkdir(dir, { recursive: true });
  return Promise.all(
    drawn.versions.map(async ({ name }, v) => {
      const path = join(dir, `version-${name}.zak.json`);
      await writeFile(path, writeSetFile(versionSet(pool, drawn, v, `${title}, version ${name}`)));
      return path;
    }),
  );
}
