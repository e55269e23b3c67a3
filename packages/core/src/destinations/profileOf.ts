/** What each destination holds. */
import { coreFormats } from '../formats/index.js';
import { importProfile, printedProfile } from '../formats/paper/profile.js';
import { serviceOf } from '../services/index.js';
import type { Destination } from './destinations.js';
import { allHeld, everything, holding, type Profile } from '../fit/profile.js';

/** The quiz by link: all that a learner needs to answer, hints where it is practice; its clock is of the whole and not of an item. */
export const ownQuizProfile: Profile = { ...everything, keyless: false, holds: holding(allHeld.filter((f) => f !== 'timeLimit')) };

/** Forms that libraries of their own write. */
const apart = (form: string): Profile | undefined =>
  form.startsWith('docx-import') ? importProfile : /^(?:docx-|pdf-|pptx$)/.test(form) ? printedProfile : undefined;

// Spreadsheets have the layouts of the CSV files, and hold the same.
/** What a destination holds; `formatId` says in which of its forms, the usual one where it is not given. */
export const profileOf = (d: Destination, formatId = d.forms[0]?.format): Profile =>
  (d.id === 'own' ? ownQuizProfile : serviceOf(d.id)?.profile) ??
  apart(formatId ?? '') ??
  coreFormats.byId((formatId ?? '').replace(/^xlsx/, 'csv'))?.profile ??
  everything;
