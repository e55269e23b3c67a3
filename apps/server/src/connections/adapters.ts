/** The table of services that sets can be delivered to. */
import type { Adapter } from './adapter.js';
import { lms } from './lms.js';

export const adapters: readonly Adapter[] = [lms];
/** The service called `id`, if there is one. */
export const adapterOf = (id: string): Adapter | undefined => adapters.find((a) => a.id === id);
