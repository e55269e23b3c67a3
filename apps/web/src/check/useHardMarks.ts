import { hardWords, sentencesOf } from '@zakuska/core';
import { type RefObject, useEffect } from 'react';

/** Marks hard words and long sentences inside a part of the page, without changing it (CSS Custom Highlight API). */
export function useHardMarks(
  root: RefObject<HTMLElement | null>,
  on: boolean,
  language: string | undefined,
  sentenceWords: number,
  drawn: string,
  changes: unknown,
): void {
  useEffect(() => {
    if (!on || !root.current || typeof CSS === 'undefined' || !('highlights' in CSS)) return;
    const words: Range[] = [];
    const sentences: Range[] = [];
    for (const block of root.current.querySelectorAll<HTMLElement>('[dir=auto]')) {
      if (block.closest('[contenteditable], textarea, input') || block.querySelector('[dir=auto]')) continue;
      // one text with the place of each node in it
      const nodes: { node: Text; from: number }[] = [];
      let text = '';
      const walk = document.createTreeWalker(block, NodeFilter.SHOW_TEXT);
      for (let n = walk.nextNode(); n; n = walk.nextNode()) {
        nodes.push({ node: n as Text, from: text.length });
        text += n.nodeValue ?? '';
      }
      const range = (from: number, to: number): Range => {
        const at = (place: number): [Text, number] => {
          const found = nodes.findLast((x) => x.from <= place) ?? nodes[0];
          return found ? [found.node, Math.min(place - found.from, found.node.length)] : [document.createTextNode(''), 0];
        };
        const r = document.createRange();
        r.setStart(...at(from));
        r.setEnd(...at(to));
        return r;
      };
      for (const w of hardWords(text, language)) words.push(range(w.from, w.to));
      for (const s of sentencesOf(text)) if (s.words > sentenceWords) sentences.push(range(s.from, s.to));
    }
    CSS.highlights.set('hard-word', new Highlight(...words));
    CSS.highlights.set('long-sentence', new Highlight(...sentences));
    return () => {
      CSS.highlights.delete('hard-word');
      CSS.highlights.delete('long-sentence');
    };
  }, [root, on, language, sentenceWords, drawn, changes]);
}
