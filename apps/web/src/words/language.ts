/** Which language a person has the workbench in: what was chosen in this browser, else what the browser asks for. */
import { type Language, languageOf } from './say.js';

const KEPT = 'zakuska language';

export const chosenLanguage = (): Language => languageOf([localStorage.getItem(KEPT), ...navigator.languages]);
/** Keeps the choice and starts the page anew: tables of texts are made once, when it is loaded. */
export function chooseLanguage(language: Language): void {
  localStorage.setItem(KEPT, language);
  location.reload();
}
