/** The five stages of a set, each fetched when it is first needed; the others in the meantime, so that going there takes no time. */
import { type ComponentType, lazy, useState } from 'react';

const fetched = {
  draft: () => import('./draft/DraftStage.js'),
  check: () => import('./check/CheckStage.js'),
  arrange: () => import('./arrange/ArrangeStage.js'),
  deliver: () => import('./deliver/DeliverStage.js'),
  results: () => import('./results/ResultsStage.js'),
};
type Name = keyof typeof fetched;
const here = new Map<Name, ComponentType>();
const get = async (name: Name): Promise<{ default: ComponentType }> => {
  const stage = await fetched[name]();
  here.set(name, stage.default);
  return stage;
};

/** A stage as a page. One that is here is drawn at once: a lazy one says "Opening" first, which React shows for 300 ms at least. */
export function stage(name: Name): ComponentType {
  const Later = lazy(() => get(name));
  return function Stage() {
    // the same for as long as it is shown
    const [Shown] = useState<ComponentType>(() => here.get(name) ?? Later);
    return <Shown />;
  };
}

/** Fetches all stages once the page has nothing else to do. @returns what calls it off */
export function fetchStages(): () => void {
  const fetchAll = (): void => {
    // without the line they are fetched when somebody goes there
    for (const name of Object.keys(fetched) as Name[]) void get(name).catch(() => undefined);
    // and what most people open next in Check
    void import('./edit/ItemEditor.js').catch(() => undefined);
  };
  if (!('requestIdleCallback' in window)) {
    const later = setTimeout(fetchAll, 2000);
    return () => clearTimeout(later);
  }
  const idle = requestIdleCallback(fetchAll, { timeout: 10_000 });
  return () => cancelIdleCallback(idle);
}
