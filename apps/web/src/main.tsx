/** Starts the workbench: the theme, the words of its language, then what is drawn with them. */
import { showTheme } from './frame/theme.js';
import { chosenLanguage } from './words/language.js';
import { language, speak } from './words/say.js';

showTheme();
// without the words of a language (no connection) it starts in English
await speak(chosenLanguage()).catch(() => undefined);
const { start } = await import('./App.js');
document.documentElement.lang = language();
start(document.getElementById('root') as HTMLElement);
