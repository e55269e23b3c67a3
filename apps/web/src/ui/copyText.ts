/** Text into the clipboard, with what is said of it. */
import { toast } from 'sonner';
import { say } from '../words/say.js';

/**
 * Copies a text and says so, or that the browser did not allow it.
 * @param done said when it is there
 * @param instead what else leads there, said where it is not
 */
export function copyText(text: string, done: string, instead = ''): void {
  navigator.clipboard.writeText(text).then(
    () => toast.success(done),
    () => toast.error([say('The browser did not allow copying.'), instead].filter(Boolean).join(' ')),
  );
}
