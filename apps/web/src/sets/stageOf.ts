import { counted } from '@zakuska/core';
import type { SetSummary } from '../api/client.js';

/** Where a set stands, in the words of the stage line. */
export function stageOf(s: SetSummary): { path: string; name: string; detail: string } {
  if (s.responses) return { path: 'results', name: 'Results', detail: counted(s.responses, 'response') };
  if (s.deliveries || s.receipts) return { path: 'deliver', name: 'Deliver', detail: s.deliveries ? 'quiz published' : 'pushed' };
  if (!s.items) return { path: 'draft', name: 'Draft', detail: s.draftLength ? 'nothing taken yet' : 'empty' };
  if (s.checked + s.leftOut < s.items) return { path: 'check', name: 'Check', detail: `${s.checked} of ${s.items} checked` };
  return { path: 'arrange', name: 'Arrange', detail: 'all checked' };
}
