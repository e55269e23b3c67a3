/** An item that cannot mark itself. */
import { keyProblem } from '../../item/kinds.js';
import type { Rule } from '../finding.js';

export const keyMissing: Rule = {
  code: 'key-missing',
  name: 'No complete key',
  why: 'An item without a key cannot mark itself.',
  source: 'The item model',
  examples: { found: ['1. What is rye?\na) grain\nb) fish'], fine: ['1. What is rye?\na) grain *\nb) fish', '1. Tell of rye.\nKind: essay'] },
  ofItem(item) {
    const none = keyProblem(item);
    return none ? [{ severity: 'error', place: 'key', message: `The item has ${none.message}.` }] : [];
  },
};
