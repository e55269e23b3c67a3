/** Taking the items that were read over to Check. */
import type { Item, QuizSet } from '@zakuska/core';
import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useOpenSet } from '../set/context.js';
import { say } from '../words/say.js';
import type { Reading } from './useReading.js';

export interface Taking {
  /** Takes them at once into an empty set; else `fresh` asks how they go with those that are there. */
  take: () => void;
  /** The same as soon as all that was typed has been read. */
  takeWhenRead: () => void;
  fresh: { items: Item[]; sections: QuizSet['sections'] } | null;
  end: () => void;
}

/** @param read the reading of all that was typed; null while there is none */
export function useTaking(read: Reading | null): Taking {
  const { session, draft, document: doc, view } = useOpenSet();
  const navigate = useNavigate();
  const [fresh, setFresh] = useState<Taking['fresh']>(null);
  const { items: taken } = doc.set;
  const take = useCallback(() => {
    if (read?.text !== draft.get().text) return;
    const { items, sections } = read.set;
    if (taken.length) return setFresh({ items, sections });
    session.perform({
      type: 'all',
      label: say('Take the items'),
      operations: [{ type: 'insert', at: 0, items }, ...(sections ? [{ type: 'describe' as const, set: { sections } }] : [])],
    });
    void navigate(`/sets/${view.id}/check`);
  }, [read, draft, taken.length, session, navigate, view.id]);
  // asked for while the last letters were still being read: done when they are
  const [asked, setAsked] = useState(false);
  useEffect(() => {
    if (!asked || !read) return;
    setAsked(false);
    if (read.set.items.length) take();
    else toast(say('No question was found in the draft yet.'));
  }, [asked, read, take]);
  return { take, takeWhenRead: () => setAsked(true), fresh, end: () => setFresh(null) };
}
