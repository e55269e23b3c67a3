/** The services that sets can be delivered to. Heavy: screens use table.ts. */
import { forms } from './forms.js';
import { games } from './games.js';
import { lms } from './lms.js';
import type { Service } from './service.js';

/** All of them. */
export const services: readonly Service[] = [forms, games, lms];
/** The service called `id`, if there is one. */
export const serviceOf = (id: string): Service | undefined => services.find((s) => s.id === id);
