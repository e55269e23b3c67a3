/** Who else has the open set open, and where; what they do is taken in as it happens. */
import { newId } from '@zakuska/core';
import { useEffect, useRef, useState } from 'react';
import { api, call, type Schemas } from '../api/client.js';
import { follow } from '../api/follow.js';
import { say } from '../words/say.js';

type Together = Schemas['TogetherView'];
export type PersonHere = Together['people'][number];
export type Place = PersonHere['place'];

/**
 * Others who have the set open, by name. A page that nobody looks at listens to nothing: it is not there, and browsers hold few streams.
 * @param heard is told the versions that the set and its draft have by now
 */
export function useTogether(set: string, place: Place, heard: (now: Pick<Together, 'version' | 'draftVersion'>) => void): readonly PersonHere[] {
  const [people, setPeople] = useState<readonly PersonHere[]>([]);
  const [tab] = useState(newId);
  const now = useRef({ place, heard });
  useEffect(() => {
    const moved = now.current.place !== place;
    now.current = { place, heard };
    if (moved && document.visibilityState === 'visible')
      void call(api.PUT('/api/v1/sets/{set}/together', { params: { path: { set } }, body: { tab, place } })).catch(() => undefined);
  }, [set, tab, place, heard]);
  useEffect(() => {
    let end: (() => void) | undefined;
    const told = ({ people: others, ...versions }: Together): void => {
      setPeople(others);
      now.current.heard(versions);
    };
    const listen = (): void => {
      end?.();
      end = undefined;
      if (document.visibilityState !== 'visible') return;
      end = follow<Together>(
        {
          events: `/api/v1/sets/${set}/together/events?${new URLSearchParams({ tab, place: now.current.place }).toString()}`,
          read: (data) => JSON.parse(data) as Together,
          ask: () => Promise.reject(new Error(say('nobody can be asked'))),
          isOpen: () => true,
        },
        told,
      );
    };
    listen();
    document.addEventListener('visibilitychange', listen);
    return () => {
      document.removeEventListener('visibilitychange', listen);
      end?.();
    };
  }, [set, tab]);
  return people;
}
