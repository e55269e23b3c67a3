import type { SetSummary } from '../api/client.js';
import { say } from '../words/say.js';

/** Where a set stands, in the words of the stage line. */
export function stageOf(s: SetSummary): { path: string; name: string; detail: string } {
  if (s.responses)
    return { path: 'results', name: say('Results'), detail: say('{responses, plural, one {# response} other {# responses}}', { responses: s.responses }) };
  if (s.deliveries || s.receipts) return { path: 'deliver', name: say('Deliver'), detail: s.deliveries ? say('quiz published') : say('pushed') };
  if (!s.items) return { path: 'draft', name: say('Draft'), detail: s.draftLength ? say('nothing taken yet') : say('empty') };
  if (s.checked + s.leftOut < s.items)
    return { path: 'check', name: say('Check'), detail: say('{checked} of {items} checked', { checked: s.checked, items: s.items }) };
  return { path: 'arrange', name: say('Arrange'), detail: say('all checked') };
}
