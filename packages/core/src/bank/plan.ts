/** What is asked of a draw, and what was drawn: both are kept with the set. */
import { z } from 'zod';
import { blueprintRow } from './blueprint.js';

const weight = z.number().min(0).max(10).default(1);
/** The schema of what is asked of a draw. */
export const drawPlan = z.object({
  /** The versions by name, with how many items each holds. */
  versions: z
    .array(z.object({ name: z.string().trim().min(1).max(60), count: z.number().int().min(1).max(1000) }))
    .min(1)
    .max(40),
  rows: z.array(blueprintRow).max(200).default([]),
  seed: z.number().int().min(0).max(4_294_967_295).default(1),
  /** `none`: rather an item too few than one twice. `little`: as few as can be. `any`: does not matter. */
  overlap: z.enum(['none', 'little', 'any']).default('little'),
  /** Ids of items that stand in every version. */
  pinned: z.array(z.string()).max(1000).default([]),
  /** Pairs of ids of items that never stand in one version. */
  apart: z
    .array(z.tuple([z.string(), z.string()]))
    .max(1000)
    .default([]),
  /** How much the soft aims count against each other. */
  weights: z.object({ difficulty: weight, points: weight, use: weight }).default({ difficulty: 1, points: 1, use: 1 }),
  /** Whether items and options come in another order in each version. */
  shuffle: z.object({ items: z.boolean().default(true), options: z.boolean().default(true) }).default({ items: true, options: true }),
});
/** What is asked of a draw. */
export type DrawPlan = z.infer<typeof drawPlan>;
/** What is asked of a draw, with what has a usual value left out. */
export type DrawAsked = z.input<typeof drawPlan>;

/** The schema of what was drawn: the plan, and the items of each version in their order. */
export const drawn = z.object({
  plan: drawPlan,
  versions: z.array(z.object({ name: z.string(), items: z.array(z.string()) })),
  /** How near to the best it is: proved, or how far the bound is away as a share; undefined where nothing tells. */
  gap: z.number().min(0).optional(),
});
/** What was drawn. */
export type Drawn = z.infer<typeof drawn>;

/** Names of versions: A, B, … Z, AA. */
export const versionName = (i: number): string => (i < 26 ? String.fromCharCode(65 + i) : versionName(Math.floor(i / 26) - 1) + versionName(i % 26));
