/** Reads a part of the page aloud with the voices of the browser, in its language; what is read is marked. */

type WordsOfMath = typeof import('./mathWords.js').wordsOfMath;

/**
 * What is said of an element: its words, its pictures by what they show, its formulas in words.
 * @param formula says a formula; without it the voice gets its signs
 */
export function spoken(element: Element, formula?: (math: Element) => string): string {
  const copy = element.cloneNode(true) as Element;
  for (const img of copy.querySelectorAll('img')) img.replaceWith(` ${img.alt} `);
  if (formula) for (const math of copy.querySelectorAll('math')) math.replaceWith(` ${formula(math)} `);
  // what draws a formula keeps its source beside it: that is nothing to say
  for (const source of copy.querySelectorAll('annotation')) source.remove();
  for (const b of copy.querySelectorAll('br, p, li, tr')) b.append(' ');
  return (copy.textContent ?? '').replace(/\s+/g, ' ').trim();
}

/**
 * Reads all that is to be said inside an element, one after the other.
 * @param rate times the usual speed
 * @param ended called once: at the end, after `stop`, or where a voice fails
 * @returns stops it
 */
export function readAloud(root: Element, language: string | undefined, rate: number, ended: () => void): () => void {
  const parts = [...root.querySelectorAll('[data-say]')].filter((e) => spoken(e));
  let over = false;
  let now: Element | undefined;
  const end = (): void => {
    if (over) return;
    over = true;
    now?.classList.remove('said-now');
    speechSynthesis.cancel();
    ended();
  };
  let ofMath: WordsOfMath | undefined;
  const next = (at: number): void => {
    now?.classList.remove('said-now');
    now = parts[at];
    if (over || !now) return end();
    const own = now.closest<HTMLElement>('[lang]')?.lang || language;
    const u = new SpeechSynthesisUtterance(spoken(now, ofMath && ((math) => ofMath?.(math, own) ?? '')));
    if (own) u.lang = own;
    u.rate = rate;
    u.onend = () => next(at + 1);
    u.onerror = end;
    now.classList.add('said-now');
    now.scrollIntoView({ block: 'nearest' });
    speechSynthesis.speak(u);
  };
  speechSynthesis.cancel();
  if (root.querySelector('math'))
    // the words for formulas are fetched when some are to be said; without them (no connection) the voice says the signs
    void import('./mathWords.js')
      .then(
        (m) => void (ofMath = m.wordsOfMath),
        () => undefined,
      )
      .then(() => next(0));
  else next(0);
  return end;
}
