/** Versions of a set: the blueprint, what is asked of a draw, and what was drawn. All of it is kept with the set. */
import { z } from 'zod';
import { bloomLevels, kindNames } from './model.js';

/** The schema of a row: what its items have, all of it at once, and how many items or points of them a version holds. */
export const blueprintRow = z.object({
  outcome: z.string().min(1).max(300).optional(),
  tag: z.string().min(1).max(300).optional(),
  kind: z.enum(kindNames).optional(),
  bloom: z.enum(bloomLevels).optional(),
  /** Bounds of the difficulty, 0 to 1, included. */
  difficulty: z.object({ from: z.number().min(0).max(1), to: z.number().min(0).max(1) }).optional(),
  /** Title or id of a part. */
  part: z.string().min(1).max(300).optional(),
  count: z.number().int().min(0).max(1000).optional(),
  points: z.number().min(0).max(100_000).optional(),
});
/** A row of a blueprint. */
export type BlueprintRow = z.infer<typeof blueprintRow>;

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
  /** Groups of ids of items of which a version holds one at most. */
  apart: z.array(z.array(z.string()).min(2).max(100)).max(1000).default([]),
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
