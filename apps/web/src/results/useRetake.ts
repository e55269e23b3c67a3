/** A retake: items of the set as a set of their own. */
import { copiesFor, type Item, type QuizSet } from '@zakuska/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { makeSet } from '../api/makeSet.js';
import { useOpenSet } from '../set/context.js';
import { useWorkspace } from '../signin/workspace.js';
import { say } from '../words/say.js';

/** Makes a set of some items and goes to where they are put in order. */
export function useRetake(set: QuizSet) {
  const { view } = useOpenSet();
  const workspace = useWorkspace();
  const queries = useQueryClient();
  const go = useNavigate();
  return useMutation({
    mutationFn: (items: readonly Item[]) => {
      // in the order in which they stood
      const chosen = new Set(items.map((i) => i.id));
      const inOrder = set.items.filter((i) => chosen.has(i.id));
      return makeSet(workspace?.id ?? '', `${set.title}, retake`, copiesFor(inOrder, set.language, view.id));
    },
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['sets'] });
      await go(`/sets/${made.id}/arrange`);
      toast.success(say('“{title}” is a set of its own. What stands in this one stays as it is.', { title: made.title }));
    },
    onError: (e) => toast.error(say('The retake was not made: {words}', { words: wordsOf(e) })),
  });
}
