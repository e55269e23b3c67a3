import type { Response as Answer } from '@zakuska/core';

/** Whether a response says anything. */
export function answered(r: Answer | undefined): boolean {
  if (!r) return false;
  if ('text' in r) return r.text.trim() !== '';
  if ('options' in r) return r.options.length > 0;
  if ('gaps' in r) return Object.values(r.gaps).some((g) => g.trim());
  if ('pairs' in r) return r.pairs.some(Boolean);
  return true;
}
